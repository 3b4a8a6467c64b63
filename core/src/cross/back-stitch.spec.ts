import { distance } from '../geometry/vector.js';
import {
  endsOfStep,
  isStep,
  latticeStride,
  sewBackStitches,
  snapLine,
  stepBetween,
  stepsOfLine,
} from './back-stitch.js';
import { cellGrid } from './grid.js';

const grid = cellGrid({ left: 0, top: 0, width: 25, height: 25 }, 2.5);
const stride = latticeStride(grid);

describe('steps of the half-cell lattice', () => {
  it('have one name whichever way they are walked, and lead back to their ends', () => {
    for (const [dx, dy] of [
      [1, 0],
      [1, 1],
      [0, 1],
      [-1, 1],
    ]) {
      const step = stepBetween(stride, 5, 5, 5 + dx, 5 + dy) as number;
      expect(stepBetween(stride, 5 + dx, 5 + dy, 5, 5)).toBe(step);
      expect(endsOfStep(stride, step)).toEqual([5, 5, 5 + dx, 5 + dy]);
    }
    expect(stepBetween(stride, 5, 5, 7, 5)).toBeUndefined();
  });

  it('are refused outside the grid', () => {
    expect(isStep(grid, stepBetween(stride, 19, 20, 20, 20) as number)).toBeTrue();
    expect(isStep(grid, (20 * stride + 20) * 4)).toBeFalse();
    expect(isStep(grid, (3 * stride + 0) * 4 + 3)).toBeFalse();
    expect(isStep(grid, -1)).toBeFalse();
    expect(isStep(grid, 1.5)).toBeFalse();
  });

  it('make up lines along the grid and diagonals, and no others', () => {
    expect(stepsOfLine(stride, 2, 2, 8, 2).length).toBe(6);
    expect(stepsOfLine(stride, 8, 8, 2, 2).length).toBe(6);
    expect(stepsOfLine(stride, 2, 2, 8, 4)).toEqual([]);
    expect(snapLine(2, 2, 9, 3)).toEqual([9, 2]);
    expect(snapLine(2, 2, 3, 9)).toEqual([2, 9]);
    expect(snapLine(2, 2, 7, -4)).toEqual([8, -4]);
  });
});

describe('back stitches', () => {
  it('are sewn there and back in one go where they hang together', () => {
    const steps = [...stepsOfLine(stride, 0, 4, 12, 4), ...stepsOfLine(stride, 6, 4, 10, 8)];
    const runs = sewBackStitches(grid, steps);
    expect(runs.length).toBe(1);
    const [run] = runs;
    const n = run.length;
    expect(run.slice(0, 2)).toEqual(run.slice(n - 2));
    let length = 0;
    let longest = 0;
    for (let i = 2; i < n; i += 2) {
      const step = distance(run[i - 2], run[i - 1], run[i], run[i + 1]);
      length += step;
      longest = Math.max(longest, step);
    }
    // Twelve half cells straight and four along a diagonal, twice.
    expect(length).toBeCloseTo(2 * (12 * 1.25 + 4 * 1.25 * Math.SQRT2), 6);
    expect(longest).toBeLessThan(2.5 * Math.SQRT2 + 1e-6);
  });

  it('that do not touch are runs of their own', () => {
    const steps = [...stepsOfLine(stride, 0, 0, 4, 0), ...stepsOfLine(stride, 0, 8, 4, 8)];
    expect(sewBackStitches(grid, steps).length).toBe(2);
  });

  it('go round rings once each way', () => {
    const ring = [
      ...stepsOfLine(stride, 2, 2, 6, 2),
      ...stepsOfLine(stride, 6, 2, 6, 6),
      ...stepsOfLine(stride, 6, 6, 2, 6),
      ...stepsOfLine(stride, 2, 6, 2, 2),
    ];
    const [run] = sewBackStitches(grid, ring);
    let length = 0;
    for (let i = 2; i < run.length; i += 2) length += distance(run[i - 2], run[i - 1], run[i], run[i + 1]);
    expect(length).toBeCloseTo(2 * 16 * 1.25, 6);
  });
});
