import { distanceToSegment } from '../geometry/polyline.js';
import { endsOfStep, latticeStride } from './back-stitch.js';
import { flatCrosses, type ThreadPixels } from './cells.js';
import { cellGrid, packCells } from './grid.js';
import { countThreads } from './grid-chart.js';
import { smallLetters } from './legible.js';
import { strongEdges } from './strong-edges.js';
import { CHART_SYMBOLS } from './symbols.js';
import { thinLines } from './thin-lines.js';

const SIDE = 400;
const grid = cellGrid({ left: -50, top: -50, width: 100, height: 100 }, 2.5);

/** A picture of threads from a rule, in pixels. */
function pixels(threadAt: (x: number, y: number) => number): ThreadPixels {
  const thread = new Int16Array(SIDE * SIDE);
  for (let i = 0; i < thread.length; i++) thread[i] = threadAt((i % SIDE) + 0.5, Math.floor(i / SIDE) + 0.5);
  return { width: SIDE, height: SIDE, thread, left: -50, top: -50, pixelMm: 100 / SIDE };
}

describe('thin lines', () => {
  it('become back stitches near their middles, and leave the cells to what lies beside', () => {
    // A slanted line 6 pixels wide: 0.6 of a cell.
    const [x0, y0, x1, y1] = [60, 80, 330, 240];
    const drawn = pixels((x, y) => (distanceToSegment(x, y, x0, y0, x1, y1) < 3 ? 1 : 0));
    const { backs, without } = thinLines(grid, drawn);
    expect(backs.size).toBeGreaterThan(40);
    for (const [step, thread] of backs) {
      expect(thread).toBe(1);
      const [ax, ay, bx, by] = endsOfStep(latticeStride(grid), step).map((v) => v * 5);
      expect(distanceToSegment((ax + bx) / 2, (ay + by) / 2, x0, y0, x1, y1)).toBeLessThan(4);
    }
    expect(without.thread.every((thread) => thread === 0)).toBeTrue();
    expect(drawn.thread.some((thread) => thread === 1)).toBeTrue();
  });

  it('are not found in areas, nor in dots', () => {
    const disc = pixels((x, y) => (Math.hypot(x - 200, y - 200) < 80 || Math.hypot(x - 40, y - 40) < 5 ? 1 : 0));
    expect(thinLines(grid, disc).backs.size).toBe(0);
  });

  it('may run into an area of their thread', () => {
    const lolly = pixels((x, y) =>
      Math.hypot(x - 200, y - 120) < 50 || (Math.abs(x - 200) < 3 && y > 120 && y < 350) ? 1 : 0,
    );
    const { backs, without } = thinLines(grid, lolly);
    expect(backs.size).toBeGreaterThan(30);
    expect(without.thread[120 * SIDE + 200]).toBe(1);
    expect(without.thread[300 * SIDE + 200]).toBe(0);
  });
});

describe('strong edges', () => {
  const slanted = pixels((x, y) => (x < 0 ? -1 : y > x ? 0 : 1));
  const cells = packCells(grid, flatCrosses(grid, slanted, true, 2));

  it('are back stitched along part crosses, with the darker thread', () => {
    const backs = strongEdges(grid, cells, 40, (a, b) => (a < 0 || b < 0 ? 0 : 80), [20, 70]);
    expect([...backs.values()].every((thread) => thread === 0)).toBeTrue();
    expect(backs.size).toBeGreaterThanOrEqual(70);
    const diagonal = [...backs.keys()].filter((step) => step % 4 === 1);
    expect(diagonal.length).toBeGreaterThan(60);
  });

  it('need a difference', () => {
    expect(strongEdges(grid, cells, 40, () => 39, [20, 70]).size).toBe(0);
  });
});

describe('small letters', () => {
  const word = (height: number): ThreadPixels =>
    pixels((x, y) => {
      const k = Math.floor((x - 100) / (height * 0.9));
      const u = (x - 100 - k * height * 0.9) / height;
      const v = (y - 200) / height;
      if (k < 0 || k > 4 || v < 0 || v > 1 || u > 0.7) return 0;
      // A ring with a bar: an invented letter.
      return u < 0.18 || u > 0.52 || v < 0.2 || v > 0.8 ? 1 : 0;
    });

  it('are told where cells are too large, with the size that would do', () => {
    const [found, ...others] = smallLetters(word(24), 2.5);
    expect(others).toEqual([]);
    expect(found.letters).toBe(5);
    expect(found.heightMm).toBeCloseTo(6, 0);
    expect(found.cellMm).toBeCloseTo(0.8, 1);
  });

  it('are no matter where they can be read, and single marks are no letters', () => {
    expect(smallLetters(word(24), 0.8)).toEqual([]);
    expect(
      smallLetters(
        pixels((x, y) => (Math.hypot(x - 100, y - 100) < 9 ? 1 : 0)),
        2.5,
      ),
    ).toEqual([]);
  });
});

describe('a chart', () => {
  it('counts cells, parts and back stitches by thread', () => {
    const slanted = pixels((x, y) => (y > x ? 0 : 1));
    const cells = packCells(grid, flatCrosses(grid, slanted, true, 2));
    const [a, b] = countThreads(
      grid,
      cells,
      new Map([
        [0, 1],
        [1, 1],
      ]),
      3,
    );
    expect(a.cells + b.cells + Math.max(a.parts, b.parts)).toBe(1600);
    expect(b.backStitchMm).toBeCloseTo(1.25 + 1.25 * Math.SQRT2, 6);
  });

  it('has a mark of its own for every thread a design may have', () => {
    expect(new Set(CHART_SYMBOLS.map(({ path, filled }) => `${path} ${filled}`)).size).toBe(CHART_SYMBOLS.length);
    expect(CHART_SYMBOLS.length).toBeGreaterThanOrEqual(60);
  });
});
