import { distance, type Points } from '../geometry/vector.js';
import { lengthOf, reversed, simplify } from '../geometry/polyline.js';
import { createSegmentGrid, type SegmentGrid } from '../geometry/segment-grid.js';
import { deepest, fromMask, isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { degreesOf, skeletonOf, type Skeleton } from './skeleton.js';

/** Centre lines of an area: runs that meet exactly at shared end points, and the mean width, all in the mask's units. */
export interface Centreline {
  readonly paths: readonly Points[];
  readonly width: number;
}

/** Points before and after one between which its direction is taken. */
const LEVER = 4;
/** Steps, in pixels, in which a free end feels its way to the outline. */
const MARCH = 0.25;

/**
 * Centre lines of one area. Free ends, which thinning eats, are drawn out again to `reach` before the outline.
 * @param reach in pixels
 * @param rings the area's outline, in the mask's units: it says more exactly than pixels where the middle is
 * @param beyond says whether a place outside the mask still belongs to what the line runs into
 */
export function centreline(
  mask: AreaMask,
  reach: number,
  rings: readonly Points[] = [],
  skeleton: Skeleton = skeletonOf(mask),
  beyond: (x: number, y: number) => boolean = () => false,
): Centreline {
  const degree = degreesOf(skeleton.branches);
  const widest = deepest(mask).radius / mask.scale;
  const grid = rings.length > 0 ? createSegmentGrid(rings, Math.max(0.3, widest)) : undefined;
  const runs = skeleton.branches.map(({ from, to, points }) => {
    // Only a ring by itself may move the point where it closes: others meet there.
    const ring = from === to && degree.get(from) === 2;
    let run = points;
    for (let i = 0; i < 3; i++) run = smooth(run, ring);
    return grid ? smooth(recentre(run, ring, mask, grid), ring) : run;
  });
  if (grid) placeJunctions(skeleton, runs, degree, mask);
  const paths: Points[] = [];
  let length = 0;
  skeleton.branches.forEach(({ from, to }, i) => {
    let points = runs[i];
    if (degree.get(from) === 1) points = drawOut(points, 0, mask, reach, beyond);
    if (degree.get(to) === 1) points = drawOut(points, points.length - 2, mask, reach, beyond);
    points = simplify(points, 0.2);
    length += lengthOf(points);
    paths.push(fromMask(mask, points));
  });
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

/** Points this many radii from the end of a branch are left where they are: there the outline is that of a cap or a junction. */
const END_RADII = 1.3;
/** A point moves at most this far, in pixels. */
const MOST_MOVED = 1.5;

/** Moves every point to the middle between the two sides of the outline across it. */
function recentre(points: Points, closed: boolean, mask: AreaMask, grid: SegmentGrid): Points {
  const n = points.length / 2;
  const out = points.slice();
  const { scale, left, top } = mask;
  const [endX, endY] = [points[n * 2 - 2], points[n * 2 - 1]];
  for (let i = closed ? 0 : 1; i < n - 1; i++) {
    const [x, y] = [points[i * 2], points[i * 2 + 1]];
    const r = radiusAt(mask, x, y);
    const clear = END_RADII * r + 1;
    if (!closed && (distance(x, y, points[0], points[1]) < clear || distance(x, y, endX, endY) < clear)) continue;
    const p = closed ? (i + n - 1 - LEVER) % (n - 1) : Math.max(0, i - LEVER);
    const q = closed ? (i + LEVER) % (n - 1) : Math.min(n - 1, i + LEVER);
    const [dx, dy] = [points[q * 2] - points[p * 2], points[q * 2 + 1] - points[p * 2 + 1]];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length === 0) continue;
    const [nx, ny] = [dy / length, -dx / length];
    const reach = (r * 1.6 + 1) / scale;
    let [from, to] = [-Infinity, Infinity];
    for (const t of grid.crossings(x / scale + left, y / scale + top, nx, ny, reach)) {
      if (t <= 0 && t > from) from = t;
      if (t > 0 && t < to) to = t;
    }
    const by = ((from + to) / 2) * scale;
    if (!(Math.abs(by) <= MOST_MOVED)) continue;
    out[i * 2] += nx * by;
    out[i * 2 + 1] += ny * by;
  }
  if (closed) [out[n * 2 - 2], out[n * 2 - 1]] = [out[0], out[1]];
  return out;
}

/** Way along a branch, in pixels, over which its direction towards a junction is taken. */
const SIGHT = 8;

/**
 * Moves every junction to where the lines that meet there point, since thinning pulls it into the widest place; each
 * branch then goes straight to it from where it still lies between two sides.
 */
function placeJunctions(skeleton: Skeleton, runs: Points[], degree: ReadonlyMap<number, number>, mask: AreaMask): void {
  const { branches } = skeleton;
  for (const [node, count] of degree) {
    if (count < 3) continue;
    const ends = branches.flatMap(({ from, to }, i) => [
      ...(from === node ? [{ i, atStart: true }] : []),
      ...(to === node ? [{ i, atStart: false }] : []),
    ]);
    const first = runs[ends[0].i];
    const [x, y] = ends[0].atStart ? first.slice(0, 2) : first.slice(-2);
    const r = radiusAt(mask, x, y);
    // The sum of squared distances to the lines is least where both its derivatives vanish.
    let [xx, xy, yy, bx, by] = [0, 0, 0, 0, 0];
    const clear: number[] = [];
    for (const { i, atStart } of ends) {
      const run = atStart ? runs[i] : reversed(runs[i]);
      const from = firstBeyond(run, x, y, END_RADII * r + 1);
      const to = firstBeyond(run, x, y, END_RADII * r + 1 + SIGHT);
      clear.push(from);
      if (from < 0 || to < 0) continue;
      const [dx, dy] = [run[to] - run[from], run[to + 1] - run[from + 1]];
      const length = Math.sqrt(dx * dx + dy * dy) || 1;
      const [nx, ny] = [-dy / length, dx / length];
      const c = nx * run[from] + ny * run[from + 1];
      xx += nx * nx;
      xy += nx * ny;
      yy += ny * ny;
      bx += nx * c;
      by += ny * c;
    }
    const det = xx * yy - xy * xy;
    if (det < LEAST_ANGLE) continue;
    const [px, py] = [(bx * yy - by * xy) / det, (by * xx - bx * xy) / det];
    if (distance(px, py, x, y) > 1.5 * r + 1) continue;
    ends.forEach(({ i, atStart }, k) => {
      const run = atStart ? runs[i] : reversed(runs[i]);
      const rest = clear[k] < 0 ? run.slice(-2) : run.slice(clear[k]);
      const moved = [px, py, ...rest];
      runs[i] = atStart ? moved : reversed(moved);
    });
  }
}

/** Lines that meet at less than about 15 degrees do not say where. */
const LEAST_ANGLE = 0.07;

/** First point of a run that is at least so far from a place, -1 where there is none. */
function firstBeyond(run: Points, x: number, y: number, far: number): number {
  for (let i = 0; i < run.length; i += 2) if (distance(run[i], run[i + 1], x, y) >= far) return i;
  return -1;
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
