import { lengthOf, reversed } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { radiusAt, type AreaMask } from './area-mask.js';
import { thin } from './thin.js';

/** A stretch of a skeleton between two nodes, in pixels of its mask. */
export interface Branch {
  from: number;
  to: number;
  points: Points;
}

/** Middle lines of an area: branches between ends and junctions. */
export interface Skeleton {
  readonly branches: Branch[];
}

/**
 * Thins an area to its middle lines. Short spurs, which only come from the outline's roughness, are pruned.
 */
export function skeletonOf(mask: AreaMask): Skeleton {
  const thinned = mask.inside.slice();
  thin(thinned, mask.width);
  const skeleton: Skeleton = { branches: branchesOf(thinned, mask.width, mask.height) };
  prune(skeleton, mask);
  return skeleton;
}

/** How many branch ends meet at every node. */
export function degreesOf(branches: readonly Branch[]): Map<number, number> {
  const degree = new Map<number, number>();
  for (const { from, to } of branches) {
    degree.set(from, (degree.get(from) ?? 0) + 1);
    degree.set(to, (degree.get(to) ?? 0) + 1);
  }
  return degree;
}

/** Cuts a thinned mask into branches between ends and junctions; touching junction pixels are one node. */
function branchesOf(mask: Uint8Array, width: number, height: number): Branch[] {
  const ring = [-width, 1, width, -1, -width + 1, width + 1, width - 1, -width - 1];
  const node = new Int32Array(width * height).fill(-1);
  const places: number[] = [];
  const count = (i: number): number => ring.reduce((sum, step) => sum + mask[i + step], 0);
  const pixels: number[] = [];
  for (let i = 0; i < mask.length; i++) if (mask[i]) pixels.push(i);
  for (const i of pixels) {
    if (node[i] >= 0) continue;
    const n = count(i);
    if (n === 2) continue;
    const id = places.length / 2;
    const cluster = [i];
    node[i] = id;
    if (n > 2) {
      // The list grows while it is walked.
      for (const at of cluster) {
        for (const step of ring) {
          const q = at + step;
          if (mask[q] && node[q] < 0 && count(q) > 2) {
            node[q] = id;
            cluster.push(q);
          }
        }
      }
    }
    const cx = cluster.reduce((s, q) => s + (q % width) + 0.5, 0) / cluster.length;
    const cy = cluster.reduce((s, q) => s + Math.floor(q / width) + 0.5, 0) / cluster.length;
    places.push(cx, cy);
  }
  const branches: Branch[] = [];
  const used = new Uint8Array(mask.length);
  const direct = new Set<number>();
  const follow = (start: number, first: number): void => {
    const from = node[start];
    const points: Points = [places[from * 2], places[from * 2 + 1]];
    let before = start;
    let at = first;
    while (node[at] < 0) {
      used[at] = 1;
      points.push((at % width) + 0.5, Math.floor(at / width) + 0.5);
      const next = ring.map((step) => at + step).find((q) => mask[q] && q !== before && !used[q] && node[q] !== from);
      const home = ring.map((step) => at + step).find((q) => mask[q] && q !== before && node[q] === from);
      if (next === undefined && home === undefined) return;
      before = at;
      at = next ?? (home as number);
    }
    const to = node[at];
    points.push(places[to * 2], places[to * 2 + 1]);
    branches.push({ from, to, points });
  };
  for (const i of pixels) {
    if (node[i] < 0) continue;
    for (const step of ring) {
      const q = i + step;
      if (!mask[q] || used[q]) continue;
      if (node[q] < 0) follow(i, q);
      else if (node[q] !== node[i]) {
        const key = Math.min(node[i], node[q]) * places.length + Math.max(node[i], node[q]);
        if (direct.has(key)) continue;
        direct.add(key);
        const [a, b] = [node[i], node[q]];
        const points = [places[a * 2], places[a * 2 + 1], places[b * 2], places[b * 2 + 1]];
        branches.push({ from: a, to: b, points });
      }
    }
  }
  // Rings without any end or junction.
  for (const i of pixels) {
    if (used[i] || node[i] >= 0) continue;
    const id = places.length / 2;
    places.push((i % width) + 0.5, Math.floor(i / width) + 0.5);
    node[i] = id;
    used[i] = 1;
    const first = ring.map((step) => i + step).find((q) => mask[q] && !used[q]);
    if (first !== undefined) follow(i, first);
    else branches.push({ from: id, to: id, points: [places[id * 2], places[id * 2 + 1]] });
  }
  return branches;
}

/** Takes away free branches hardly longer than the radius of the junction they sit on, shortest first. */
function prune(skeleton: Skeleton, mask: AreaMask): void {
  for (;;) {
    const degree = degreesOf(skeleton.branches);
    let shortest = -1;
    let least = Infinity;
    skeleton.branches.forEach((branch, i) => {
      const freeFrom = degree.get(branch.from) === 1;
      const freeTo = degree.get(branch.to) === 1;
      if (freeFrom === freeTo) return;
      const p = branch.points;
      const at = freeFrom ? p.length - 2 : 0;
      const length = lengthOf(p);
      if (length < 1.3 * radiusAt(mask, p[at], p[at + 1]) && length < least) {
        least = length;
        shortest = i;
      }
    });
    if (shortest < 0) return;
    skeleton.branches.splice(shortest, 1);
    joinThrough(skeleton.branches);
  }
}

/** Joins the two branches of a node that has become a mere bend. */
function joinThrough(branches: Branch[]): void {
  for (const [node, degree] of degreesOf(branches)) {
    if (degree !== 2) continue;
    const ends = branches.filter((b) => b.from === node || b.to === node);
    if (ends.length !== 2) continue;
    const [a, b] = ends;
    const head = a.to === node ? a.points : reversed(a.points);
    const tail = b.from === node ? b.points : reversed(b.points);
    const joined: Branch = {
      from: a.to === node ? a.from : a.to,
      to: b.from === node ? b.to : b.from,
      points: [...head, ...tail.slice(2)],
    };
    branches.splice(branches.indexOf(a), 1, joined);
    branches.splice(branches.indexOf(b), 1);
    return joinThrough(branches);
  }
}
