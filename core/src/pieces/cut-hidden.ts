import { subtract, unite } from '../geometry/polygons.js';
import { areaWithin, boundsOf, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { fromRings, type Area } from './area.js';

/** Less than this share of a shape is not worth cutting away. */
const LEAST_SHARE = 0.001;
/** More shapes over one than this are put together in one go. */
const MANY = 40;

/**
 * Cuts out of every area what lies below a higher one that is wide: thread under thread only adds bulk, but under what
 * is narrow the lower piece is sewn through, so that nothing opens there.
 */
export function cutHidden(areas: readonly Area[], isWide: (area: Area) => boolean): Area[] {
  if (areas.every(({ layer }) => layer === areas[0].layer)) return areas.slice();
  const boxes = areas.map(({ rings }) => boundsOf(rings));
  const wide = areas.map(isWide);
  return areas.flatMap((area, i): Area[] => {
    if (area.cut === false) return [area];
    const over = areas.filter(
      (other, j) => other.layer > area.layer && meet(boxes[i], boxes[j]) && (wide[j] || area.cut === true),
    );
    const above = together(over);
    if (above.length === 0) return [area];
    const rest = subtract(area.rings, above).filter((ring) => ring.length >= 6);
    const before = areaWithin(area.rings);
    if (rest.length === 0) return [];
    if (before - areaWithin(rest) < before * LEAST_SHARE) return [area];
    return [{ ...area, ...fromRings(rest), face: undefined, line: undefined }];
  });
}

/** All that lies over a piece: one after the other, or all at once where that would take long. */
function together(areas: readonly Area[]): readonly Points[] {
  if (areas.length > MANY) {
    return unite(
      areas.flatMap(({ rings }) => rings),
      [],
    );
  }
  return areas.reduce<readonly Points[]>((above, { rings }) => (above.length === 0 ? rings : unite(above, rings)), []);
}

const meet = (a: Bounds, b: Bounds): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
