import { closeHoles } from './close-holes.js';
import type { EndedRun } from './route-thread.js';

/** A grid of cells 0.4 mm wide, drawn: `o` is a hole. */
function cellsOf(drawn: readonly string[]): { lattice: Parameters<typeof closeHoles>[0]; holes: Uint8Array } {
  const cols = drawn[0].length;
  const count = cols * drawn.length;
  return {
    lattice: {
      cols,
      rows: drawn.length,
      x: Float32Array.from({ length: count }, (_, i) => (i % cols) * 0.4),
      y: Float32Array.from({ length: count }, (_, i) => Math.floor(i / cols) * 0.4),
    },
    holes: Uint8Array.from(drawn.join(''), (c) => (c === 'o' ? 1 : 0)),
  };
}

/** One row sewn from cell to cell, to the right. */
const row = (from: number, to: number): EndedRun => ({
  points: [from * 0.4, 0, to * 0.4, 0],
  ends: [
    { cell: from, side: -1, point: 0 },
    { cell: to, side: 1, point: 1 },
  ],
});

describe('specks of bare cloth', () => {
  it('are closed by the row that ends beside them: a small one by a later end', () => {
    const { lattice, holes } = cellsOf(['....oo..']);
    const run = row(0, 3);
    expect(closeHoles(lattice, holes, [run], () => 1)).toBe(2);
    expect(run.points.length).toBe(4);
    expect(run.points[2]).toBeCloseTo(5 * 0.4 + 0.2, 5);
  });

  it('are closed by a way there and back where they are wider, the rest of the run staying where it is', () => {
    const { lattice, holes } = cellsOf(['....ooooo', '.........']);
    const run = { ...row(0, 3), points: [0, 0, 1.2, 0, 1.2, 0.4, 0, 0.4] };
    expect(closeHoles(lattice, holes, [run], () => 1)).toBe(5);
    expect(run.points.length).toBe(12);
    expect(run.points[4]).toBeCloseTo(8 * 0.4 + 0.2, 5);
    expect(run.points.slice(6)).toEqual([1.2, 0, 1.2, 0.4, 0, 0.4]);
  });

  it('take the thread that is nearer to what was to be seen there', () => {
    const { lattice, holes } = cellsOf(['....o....']);
    const [left, right] = [row(0, 3), row(5, 8)];
    closeHoles(lattice, holes, [left, right], (run) => (run === 1 ? 1 : 2));
    expect(left.points).toEqual(row(0, 3).points);
    expect(right.points[0]).toBeCloseTo(4 * 0.4 - 0.2, 5);
  });

  it('are closed from a row above or below where none ends beside them', () => {
    const { lattice, holes } = cellsOf(['....', '.oo.']);
    const run = row(0, 1);
    expect(closeHoles(lattice, holes, [run], () => 1)).toBe(2);
    // There over the whole hole, and back to where the row ended.
    expect(run.points.filter((_, i) => i % 2 === 1).some((y) => Math.abs(y - 0.4) < 1e-6)).toBeTrue();
    const xs = run.points.filter((_, i) => i % 2 === 0);
    expect(Math.max(...xs)).toBeCloseTo(2 * 0.4 + 0.2, 5);
    expect(run.points.length).toBe(10);
  });

  it('stay where every thread beside them would be seen more than the cloth', () => {
    const { lattice, holes } = cellsOf(['....oo..']);
    const run = row(0, 3);
    expect(closeHoles(lattice, holes, [run], () => 20 ** 2)).toBe(0);
    expect(run.points).toEqual(row(0, 3).points);
  });

  it('stay where no row ends beside them, and where they are no specks', () => {
    const lone = cellsOf(['...o....']);
    expect(closeHoles(lone.lattice, lone.holes, [row(5, 7)], () => 1)).toBe(0);
    const wide = cellsOf([`....${'o'.repeat(20)}`]);
    expect(closeHoles(wide.lattice, wide.holes, [row(0, 3)], () => 1)).toBe(0);
  });
});
