import { distance } from '../../geometry/vector.js';
import { linkRows, type Stretch } from './link-rows.js';
import type { RowLine } from './row-lines.js';
import { bareRow } from './wide-row.js';

const PLACES = 101;

/** A level row 20 mm long, so high up, and so wide at each of its places. */
function stretch(y: number, widthAt: (x: number) => number, from = 0, to = PLACES - 1): Stretch {
  const fill = (value: number): Float32Array => new Float32Array(PLACES).fill(value);
  const line: RowLine = {
    x: Float32Array.from({ length: PLACES }, (_, i) => i * 0.2),
    y: fill(y),
    acrossX: fill(0),
    acrossY: fill(-1),
    gapMm: fill(1.2),
  };
  const row = bareRow(line);
  row.sewn.fill(1);
  for (let i = 0; i < PLACES; i++) row.up[i] = row.down[i] = widthAt(i * 0.2);
  return { row, from, to };
}

const places = (points: readonly number[]): [number, number][] =>
  Array.from({ length: points.length / 2 }, (_, i) => [points[i * 2], points[i * 2 + 1]]);

describe('links between rows', () => {
  it('go back to where the rows meet, and out along the next one', () => {
    // Thin at the right end, wide from 3 mm before it on.
    const wide = (x: number): number => (x > 17 ? 0.05 : 0.6);
    const points = places(linkRows(stretch(0, wide), 1, stretch(1.2, wide), 1));
    expect(points.length).toBeGreaterThan(1);
    const across = points.findIndex(([, y], i) => i > 0 && y > 0.6 && points[i - 1][1] < 0.6);
    expect(across).toBeGreaterThan(0);
    // Across where both are wide, no farther in than that.
    expect(points[across][0]).toBeLessThanOrEqual(17.01);
    expect(points[across][0]).toBeGreaterThan(16);
    // The ends have needle points of their own.
    for (const [x] of points) expect(x).toBeLessThan(19.9);
  });

  it('are straight where rows are as wide at their ends, and where nothing is gained within reach', () => {
    expect(
      linkRows(
        stretch(0, () => 0.6),
        1,
        stretch(1.2, () => 0.6),
        1,
      ),
    ).toEqual([]);
    expect(
      linkRows(
        stretch(0, () => 0.05),
        1,
        stretch(1.2, () => 0.05),
        1,
      ),
    ).toEqual([]);
    const far = (x: number): number => (x > 10 ? 0.05 : 0.6);
    expect(linkRows(stretch(0, far), 1, stretch(1.2, far), 1)).toEqual([]);
  });

  it('lead from a short row into a long one, in either direction, in stitches of three millimetres', () => {
    const wide = (x: number): number => (x < 4 ? 0.05 : 0.6);
    const points = places(linkRows(stretch(0, wide, 12), 0, stretch(1.2, wide), 0));
    expect(points.length).toBeGreaterThan(2);
    for (let i = 1; i < points.length; i++) {
      expect(distance(...points[i - 1], ...points[i])).toBeLessThan(3.2);
    }
    expect(points[points.length - 1][1]).toBeCloseTo(1.2, 5);
  });
});
