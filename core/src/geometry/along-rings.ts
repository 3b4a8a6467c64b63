import { lengthOf, nearestPoint, reversed } from './polyline.js';
import type { Point, Points } from './vector.js';

/**
 * The way from one point to another along closed rings: to the nearest corner of the ring that serves both best, along
 * it the shorter way round, and on to the goal. Both points are included.
 */
export function alongRings(rings: readonly Points[], from: Point, to: Point): Points {
  let best: { ring: Points; a: number; b: number } | undefined;
  let least = Infinity;
  for (const ring of rings) {
    const a = nearestPoint(ring, from.x, from.y);
    const b = nearestPoint(ring, to.x, to.y);
    if (a.gap + b.gap < least) {
      least = a.gap + b.gap;
      best = { ring, a: a.at, b: b.at };
    }
  }
  if (!best) return [from.x, from.y, to.x, to.y];
  const forth = walk(best.ring, best.a, best.b);
  const back = reversed(walk(best.ring, best.b, best.a));
  return [from.x, from.y, ...(lengthOf(forth) <= lengthOf(back) ? forth : back), to.x, to.y];
}

function walk(ring: Points, from: number, to: number): Points {
  const out: Points = [ring[from], ring[from + 1]];
  for (let i = from; i !== to;) {
    i = (i + 2) % ring.length;
    out.push(ring[i], ring[i + 1]);
  }
  return out;
}
