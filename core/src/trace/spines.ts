import { lengthOf, reversed } from '../geometry/polyline.js';
import { principalAxis } from '../geometry/principal-axis.js';
import { distance, type Points } from '../geometry/vector.js';
import { deepest, radiusAt, type AreaMask } from './area-mask.js';
import type { Branch, Skeleton } from './skeleton.js';
import { straightenThinPairs } from './thin-pairs.js';

/** A middle line that a satin column can follow: branches that go straight on through junctions, in mask pixels. */
export interface Spine {
  readonly points: Points;
  readonly closed: boolean;
  /** Whether its ends butt against another spine; otherwise they end freely. */
  readonly startButts: boolean;
  readonly endButts: boolean;
  /** Places where it passes others that butt it. */
  readonly passes: Points;
}

/** Branches that deviate by less than this go on into each other: the cosine of 65 degrees. */
const STRAIGHT_ON = 0.4226;

interface End {
  readonly branch: number;
  readonly atStart: boolean;
  /** Direction away from the node. */
  readonly dx: number;
  readonly dy: number;
}

/** Pairs the branches of a skeleton at its junctions, the straightest first, into as few spines as possible. */
export function spinesOf(skeleton: Skeleton, mask: AreaMask): Spine[] {
  const branches = straightenThinPairs(mergeJunctions(skeleton.branches, mask), mask);
  const ends = new Map<number, End[]>();
  branches.forEach((branch, i) => {
    for (const atStart of [true, false]) {
      const node = atStart ? branch.from : branch.to;
      const list = ends.get(node) ?? [];
      list.push({ branch: i, atStart, ...directionFrom(branch, atStart, mask) });
      ends.set(node, list);
    }
  });
  // What an end of a branch goes on into: the end of another branch, as branch * 2 + (1 at its end).
  const onward = new Map<number, number>();
  const idOf = (end: End): number => end.branch * 2 + (end.atStart ? 0 : 1);
  for (const list of ends.values()) {
    const pairs: { a: End; b: End; cosine: number }[] = [];
    list.forEach((a, i) => {
      for (const b of list.slice(i + 1)) pairs.push({ a, b, cosine: -(a.dx * b.dx + a.dy * b.dy) });
    });
    pairs.sort((p, q) => q.cosine - p.cosine);
    for (const { a, b, cosine } of pairs) {
      // A mere bend is one line however sharp it is.
      if (cosine < STRAIGHT_ON && list.length > 2) break;
      if (onward.has(idOf(a)) || onward.has(idOf(b))) continue;
      onward.set(idOf(a), idOf(b));
      onward.set(idOf(b), idOf(a));
      // One passes and all others butt: two that pass lie over each other.
      if (list.length > 2) break;
    }
  }
  const used = new Uint8Array(branches.length);
  const spines: Spine[] = [];
  const degree = (node: number): number => ends.get(node)?.length ?? 0;
  const walk = (start: number): void => {
    const points: Points = [];
    const passes: Points = [];
    let end = start;
    const first = branches[start >> 1];
    const startNode = (start & 1) === 0 ? first.from : first.to;
    let endNode = startNode;
    let closed = false;
    for (;;) {
      const branch = branches[end >> 1];
      used[end >> 1] = 1;
      const forwards = (end & 1) === 0;
      const run = forwards ? branch.points : reversed(branch.points);
      if (points.length > 0 && degree(forwards ? branch.from : branch.to) > 2) passes.push(run[0], run[1]);
      for (let i = points.length > 0 ? 2 : 0; i < run.length; i++) points.push(run[i]);
      endNode = forwards ? branch.to : branch.from;
      const next = onward.get(end ^ 1);
      if (next === undefined) break;
      if (used[next >> 1]) {
        closed = next === start;
        if (closed && degree(startNode) > 2) passes.push(points[0], points[1]);
        break;
      }
      end = next;
    }
    spines.push({ points, closed, startButts: degree(startNode) > 1, endButts: degree(endNode) > 1, passes });
  };
  // Spines with an end first, rings after.
  for (let i = 0; i < branches.length * 2; i++) if (!used[i >> 1] && !onward.has(i)) walk(i);
  for (let i = 0; i < branches.length * 2; i += 2) if (!used[i >> 1]) walk(i);
  return spines.sort((a, b) => lengthOf(b.points) - lengthOf(a.points));
}

function directionFrom(branch: Branch, atStart: boolean, mask: AreaMask): { dx: number; dy: number } {
  const run = atStart ? branch.points : reversed(branch.points);
  const reach = Math.max(4, 1.8 * radiusAt(mask, run[0], run[1]));
  let at = 2;
  while (at < run.length - 2 && distance(run[0], run[1], run[at], run[at + 1]) < reach) at += 2;
  const dx = run[at] - run[0];
  const dy = run[at + 1] - run[1];
  const length = Math.sqrt(dx * dx + dy * dy) || 1;
  return { dx: dx / length, dy: dy / length };
}

/** Makes one of junctions that lie within the same disc. */
function mergeJunctions(branches: readonly Branch[], mask: AreaMask): Branch[] {
  const into = new Map<number, number>();
  const root = (node: number): number => {
    let at = node;
    for (let next = into.get(at); next !== undefined; next = into.get(at)) at = next;
    return at;
  };
  const degree = new Map<number, number>();
  for (const { from, to } of branches) {
    degree.set(from, (degree.get(from) ?? 0) + 1);
    degree.set(to, (degree.get(to) ?? 0) + 1);
  }
  const place = new Map<number, [number, number]>();
  const kept = branches.filter((branch) => {
    const { from, to, points } = branch;
    if ((degree.get(from) ?? 0) < 3 || (degree.get(to) ?? 0) < 3 || root(from) === root(to)) return true;
    const n = points.length;
    const radius = Math.max(radiusAt(mask, points[0], points[1]), radiusAt(mask, points[n - 2], points[n - 1]));
    if (lengthOf(points) > radius) return true;
    into.set(root(to), root(from));
    place.set(root(from), [(points[0] + points[n - 2]) / 2, (points[1] + points[n - 1]) / 2]);
    return false;
  });
  return kept.map((branch) => {
    const from = root(branch.from);
    const to = root(branch.to);
    const points = branch.points.slice();
    const head = from !== branch.from || place.has(from) ? place.get(from) : undefined;
    const tail = to !== branch.to || place.has(to) ? place.get(to) : undefined;
    if (head) points.unshift(...head);
    if (tail) points.push(...tail);
    return { from, to, points };
  });
}

/** A shape without any middle line, a dot, has its longer axis as one. */
export function axisOf(mask: AreaMask): Spine {
  const { width, inside } = mask;
  const places: Points = [];
  for (let i = 0; i < inside.length; i++) if (inside[i]) places.push((i % width) + 0.5, Math.floor(i / width) + 0.5);
  const { x, y, dx, dy } = principalAxis(places);
  const reach = Math.max(1, deepest(mask).radius * 0.5);
  const points = [x - dx * reach, y - dy * reach, x + dx * reach, y + dy * reach];
  return { points, closed: false, startButts: false, endButts: false, passes: [] };
}
