import { cellGrid, packCell } from '../cross/grid.js';
import type { GridEdit, GridEdits } from '../cross/grid-edits.js';
import { gridEditsSchema } from './grid-edits-schema.js';

describe('changes of a grid that are read', () => {
  const grid = cellGrid({ left: 0, top: 0, width: 50, height: 40 }, 2.5);
  const { cols, rows, cellMm } = grid;
  const whole = (thread: number): number => packCell([{ thread, part: 'full', corner: 0 }]);
  const edits = (list: readonly GridEdit[]): GridEdits => ({
    cols,
    rows,
    cellMm,
    threads: [{ hex: '#203040' }, { chart: 'lantern', code: '12' }],
    edits: list,
  });
  const good = edits([{ cells: [{ put: whole(0), runs: [0, 2] }], backs: [{ thread: -1, steps: [0] }] }]);
  const check = (value: unknown): unknown => gridEditsSchema.validateSync(value, { strict: true });

  it('are taken as they are; none is null', () => {
    expect<unknown>(check(good)).toEqual(good);
    expect(check(null)).toBeNull();
  });

  it('are refused where they are not as they must be, with what is wrong', () => {
    const bad: [unknown, RegExp][] = [
      [{ ...good, cols: 0 }, /columns must be at least 1/],
      [{ ...good, cols: 401 }, /columns must be at most 400/],
      [{ ...good, rows: 2.5 }, /whole number/],
      [{ ...good, extra: 1 }, /not known: extra/],
      [{ ...good, threads: ['#203040', '#203040'] }, /thread is not as it must be/],
      [edits([{ cells: [{ put: whole(7), runs: [0, 2] }], backs: [] }]), /a cell of the threads named/],
      [edits([{ cells: [{ put: whole(0), runs: [cols * rows - 1, 2] }], backs: [] }]), /within the grid/],
      [edits([{ cells: [{ put: whole(0), runs: [0] }], backs: [] }]), /pairs/],
      [edits([{ cells: [], backs: [{ thread: 2, steps: [0] }] }]), /thread must be at most 1/],
      [edits([{ cells: [], backs: [{ thread: 0, steps: [1e9] }] }]), /half-cell lattice/],
      [{ ...good, edits: [{ cells: [] }] }, /backs/],
      [{ ...good, edits: 'x' }, /array/],
      [[], /object|columns/],
      [undefined, /./],
    ];
    for (const [value, message] of bad) expect(() => check(value)).toThrowError(message);
  });

  it('have so many numbers at most', () => {
    const runs = Array.from({ length: 1_500_002 }, (_, i) => (i % 2 === 0 ? 0 : 1));
    expect(() => check(edits([{ cells: [{ put: whole(0), runs }], backs: [] }]))).toThrowError(/1500000 numbers/);
  });
});
