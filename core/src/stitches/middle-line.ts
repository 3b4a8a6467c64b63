import { evenly, lengthOf } from '../geometry/polyline.js';
import { direction, distance, type Point, type Points } from '../geometry/vector.js';
import { fromMask, maskOfRings } from '../trace/area-mask.js';
import { skeletonOf } from '../trace/skeleton.js';
import { axisOf, spinesOf } from '../trace/spines.js';

const SCALE = 4;

/** The longest line through the middle of a shape, smoothed: what its rows follow where nobody drew a guide. */
export function middleLine(rings: readonly Points[], middle: Point): Points {
  const mask = maskOfRings(rings, SCALE);
  // Round holes the middle line winds, and rows cannot follow it: there the longer axis is all there is to follow.
  const spines = rings.length > 1 ? [] : spinesOf(skeletonOf(mask), mask).filter(({ points }) => points.length >= 4);
  const longest = spines.reduce<Points | undefined>((best, { points, closed }) => {
    const run = closed ? [...points, points[0], points[1]] : points;
    return !best || lengthOf(run) > lengthOf(best) ? run : best;
  }, undefined);
  const line = fromMask(mask, longest ?? axisOf(mask).points);
  const length = lengthOf(line);
  if (length < 1) {
    const { x, y } = direction(0);
    return [middle.x - x, middle.y - y, middle.x + x, middle.y + y];
  }
  const smooth = smoothed(evenly(line, length / 24));
  const n = smooth.length;
  return distance(smooth[0], smooth[1], smooth[n - 2], smooth[n - 1]) < length * 0.1 ? smooth.slice(0, n - 4) : smooth;
}

/** Three rounds of averaging over five points; the ends stay. */
function smoothed(points: Points): Points {
  let out = points;
  const n = points.length / 2;
  for (let round = 0; round < 3; round++) {
    const from = out;
    out = from.map((_, i) => {
      const k = i >> 1;
      const reach = Math.min(2, k, n - 1 - k);
      let sum = 0;
      for (let j = -reach; j <= reach; j++) sum += from[i + j * 2];
      return sum / (2 * reach + 1);
    });
  }
  return out;
}
