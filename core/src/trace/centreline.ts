import { distance, type Points } from '../geometry/vector.js';
import { lengthOf, simplify } from '../geometry/polyline.js';
import { deepest, fromMask, isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { degreesOf, skeletonOf, type Skeleton } from './skeleton.js';

/** Centre lines of an area: runs that meet exactly at shared end points, and the mean width, all in the mask's units. */
export interface Centreline {
  readonly paths: readonly Points[];
  readonly width: number;
}

/** Steps, in pixels, in which a free end feels its way to the outline. */
const MARCH = 0.25;

/**
 * Centre lines of one area. Free ends, which thinning eats, are drawn out again to `reach` before the outline.
 * @param reach in pixels
 * @param beyond says whether a place outside the mask still belongs to what the line runs into
 */
export function centreline(
  mask: AreaMask,
  reach: number,
  skeleton: Skeleton = skeletonOf(mask),
  beyond: (x: number, y: number) => boolean = () => false,
): Centreline {
  const degree = degreesOf(skeleton.branches);
  const paths: Points[] = [];
  let length = 0;
  for (const branch of skeleton.branches) {
    let points = branch.points;
    // Only a ring by itself may move the point where it closes: others meet there.
    const ring = branch.from === branch.to && degree.get(branch.from) === 2;
    for (let i = 0; i < 3; i++) points = smooth(points, ring);
    if (degree.get(branch.from) === 1) points = drawOut(points, 0, mask, reach, beyond);
    if (degree.get(branch.to) === 1) points = drawOut(points, points.length - 2, mask, reach, beyond);
    points = simplify(points, 0.2);
    length += lengthOf(points);
    paths.push(fromMask(mask, points));
  }
  const caps = [...degree.values()].filter((d) => d === 1).length * reach;
  const width = length > 0 ? mask.area / (length + caps) : 2 * deepest(mask).radius;
  return { paths, width: width / mask.scale };
}

function smooth(points: Points, closed: boolean): Points {
  const n = points.length / 2;
  if (n < 3) return points;
  const out = points.slice();
  for (let i = 1; i < n - 1; i++) {
    for (let j = 0; j < 2; j++) {
      out[i * 2 + j] = (points[i * 2 - 2 + j] + 2 * points[i * 2 + j] + points[i * 2 + 2 + j]) / 4;
    }
  }
  if (closed) {
    for (let j = 0; j < 2; j++) {
      out[j] = out[(n - 1) * 2 + j] = (points[2 + j] + 2 * points[j] + points[(n - 2) * 2 + j]) / 4;
    }
  }
  return out;
}

/**
 * Moves a free end straight on, to `reach` before the outline; no farther than thinning can have eaten. Where the line
 * runs into something of its own colour, it goes on a little into it.
 */
function drawOut(
  points: Points,
  end: number,
  mask: AreaMask,
  reach: number,
  beyond: (x: number, y: number) => boolean,
): Points {
  const inner = end === 0 ? Math.min(8, points.length - 2) : Math.max(0, points.length - 10);
  const dx = points[end] - points[inner];
  const dy = points[end + 1] - points[inner + 1];
  const length = distance(0, 0, dx, dy);
  if (length === 0) return points;
  const most = 3 * radiusAt(mask, points[end], points[end + 1]);
  let way = 0;
  let into = false;
  for (; way < most; way += MARCH) {
    const x = points[end] + (dx / length) * way;
    const y = points[end + 1] + (dy / length) * way;
    if (isInMask(mask, x, y)) continue;
    if (!beyond(x, y)) break;
    into = true;
  }
  const by = into ? way : way - reach;
  if (by <= 0) return points;
  const x = points[end] + (dx / length) * by;
  const y = points[end + 1] + (dy / length) * by;
  return end === 0 ? [x, y, ...points] : [...points, x, y];
}
