import { packPart, type PrintedGrid } from '@open-kite/core';
import { writeChart } from './chart-pdf.js';

const full = (thread: number): number => packPart({ thread, part: 'full', corner: 0 });
const grid = (cols: number, rows: number, more: Partial<PrintedGrid> = {}): PrintedGrid => ({
  name: 'Quilt block, north hall',
  cols,
  rows,
  cellMm: 2.5,
  clothHex: '#f4f1ea',
  threads: [
    { code: 'SL-1', name: 'Kelp', hex: '#2f5d50', lengthM: 3.2 },
    { code: 'SL-2', name: 'Ember', hex: '#d8602a', lengthM: 1 },
  ],
  cells: [full(0), cols * rows - 1, packPart({ thread: 1, part: 'quarter', corner: 2 }), 1],
  backs: [0, 1, 4, 1],
  ...more,
});
const pages = (pdf: Buffer): number => (pdf.toString('latin1').match(/\/Type \/Page\b(?!s)/g) ?? []).length;

describe('a chart on paper', () => {
  it('has a page with the key and as many sheets as the grid needs', async () => {
    const small = await writeChart(grid(40, 40));
    expect(small.subarray(0, 5).toString()).toBe('%PDF-');
    expect(pages(small)).toBe(2);
    const large = await writeChart(grid(150, 200));
    expect(pages(large)).toBe(1 + 3 * 3);
  });

  it('is the same for the same grid, and goes on with a key that is long', async () => {
    expect(await writeChart(grid(20, 20))).toEqual(await writeChart(grid(20, 20)));
    const threads = Array.from({ length: 80 }, (_, i) => ({
      code: `C-${i}`,
      name: `Shade ${i}`,
      hex: '#204060',
      lengthM: i,
    }));
    const cells = threads.flatMap((_, i) => [full(i), 5]);
    const many = grid(20, 20, { threads, cells: [...cells], backs: threads.flatMap((_, i) => [i * 4, i]) });
    expect(pages(await writeChart(many))).toBe(4);
  });
});
