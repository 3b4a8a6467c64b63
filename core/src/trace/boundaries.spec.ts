import { flattenRing } from '../geometry/curve.js';
import { isInside } from '../geometry/polyline.js';
import { seededRandom } from '../geometry/chance.js';
import { findBoundaries } from './boundaries.js';
import { assembleFaces } from './faces.js';

/** Label maps by chance, from coarse patches down to single pixels. */
function chanceMap(seed: number, size: number, labels: number, patch: number): Uint8Array {
  const random = seededRandom(seed);
  const cells = Math.ceil(size / patch);
  const values = Uint8Array.from({ length: cells * cells }, () => Math.floor(random() * (labels + 1)));
  return Uint8Array.from(
    { length: size * size },
    (_, i) => values[Math.floor(Math.floor(i / size) / patch) * cells + Math.floor((i % size) / patch)],
  );
}

/** Straight outlines through the very corners of the arcs, without smoothing or fitting. */
function rawCurves(bounds: ReturnType<typeof findBoundaries>): { points: number[]; kinds: 'L'[] }[] {
  return bounds.arcs.map((arc) => {
    const corners = arc.closed ? [...arc.corners, arc.corners[0]] : [...arc.corners];
    const points = corners.flatMap((c) => [(c % bounds.stride) - 1, Math.floor(c / bounds.stride) - 1]);
    return { points, kinds: corners.slice(1).map(() => 'L' as const) };
  });
}

describe('findBoundaries', () => {
  for (const [labels, patch] of [
    [1, 1],
    [2, 1],
    [3, 1],
    [4, 3],
    [6, 5],
  ] as const) {
    it(`gives every pixel back to its own area (${labels} labels, patches of ${patch})`, () => {
      const size = 24;
      for (let seed = 1; seed <= 6; seed++) {
        const map = chanceMap(seed * 31 + labels, size, labels, patch);
        const bounds = findBoundaries(map, size, size);
        const faces = assembleFaces(bounds, rawCurves(bounds)).map((face) => ({
          label: face.label,
          rings: face.rings.map((ring) => flattenRing(ring, 0.1)),
        }));
        for (let i = 0; i < map.length; i++) {
          const hits = faces.filter(({ rings }) => isInside(rings, (i % size) + 0.5, Math.floor(i / size) + 0.5));
          expect(hits.map((h) => h.label))
            .withContext(`seed ${seed}, pixel ${i}`)
            .toEqual(map[i] === 0 ? [] : [map[i]]);
        }
      }
    });
  }

  it('walks every boundary once', () => {
    const map = chanceMap(5, 30, 3, 4);
    const bounds = findBoundaries(map, 30, 30);
    let cracks = 0;
    for (let y = 1; y < bounds.height; y++) {
      for (let x = 1; x < bounds.width; x++) {
        const i = y * bounds.width + x;
        if (bounds.labels[i] !== bounds.labels[i - 1]) cracks++;
        if (bounds.labels[i] !== bounds.labels[i - bounds.width]) cracks++;
      }
    }
    const walked = bounds.arcs.reduce((sum, arc) => sum + arc.corners.length - (arc.closed ? 0 : 1), 0);
    expect(walked).toBe(cracks);
  });

  it('lets neighbours use the same arc', () => {
    const map = Uint8Array.from({ length: 100 }, (_, i) => (i % 10 < 5 ? 1 : 2));
    const bounds = findBoundaries(map, 10, 10);
    const inner = bounds.arcs.filter(
      (arc) => bounds.components.label[arc.left] > 0 && bounds.components.label[arc.right] > 0,
    );
    expect(inner.length).toBe(1);
    expect(inner[0].corners.length).toBe(11);
  });
});
