import { distance, type Points } from '../geometry/vector.js';
import { lengthOf, simplify } from '../geometry/polyline.js';
import type { Boundaries } from './boundaries.js';
import { thin } from './thin.js';

/** Centre lines of an area: runs that meet exactly at shared end points, and the mean width, all in pixels. */
export interface Centreline {
  readonly paths: readonly Points[];
  readonly width: number;
}

/** The area a line lies in, asked in the coordinates of its own small mask. */
interface Area {
  readonly radiusAt: (x: number, y: number) => number;
  readonly isInside: (x: number, y: number) => boolean;
}

/** Steps, in pixels, in which a free end feels its way to the outline. */
const MARCH = 0.25;

interface Branch {
  from: number;
  to: number;
  points: Points;
}

/**
 * Finds the centre lines of one area by thinning. Short spurs, which only come from the outline's roughness, are
 * pruned; free ends, which thinning eats, are drawn out again by `reach` less than the local radius.
 * @param distances distance map of the framed label map
 * @param reach how far before the outline a free end stops, in pixels
 */
export function centreline(bounds: Boundaries, component: number, distances: Float32Array, reach: number): Centreline {
  const { components } = bounds;
  const [left, top, right, bottom] = components.box.subarray(component * 4, component * 4 + 4);
  const width = right - left + 3;
  const height = bottom - top + 3;
  const mask = new Uint8Array(width * height);
  for (let y = top; y <= bottom; y++) {
    for (let x = left; x <= right; x++) {
      if (components.of[y * bounds.width + x] === component) mask[(y - top + 1) * width + (x - left + 1)] = 1;
    }
  }
  thin(mask, width);
  const radiusAt = (x: number, y: number): number => {
    const px = Math.min(bounds.width - 1, Math.max(0, Math.floor(x) + left - 1));
    const py = Math.min(bounds.height - 1, Math.max(0, Math.floor(y) + top - 1));
    return distances[py * bounds.width + px];
  };
  const isInside = (x: number, y: number): boolean => {
    const px = Math.floor(x) + left - 1;
    const py = Math.floor(y) + top - 1;
    if (px < left || py < top || px > right || py > bottom) return false;
    return components.of[py * bounds.width + px] === component;
  };
  const area: Area = { radiusAt, isInside };
  const graph = branchesOf(mask, width, height);
  prune(graph, radiusAt);
  const degree = degrees(graph.branches);
  const paths: Points[] = [];
  let length = 0;
  for (const branch of graph.branches) {
    let points = branch.points;
    // Only a ring by itself may move the point where it closes: others meet there.
    const ring = branch.from === branch.to && degree.get(branch.from) === 2;
    for (let i = 0; i < 3; i++) points = smooth(points, ring);
    if (degree.get(branch.from) === 1) points = drawOut(points, 0, area, reach);
    if (degree.get(branch.to) === 1) points = drawOut(points, points.length - 2, area, reach);
    points = simplify(points, 0.2);
    length += lengthOf(points);
    // Back into the unframed picture.
    paths.push(points.map((v, i) => v + (i % 2 === 0 ? left - 2 : top - 2)));
  }
  const caps = [...degree.values()].filter((d) => d === 1).length * reach;
  const pixels = components.area[component];
  return { paths, width: length > 0 ? pixels / (length + caps) : 2 * radiusAt(width / 2, height / 2) };
}

function degrees(branches: readonly Branch[]): Map<number, number> {
  const degree = new Map<number, number>();
  for (const { from, to } of branches) {
    degree.set(from, (degree.get(from) ?? 0) + 1);
    degree.set(to, (degree.get(to) ?? 0) + 1);
  }
  return degree;
}

/** Cuts a thinned mask into branches between ends and junctions; touching junction pixels are one node. */
function branchesOf(mask: Uint8Array, width: number, height: number): { branches: Branch[]; places: number[] } {
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
  return { branches, places };
}

/** Takes away free branches hardly longer than the radius of the junction they sit on, shortest first. */
function prune(graph: { branches: Branch[] }, radiusAt: (x: number, y: number) => number): void {
  for (;;) {
    const degree = degrees(graph.branches);
    let shortest = -1;
    let least = Infinity;
    graph.branches.forEach((branch, i) => {
      const freeFrom = degree.get(branch.from) === 1;
      const freeTo = degree.get(branch.to) === 1;
      if (freeFrom === freeTo) return;
      const p = branch.points;
      const at = freeFrom ? p.length - 2 : 0;
      const length = lengthOf(p);
      if (length < 1.3 * radiusAt(p[at], p[at + 1]) && length < least) {
        least = length;
        shortest = i;
      }
    });
    if (shortest < 0) return;
    graph.branches.splice(shortest, 1);
    joinThrough(graph.branches);
  }
}

/** Joins the two branches of a node that has become a mere bend. */
function joinThrough(branches: Branch[]): void {
  for (const [node, degree] of degrees(branches)) {
    if (degree !== 2) continue;
    const ends = branches.filter((b) => b.from === node || b.to === node);
    if (ends.length !== 2) continue;
    const [a, b] = ends;
    const head = a.to === node ? a.points : flip(a.points);
    const tail = b.from === node ? b.points : flip(b.points);
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

function flip(points: Points): Points {
  const out: Points = [];
  for (let i = points.length - 2; i >= 0; i -= 2) out.push(points[i], points[i + 1]);
  return out;
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

/** Moves a free end straight on, to `reach` before the outline; no farther than thinning can have eaten. */
function drawOut(points: Points, end: number, area: Area, reach: number): Points {
  const inner = end === 0 ? Math.min(8, points.length - 2) : Math.max(0, points.length - 10);
  const dx = points[end] - points[inner];
  const dy = points[end + 1] - points[inner + 1];
  const length = distance(0, 0, dx, dy);
  if (length === 0) return points;
  const most = 3 * area.radiusAt(points[end], points[end + 1]);
  let way = 0;
  while (way < most && area.isInside(points[end] + (dx / length) * way, points[end + 1] + (dy / length) * way)) {
    way += MARCH;
  }
  const by = way - reach;
  if (by <= 0) return points;
  const x = points[end] + (dx / length) * by;
  const y = points[end + 1] + (dy / length) * by;
  return end === 0 ? [x, y, ...points] : [...points, x, y];
}
