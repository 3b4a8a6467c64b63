import { distance, type Point, type Points } from './vector.js';

/** Length of a run of points. */
export function lengthOf(points: Points): number {
  let sum = 0;
  for (let i = 2; i < points.length; i += 2) sum += distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
  return sum;
}

/** Signed area of a closed ring (last point not repeated); positive when it runs clockwise on the screen. */
export function signedArea(ring: Points): number {
  let sum = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    sum += ring[j] * ring[i + 1] - ring[i] * ring[j + 1];
  }
  return sum / 2;
}

/** Area inside an outer ring and its holes, which run the other way round; parts that do not overlap add up. */
export function areaWithin(rings: readonly Points[]): number {
  return Math.abs(rings.reduce((sum, ring) => sum + signedArea(ring), 0));
}

export interface Bounds {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Smallest upright box around runs of points; an empty input gives an empty box at the origin. */
export function boundsOf(runs: readonly Points[]): Bounds {
  let left = Infinity;
  let top = Infinity;
  let right = -Infinity;
  let bottom = -Infinity;
  for (const run of runs) {
    for (let i = 0; i < run.length; i += 2) {
      if (run[i] < left) left = run[i];
      if (run[i] > right) right = run[i];
      if (run[i + 1] < top) top = run[i + 1];
      if (run[i + 1] > bottom) bottom = run[i + 1];
    }
  }
  return left <= right ? { left, top, right, bottom } : { left: 0, top: 0, right: 0, bottom: 0 };
}

/** The same run, walked from its other end. */
export function reversed(points: Points): Points {
  const out: Points = new Array<number>(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[points.length - 2 - i];
    out[i + 1] = points[points.length - 1 - i];
  }
  return out;
}

/** Distance from a point to a segment. */
export function distanceToSegment(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / square));
  return distance(px, py, ax + t * dx, ay + t * dy);
}

/** Whether a point lies inside rings by the even-odd rule. */
export function isInside(rings: readonly Points[], x: number, y: number): boolean {
  let inside = false;
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const yi = ring[i + 1];
      const yj = ring[j + 1];
      if (yi > y !== yj > y && x < ring[i] + ((y - yi) / (yj - yi)) * (ring[j] - ring[i])) inside = !inside;
    }
  }
  return inside;
}

/** Distance from a point to the nearest edge of closed rings. */
export function distanceToRings(rings: readonly Points[], x: number, y: number): number {
  let best = Infinity;
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const d = distanceToSegment(x, y, ring[j], ring[j + 1], ring[i], ring[i + 1]);
      if (d < best) best = d;
    }
  }
  return best;
}

/** A point that lies inside rings as it is, and any other on their nearest edge. */
export function ontoRings(rings: readonly Points[], x: number, y: number): Point {
  if (isInside(rings, x, y)) return { x, y };
  let best = { x, y };
  let least = Infinity;
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay] = [ring[j], ring[j + 1]];
      const [dx, dy] = [ring[i] - ax, ring[i + 1] - ay];
      const square = dx * dx + dy * dy;
      const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square));
      const d = distance(x, y, ax + t * dx, ay + t * dy);
      if (d < least) [least, best] = [d, { x: ax + t * dx, y: ay + t * dy }];
    }
  }
  return best;
}

/** Index of the x of a run's point nearest to a place, and how far that is. */
export function nearestPoint(points: Points, x: number, y: number): { readonly at: number; readonly gap: number } {
  let at = 0;
  let gap = Infinity;
  for (let i = 0; i < points.length; i += 2) {
    const d = distance(points[i], points[i + 1], x, y);
    if (d < gap) [at, gap] = [i, d];
  }
  return { at, gap };
}

/** A ring begun at one of its points and closed: its first point is also its last. */
export const closedFrom = (ring: Points, at: number): Points => [
  ...ring.slice(at),
  ...ring.slice(0, at),
  ring[at],
  ring[at + 1],
];

/** Drops points that lie within `tolerance` of the chord between kept ones (Douglas and Peucker 1973). */
export function simplify(points: Points, tolerance: number): Points {
  const count = points.length / 2;
  if (count <= 2) return points.slice();
  const keep = new Uint8Array(count);
  keep[0] = keep[count - 1] = 1;
  const stack: number[] = [0, count - 1];
  while (stack.length > 0) {
    const last = stack.pop() as number;
    const first = stack.pop() as number;
    let worst = tolerance;
    let at = -1;
    for (let i = first + 1; i < last; i++) {
      const d = distanceToSegment(
        points[i * 2],
        points[i * 2 + 1],
        points[first * 2],
        points[first * 2 + 1],
        points[last * 2],
        points[last * 2 + 1],
      );
      if (d > worst) {
        worst = d;
        at = i;
      }
    }
    if (at >= 0) {
      keep[at] = 1;
      stack.push(first, at, at, last);
    }
  }
  const out: Points = [];
  for (let i = 0; i < count; i++) if (keep[i]) out.push(points[i * 2], points[i * 2 + 1]);
  return out;
}

/** One round of 1-2-1 smoothing; the ends of an open run stay, a closed one does not repeat its first point. */
export function blur(points: Points, closed: boolean): Points {
  const n = points.length / 2;
  if (n < 3) return points;
  const out = points.slice();
  for (let i = closed ? 0 : 1; i < (closed ? n : n - 1); i++) {
    const p = ((i + n - 1) % n) * 2;
    const q = ((i + 1) % n) * 2;
    out[i * 2] = (points[p] + 2 * points[i * 2] + points[q]) / 4;
    out[i * 2 + 1] = (points[p + 1] + 2 * points[i * 2 + 1] + points[q + 1]) / 4;
  }
  return out;
}

/** The run with a point every `step` along it, from its start; at least two points. */
export function evenly(points: Points, step: number): Points {
  const out: Points = [points[0], points[1]];
  let left = step;
  for (let i = 2; i < points.length; i += 2) {
    let [x, y] = [points[i - 2], points[i - 1]];
    let length = distance(x, y, points[i], points[i + 1]);
    while (length >= left) {
      const k = left / length;
      x += (points[i] - x) * k;
      y += (points[i + 1] - y) * k;
      out.push(x, y);
      length -= left;
      left = step;
    }
    left -= length;
  }
  const n = points.length;
  if (out.length < 4) out.push(points[n - 2], points[n - 1]);
  return out;
}

/** A run without so much of its beginning; at least two points stay. */
export function withoutStart(points: Points, mm: number): Points {
  let left = mm;
  for (let i = 2; i < points.length; i += 2) {
    const length = distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
    if (length > left) {
      const k = left / length;
      const [x, y] = [points[i - 2], points[i - 1]];
      return [x + (points[i] - x) * k, y + (points[i + 1] - y) * k, ...points.slice(i)];
    }
    left -= length;
  }
  return points.slice(-4);
}

/** A straight way from one point to another. */
export type Edge = readonly [ax: number, ay: number, bx: number, by: number];

/** Whether two edges cross; such as only touch do not. */
export function segmentsCross([ax, ay, bx, by]: Edge, [cx, cy, dx, dy]: Edge): boolean {
  const side = (px: number, py: number, qx: number, qy: number, x: number, y: number): number =>
    (qx - px) * (y - py) - (qy - py) * (x - px);
  return (
    side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, dx, dy) < 0 &&
    side(cx, cy, dx, dy, ax, ay) * side(cx, cy, dx, dy, bx, by) < 0
  );
}
