import { boundsOf, areaWithin, isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { seededRandom } from '../geometry/chance.js';
import { PATCH_FORMS, patchAround, type PatchForm } from './patch-form.js';

/** A heap of points around a place that is nobody's middle. */
function heap(seed: number, wide: number, high: number): Points {
  const random = seededRandom(seed);
  return Array.from({ length: 60 }, (_, i) => (i % 2 === 0 ? 12 + wide * random() : -30 + high * random()));
}

describe('patchAround', () => {
  for (const { id } of PATCH_FORMS) {
    it(`holds all of a design in a ${id}, and is no larger than it must be`, () => {
      for (const [seed, wide, high] of [
        [1, 60, 40],
        [2, 30, 90],
        [3, 50, 50],
      ]) {
        const design = heap(seed, wide, high);
        const ring = patchAround(id, [design]);
        // What lies on the edge may be taken for outside.
        const inside = design.filter((_, i) => i % 2 === 0).filter((x, k) => isInside([ring], x, design[k * 2 + 1]));
        expect(inside.length).toBeGreaterThanOrEqual(28);
        const { left, right, top, bottom } = boundsOf([ring]);
        const smaller = ring.map(
          (v, i) =>
            (i % 2 === 0 ? (left + right) / 2 : (top + bottom) / 2) +
            0.97 * (v - (i % 2 === 0 ? (left + right) / 2 : (top + bottom) / 2)),
        );
        const left97 = design
          .filter((_, i) => i % 2 === 0)
          .filter((x, k) => !isInside([smaller], x, design[k * 2 + 1]));
        expect(left97.length).toBeGreaterThan(0);
        if (id === 'round') expect((right - left) / (bottom - top)).toBeCloseTo(1, 2);
      }
    });
  }

  it('needs less room for a rectangle than for an oval around a rectangle', () => {
    const box: Points = [0, 0, 80, 0, 80, 50, 0, 50];
    const area = (form: PatchForm): number => Math.abs(areaWithin([patchAround(form, [box])]));
    expect(area('rectangle')).toBeLessThan(area('oval'));
    expect(area('rectangle')).toBeLessThan(80 * 50 * 1.25);
  });

  it('refuses a form nobody knows', () => {
    expect(() => patchAround('cloud' as PatchForm, [[0, 0, 1, 0, 1, 1]])).toThrowError(RangeError);
  });
});
