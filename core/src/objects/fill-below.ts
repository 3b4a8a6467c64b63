import { rgbToLab } from '../colour/ciede2000.js';
import { fromHex } from '../colour/srgb.js';
import { curveThrough, placeCurve } from '../geometry/curve.js';
import { boundsOf, isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { placedFrame } from '../picture/frame.js';
import { maskCurve } from '../picture/mask.js';
import { curvePath } from '../pieces/drawn.js';
import type { ThreadChoice } from '../pieces/piece-ref.js';
import type { DesignObject, PictureObject, ShapeObject } from './design-object.js';
import { edgeOf, isHidden, objectFrame } from './frames.js';
import { newShape, rounded } from './shape-of-piece.js';

/** A shape covers a picture where it covers the picture's edge, drawn in by so much of its size: edges tremble. */
const DRAWN_IN = 0.02;

/** Colours of less of a picture are details. */
const LEAST_SHARE = 0.04;
/** A warm light colour, for pictures that have none of their own. */
const USUAL = '#e8c79a';

/**
 * A colour for a fill below: of those a picture has much of that whose lightness is farthest from the threads above, so that
 * they are seen on it.
 * @param colours of the picture, with their shares of it
 * @param above hex colours of the threads
 */
export function colourBelow(
  colours: readonly { readonly hex: string; readonly share: number }[],
  above: readonly string[],
): string {
  const lights = above.map(lightnessOf);
  const light = lights.reduce((sum, each) => sum + each, 0) / Math.max(1, lights.length);
  const apart = colours
    .filter(({ share }) => share >= LEAST_SHARE)
    .map(({ hex }) => ({ hex, by: Math.abs(lightnessOf(hex) - light) }));
  return apart.sort((a, b) => b.by - a.by).at(0)?.hex ?? USUAL;
}

const lightnessOf = (hex: string): number => rgbToLab(fromHex(hex)).l;

/**
 * A fill of all that is used of a picture, to be sewn below it; it moves with the picture.
 * @param id of the new shape
 */
export function fillBelow(
  objects: readonly DesignObject[],
  { id: on, picture }: PictureObject,
  id: string,
  paint: ThreadChoice,
): ShapeObject {
  const { toHoop, toFrame } = objectFrame(objects, on);
  const { left, top, right, bottom } = placedFrame(picture);
  const curve = picture.mask
    ? placeCurve(maskCurve(picture.mask), picture.xMm - (left + right) / 2, picture.yMm - (top + bottom) / 2, 1)
    : curveThrough(
        [toHoop(0, 0), toHoop(1, 0), toHoop(1, 1), toHoop(0, 1), toHoop(0, 0)].flatMap(({ x, y }) => [x, y]),
      );
  return { ...newShape(id, on, [rounded(curvePath(curve, true, toFrame))], paint), as: 'tatami' };
}

/** What all that is used of a picture lies on: the uppermost shape below it that covers it; undefined is the cloth. */
export function groundBelow(objects: readonly DesignObject[], picture: PictureObject): ShapeObject | undefined {
  const below = objects.slice(
    0,
    objects.findIndex(({ id }) => id === picture.id),
  );
  const edge = edgeOf(objects, picture.id)?.[0] ?? [];
  const { left, top, right, bottom } = boundsOf([edge]);
  const middle = [(left + right) / 2, (top + bottom) / 2];
  const inner = edge.map((v, i) => v + (middle[i % 2] - v) * DRAWN_IN);
  const covers = (rings: readonly Points[]): boolean => {
    for (let i = 0; i < inner.length; i += 2) if (!isInside(rings, inner[i], inner[i + 1])) return false;
    return rings.length > 0;
  };
  return below.findLast(
    (object): object is ShapeObject =>
      object.kind === 'shape' &&
      object.role === 'piece' &&
      object.copies.count === 1 &&
      object.paths.every(({ closed }) => closed) &&
      !isHidden(objects, object) &&
      covers(edgeOf(objects, object.id) ?? []),
  );
}
