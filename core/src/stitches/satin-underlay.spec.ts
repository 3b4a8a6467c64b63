import type { Points } from '../geometry/vector.js';
import { satinUnderlay } from './satin-underlay.js';

/** A column 3 mm wide along the x axis, tapering to nothing over its last 3 mm. */
const tapering = (): Points[] =>
  Array.from({ length: 121 }, (_, i): Points => {
    const x = i * 0.1;
    const half = x <= 9 ? 1.5 : (1.5 * (12 - x)) / 3;
    return [x, -half, x, half];
  });
const EDGE = { underlay: 'edge', runStitchMm: 2.5 } as const;
const xOf = (run: Points): Points => run.filter((_, i) => i % 2 === 0);

describe('satinUnderlay', () => {
  it('runs back along one edge and out along the other, half a millimetre inside', () => {
    const runs = satinUnderlay(tapering().slice(0, 80), EDGE);
    expect(runs.map((run) => run[1])).toEqual([-1, 1]);
    expect(runs[0][0]).toBeCloseTo(7.9, 5);
    expect(runs[1][0]).toBe(0);
    expect(satinUnderlay(tapering(), { ...EDGE, underlay: 'centre' })).toEqual([]);
  });

  it('ends before a tip', () => {
    for (const underlay of ['edge', 'both'] as const) {
      for (const run of satinUnderlay(tapering(), { ...EDGE, underlay })) {
        // Rungs are 1.6 mm long there.
        expect(Math.max(...xOf(run))).toBeLessThan(10.5);
        expect(Math.max(...xOf(run))).toBeGreaterThan(8);
      }
    }
    const narrow = tapering().slice(-10);
    expect(satinUnderlay(narrow, EDGE)).toEqual([[], []]);
  });

  it('does not follow an edge where it is a seam with another column of the shape', () => {
    // From 3.3 to 5.9 mm rungs go on by 0.6 mm, into the foot of another column.
    const rungs = tapering()
      .slice(0, 91)
      .map(([x, a, , b]): Points => [x, a, x, x > 3.25 && x < 5.95 ? b + 0.6 : b]);
    const isInside = (x: number, y: number): boolean => Math.abs(y) < 1.5 || (y > 0 && x > 3.25 && x < 5.95);
    const farthest = (run: Points): number => Math.max(...run.filter((_, i) => i % 2 === 1));
    const [, along] = satinUnderlay(rungs, { ...EDGE, isInside });
    expect(farthest(along)).toBeCloseTo(1, 5);
    const [, followed] = satinUnderlay(rungs, EDGE);
    expect(farthest(followed)).toBeCloseTo(1.6, 5);
  });
});
