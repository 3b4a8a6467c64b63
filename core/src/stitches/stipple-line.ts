import { seededRandom } from '../geometry/chance.js';
import { thicken } from '../geometry/polygons.js';
import { blur, boundsOf, distanceToRings, evenly, isInside, signedArea } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';

/** All lengths in gaps: distance of the tree's places, of its edges from the outline, longest edge. */
const APART = 1.75;
const FROM_EDGE = 0.72;
const LONGEST = 3.2;
/** Darts thrown for each square gap. */
const DARTS = 3;
/** By how much chance lengthens an edge: a tree by length alone has no twists. */
const WHIM = 0.9;
const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;

/**
 * Closed lines that wander over a shape and never cross themselves: the outlines of random trees (places thrown like
 * darts with a least distance, Cook 1986, joined to a tree by Prim's rule, 1957) made one gap wide, with corners rounded.
 * @param gapMm distance of neighbouring stretches
 * @returns one ring for each part of the shape that is wide enough, the largest first
 */
export function stippleLoops(rings: readonly Points[], gapMm: number): Points[] {
  const places = throwDarts(rings, gapMm);
  const loops = growTrees(rings, places, gapMm).map((edges) => {
    const grown = thicken(edges, gapMm, false, ROUND);
    const outer = grown.reduce((best, ring) => (signedArea(ring) > signedArea(best) ? ring : best), grown[0]);
    let line = evenly([...outer, outer[0], outer[1]], gapMm / 5);
    for (let round = 0; round < 6; round++) line = blur(line, true);
    return line;
  });
  return loops.sort((a, b) => b.length - a.length);
}

function throwDarts(rings: readonly Points[], gap: number): Points {
  const box = boundsOf(rings);
  const [w, h] = [box.right - box.left, box.bottom - box.top];
  const random = seededRandom(Math.round(w * 1000) + Math.round(h * 7919));
  const cell = gap * APART;
  const columns = Math.ceil(w / cell) + 1;
  const near = new Map<number, number[]>();
  const out: Points = [];
  const darts = Math.min(60_000, Math.ceil(((w * h) / (gap * gap)) * DARTS) + 30);
  for (let dart = 0; dart < darts; dart++) {
    const x = box.left + random() * w;
    const y = box.top + random() * h;
    const [cx, cy] = [Math.floor((x - box.left) / cell), Math.floor((y - box.top) / cell)];
    let free = true;
    for (let dy = -1; dy <= 1 && free; dy++) {
      for (let dx = -1; dx <= 1 && free; dx++) {
        for (const i of near.get((cy + dy) * columns + cx + dx) ?? []) {
          if (distance(out[i], out[i + 1], x, y) < cell) free = false;
        }
      }
    }
    if (!free || !isInside(rings, x, y) || distanceToRings(rings, x, y) < FROM_EDGE * gap) continue;
    const key = cy * columns + cx;
    near.set(key, [...(near.get(key) ?? []), out.length]);
    out.push(x, y);
  }
  return out;
}

/** Trees over places near each other, as runs of two points; edges keep away from the outline. */
function growTrees(rings: readonly Points[], places: Points, gap: number): Points[][] {
  const n = places.length / 2;
  const random = seededRandom(n * 31 + 7);
  const links: { other: number; cost: number }[][] = Array.from({ length: n }, () => []);
  for (let a = 0; a < n; a++) {
    for (let b = a + 1; b < n; b++) {
      const [ax, ay, bx, by] = [places[a * 2], places[a * 2 + 1], places[b * 2], places[b * 2 + 1]];
      const length = distance(ax, ay, bx, by);
      if (length > LONGEST * gap || !isClear(rings, ax, ay, bx, by, gap)) continue;
      const cost = length * (1 + random() * WHIM);
      links[a].push({ other: b, cost });
      links[b].push({ other: a, cost });
    }
  }
  const seen = new Uint8Array(n);
  const trees: Points[][] = [];
  for (let seed = 0; seed < n; seed++) {
    if (seen[seed]) continue;
    seen[seed] = 1;
    const edges: Points[] = [];
    const open = links[seed].map(({ other, cost }) => ({ from: seed, other, cost }));
    while (open.length > 0) {
      let best = 0;
      for (let i = 1; i < open.length; i++) if (open[i].cost < open[best].cost) best = i;
      const [{ from, other }] = open.splice(best, 1);
      if (seen[other]) continue;
      const edge = [places[from * 2], places[from * 2 + 1], places[other * 2], places[other * 2 + 1]];
      // An edge that crosses another would close a loop.
      if (edges.some((e) => doCross(e, edge))) continue;
      seen[other] = 1;
      edges.push(edge);
      for (const link of links[other]) if (!seen[link.other]) open.push({ from: other, ...link });
    }
    if (edges.length > 0) trees.push(edges);
  }
  return trees;
}

function isClear(rings: readonly Points[], ax: number, ay: number, bx: number, by: number, gap: number): boolean {
  for (let k = 1; k < 4; k++) {
    const x = ax + ((bx - ax) * k) / 4;
    const y = ay + ((by - ay) * k) / 4;
    if (!isInside(rings, x, y) || distanceToRings(rings, x, y) < 0.6 * gap) return false;
  }
  return true;
}

function doCross(p: Points, q: Points): boolean {
  const side = (r: Points, x: number, y: number): number => (r[2] - r[0]) * (y - r[1]) - (r[3] - r[1]) * (x - r[0]);
  return side(p, q[0], q[1]) * side(p, q[2], q[3]) < -1e-9 && side(q, p[0], p[1]) * side(q, p[2], p[3]) < -1e-9;
}
