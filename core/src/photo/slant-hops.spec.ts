import { distance } from '../geometry/vector.js';
import { slantHops } from './slant-hops.js';

const lengths = (points: readonly number[]): number[] =>
  Array.from({ length: points.length / 2 - 1 }, (_, i) =>
    distance(points[i * 2], points[i * 2 + 1], points[i * 2 + 2], points[i * 2 + 3]),
  );

describe('short stitches from row to row', () => {
  it('are slanted where the needle turns back, and the rows together end where they did', () => {
    const points = [0, 0, 4, 0, 4, 0.4, 0, 0.4, 0, 0.8, 4, 0.8];
    slantHops(points, 0.5);
    expect(Math.min(...lengths(points))).toBeCloseTo(0.5, 5);
    expect((points[2] + points[4]) / 2).toBeCloseTo(4, 5);
    expect((points[6] + points[8]) / 2).toBeCloseTo(0, 5);
    // Along their rows alone.
    expect(points.filter((_, i) => i % 2 === 1)).toEqual([0, 0, 0.4, 0.4, 0.8, 0.8]);
  });

  it('take the shorter of the two ways to become long enough', () => {
    // The next row begins a little further out already.
    const points = [0, 0, 4, 0, 4.2, 0.4, 0, 0.4];
    slantHops(points, 0.5);
    expect(distance(points[2], points[3], points[4], points[5])).toBeCloseTo(0.5, 5);
    expect(points[4] - points[2]).toBeCloseTo(0.3, 5);
  });

  it('are slanted where rows go on the same way as well', () => {
    const points = [0, 0, 4, 0, 4.1, 0.4, 8, 0.4];
    slantHops(points, 0.5);
    expect(distance(points[2], points[3], points[4], points[5])).toBeCloseTo(0.5, 5);
    expect(points[2]).toBeLessThan(4);
    expect(points[4]).toBeGreaterThan(4.1);
  });

  it('leave rows that are short themselves, long stitches, and the ends of a run', () => {
    const short = [0, 0, 0.5, 0, 0.5, 0.4, 0, 0.4];
    const before = [...short];
    slantHops(short, 0.5);
    expect(short).toEqual(before);
    const long = [0, 0, 4, 0, 4, 0.6, 0, 0.6];
    slantHops(long, 0.5);
    expect(long).toEqual([0, 0, 4, 0, 4, 0.6, 0, 0.6]);
    const ends = [0, 0, 0, 0.4, 4, 0.4, 4, 0.8];
    slantHops(ends, 0.5);
    expect([ends[0], ends[1], ends[6], ends[7]]).toEqual([0, 0, 4, 0.8]);
  });

  it('are moved no farther than a thread is wide', () => {
    const points = [0, 0, 4, 0, 4, 0.1, 0, 0.1];
    slantHops(points, 2);
    expect(points[2]).toBeCloseTo(4.3, 5);
    expect(points[4]).toBeCloseTo(3.7, 5);
  });
});
