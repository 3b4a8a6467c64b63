import { distance, type Points } from '../geometry/vector.js';
import { reachAt, roundedRun, type Corner } from './rounded-run.js';

/** A run to the right and then down, with a point every tenth of a millimetre. */
function bend(first: number, second: number): { points: Points; corner: Corner } {
  const points: Points = [];
  for (let x = 0; x < first * 10; x++) points.push(x / 10, 0);
  const at = points.length / 2;
  for (let y = 0; y <= second * 10; y++) points.push(first, y / 10);
  return { points, corner: { at, inX: 1, inY: 0, outX: 0, outY: 1, cosine: 0 } };
}

describe('a run that turns around its corners', () => {
  it('follows an arc around a pivot on the inner side', () => {
    const { points, corner } = bend(10, 10);
    const made = roundedRun(points, false, [corner], 2);
    const [{ x, y, radius, reach }] = made.turnings;
    expect(x).toBeCloseTo(10 - radius, 6);
    expect(y).toBeCloseTo(radius, 6);
    // From the pivot the round outside lies as far as the corner does, and half the width more.
    expect(reach + radius).toBeCloseTo(radius * Math.SQRT2 + 2, 6);
    const near = made.points.flatMap((px, i) => (i % 2 === 0 ? [distance(px, made.points[i + 1], x, y)] : []));
    expect(Math.min(...near)).toBeCloseTo(radius, 6);
    for (let i = 2; i < made.points.length; i += 2) {
      const step = distance(made.points[i - 2], made.points[i - 1], made.points[i], made.points[i + 1]);
      expect(step).toBeLessThan(0.21);
    }
    const { points: turned } = made;
    expect(turned.slice(0, 2)).toEqual([0, 0]);
    expect(turned.slice(-2)).toEqual([10, 10]);
    expect(reachAt(made.turnings, 1, 0, 2)).toBe(2);
    expect(reachAt(made.turnings, x, y - radius, 2)).toBe(reach);
  });

  it('keeps a corner that has too little line beside it', () => {
    const { points, corner } = bend(10, 1);
    expect(roundedRun(points, false, [corner], 2)).toEqual({ points, turnings: [] });
  });
});
