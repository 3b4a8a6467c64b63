import { areaOf, common, thicken, unite } from '../geometry/polygons.js';
import { distanceToRings, isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { cornerParts, cornersAlong } from './corner-parts.js';

const star = (points: number, outer: number, inner: number): Points => {
  const out: Points = [];
  for (let i = 0; i <= points * 2; i++) {
    const turn = ((i % (points * 2)) / points) * Math.PI;
    const r = i % 2 === 0 ? outer : inner;
    out.push(30 + r * Math.sin(turn), 30 - r * Math.cos(turn));
  }
  // Its last point is exactly its first.
  out.splice(-2, 2, out[0], out[1]);
  return out;
};
const circle: Points = Array.from({ length: 81 }, (_, i) => ((i % 80) / 40) * Math.PI).flatMap((turn) => [
  9 * Math.cos(turn),
  9 * Math.sin(turn),
]);

describe('cornerParts', () => {
  for (const size of [30, 50]) {
    it(`keep the form of a star of ${size * 2} mm: its parts meet at the corners, and none lies on another`, () => {
      const run = star(5, size, size * 0.45);
      const rings = thicken([run.slice(0, -2)], 2.4, true, { cap: 'butt', join: 'miter', miterLimit: 4 });
      const parts = cornerParts(run, 2.4, rings);
      expect(parts.length).toBe(10);
      const whole = areaOf(rings);
      const together = parts.reduce<readonly Points[]>((sum, part) => unite(sum, part.rings), []);
      expect(areaOf(together) / whole).toBeGreaterThan(0.995);
      const shared = parts.flatMap((a, i) => parts.slice(i + 1).map((b) => areaOf(common(a.rings, b.rings))));
      expect(shared.reduce((a, b) => a + b, 0)).toBeLessThan(0.01 * whole);
      for (const { run: own, rings: outline } of parts) {
        for (const at of [0, own.length - 2]) {
          const gap = isInside(outline, own[at], own[at + 1]) ? 0 : distanceToRings(outline, own[at], own[at + 1]);
          expect(gap).toBeLessThan(0.05);
        }
      }
    });
  }

  it('part an open line at its corner, with its own ends as they are', () => {
    const run = [0, 0, 20, 0, 20, 15];
    const parts = cornerParts(run, 2, thicken([run], 2, false, { cap: 'round', join: 'miter', miterLimit: 4 }));
    expect(parts.map((part) => part.run)).toEqual([
      [0, 0, 20, 0],
      [20, 0, 20, 15],
    ]);
    expect(parts.map(({ rings }) => Math.round(areaOf(rings)))).toEqual([40, 30]);
  });

  it('find no corner in a circle, and one in a drop', () => {
    expect(cornersAlong(circle)).toEqual([]);
    expect(cornerParts(circle, 2, [])).toEqual([]);
    expect(cornersAlong([...circle.slice(0, 120), -9, -30, circle[0], circle[1]]).length).toBeGreaterThan(0);
  });
});
