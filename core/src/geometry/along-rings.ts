import { lengthOf, reversed } from './polyline.js';
import { distance, type Point, type Points } from './vector.js';

/**
 * The way from one point to another along closed rings: to the nearest corner of the ring that serves both best, along
 * it the shorter way round, and on to the goal. Both points are included.
 */
export function alongRings(rings: readonly Points[], from: Point, to: Point): Points {
  let best: { ring: Points; a: number; b: number } | undefined;
  let least = Infinity;
  for (const ring of rings) {
    const a = nearestCorner(ring, from);
    const b = nearestCorner(ring, to);
    const gap = distance(ring[a], ring[a + 1], from.x, from.y) + distance(ring[b], ring[b + 1], to.x, to.y);
    if (gap < least) {
      least = gap;
      best = { ring, a, b };
    }
  }
  if (!best) return [from.x, from.y, to.x, to.y];
  const forth = walk(best.ring, best.a, best.b);
  const back = reversed(walk(best.ring, best.b, best.a));
  return [from.x, from.y, ...(lengthOf(forth) <= lengthOf(back) ? forth : back), to.x, to.y];
}

function nearestCorner(ring: Points, p: Point): number {
  let at = 0;
  for (let i = 2; i < ring.length; i += 2) {
    if (distance(ring[i], ring[i + 1], p.x, p.y) < distance(ring[at], ring[at + 1], p.x, p.y)) at = i;
  }
  return at;
}

function walk(ring: Points, from: number, to: number): Points {
  const out: Points = [ring[from], ring[from + 1]];
  for (let i = from; i !== to;) {
    i = (i + 2) % ring.length;
    out.push(ring[i], ring[i + 1]);
  }
  return out;
}
