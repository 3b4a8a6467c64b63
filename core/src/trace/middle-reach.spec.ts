import type { Points } from '../geometry/vector.js';
import { middleReach } from './middle-reach.js';

/** A closed rectangle with points a fifth of a millimetre apart. */
function box(left: number, top: number, width: number, height: number): Points {
  const corners: [number, number][] = [
    [left, top],
    [left + width, top],
    [left + width, top + height],
    [left, top + height],
  ];
  return corners.flatMap(([x, y], i) => {
    const [toX, toY] = corners[(i + 1) % 4];
    const parts = Math.round(Math.hypot(toX - x, toY - y) / 0.2);
    return Array.from({ length: parts }, (_, k) => [x + ((toX - x) * k) / parts, y + ((toY - y) * k) / parts]).flat();
  });
}

const circle = (radius: number): Points =>
  Array.from({ length: 400 }, (_, i) => radius * (i % 2 === 0 ? Math.cos : Math.sin)(((i >> 1) / 200) * 2 * Math.PI));

describe('middleReach', () => {
  it('ends halfway between two sides, and nowhere where nothing is near', () => {
    const reach = middleReach([box(0, 0, 30, 4)], 3);
    expect(reach?.(15, 0, 0, 1)).toBeCloseTo(2, 1);
    expect(reach?.(15, 0, 0, -1)).toBe(Infinity);
    // Near a corner the other side of the corner is nearest.
    expect(Math.abs((reach?.(1, 0, 0, 1) ?? 0) - 1)).toBeLessThan(0.1);
    expect(middleReach([box(0, 0, 30, 8)], 3)?.(15, 0, 0, 1)).toBe(Infinity);
  });

  it('ends in the middle of a narrow turn', () => {
    const reach = middleReach([circle(2)], 3);
    for (const angle of [0, 1, 2.5]) {
      const [x, y] = [Math.cos(angle), Math.sin(angle)];
      expect(reach?.(2 * x, 2 * y, -x, -y)).toBeCloseTo(2, 1);
      expect(reach?.(2 * x, 2 * y, x, y)).toBe(Infinity);
    }
  });

  it('ends halfway to another line', () => {
    const reach = middleReach([box(0, 0, 10, 20), box(13, 0, 10, 20)], 3);
    expect(reach?.(10, 10, 1, 0)).toBeCloseTo(1.5, 1);
  });

  it('knows no middle of lines that cross themselves or each other', () => {
    const eight: Points = Array.from({ length: 400 }, (_, i) => {
      const t = ((i >> 1) / 200) * 2 * Math.PI + 0.01;
      return i % 2 === 0 ? 10 * Math.sin(t) : 5 * Math.sin(2 * t);
    });
    expect(middleReach([eight], 2)).toBeUndefined();
    expect(middleReach([box(0, 0, 10, 10), box(5.05, 5.05, 10, 10)], 2)).toBeUndefined();
    expect(middleReach([box(0, 0, 10, 10), box(2, 2, 6, 6)], 2)).toBeDefined();
  });
});
