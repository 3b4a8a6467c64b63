import { distance, type Points } from '../geometry/vector.js';

/** A corner of a run: where, the directions in which the line comes and leaves, and the cosine of its turn. */
export interface Corner {
  readonly at: number;
  readonly inX: number;
  readonly inY: number;
  readonly outX: number;
  readonly outY: number;
  readonly cosine: number;
}

/** A corner that a column turns around: its pivot, and how far rungs reach from their middles there. */
export interface Turning {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly reach: number;
}

/** The pivot lies so much farther in than the inner side of the line: rungs come close there, but do not meet. */
const PIVOT = 1.2;
/** Points along an arc stand this far apart, in mm: at the outer side it is twice as much. */
const ARC_STEP = 0.1;

/**
 * A run that turns around its corners instead of having them: the middle follows an arc around a pivot beside the inner side, so
 * that rungs fan out from there and reach the outline at the corner, evenly and without crossing. Corners with too little line
 * beside them stay.
 * @param points close together; of a closed run the first is not said again
 */
export function roundedRun(
  points: Points,
  closed: boolean,
  corners: readonly Corner[],
  half: number,
): { readonly points: Points; readonly turnings: readonly Turning[] } {
  const n = points.length / 2;
  const radius = half * PIVOT;
  const arcs = corners.flatMap((corner) => {
    const turn = Math.acos(Math.max(-1, Math.min(1, corner.cosine)));
    const way = radius * Math.tan(turn / 2);
    const from = walked(points, closed, corner.at, -1, way);
    const to = walked(points, closed, corner.at, 1, way);
    return from === undefined || to === undefined ? [] : [{ corner, turn, way, from, to }];
  });
  // Two that would take the same stretch of line: the sharper one has it.
  const taken = new Uint8Array(n);
  const kept = [...arcs]
    .sort((a, b) => b.turn - a.turn)
    .filter(({ from, to }) => {
      const own = between(from, to, n);
      if (own.some((i) => taken[i] === 1)) return false;
      own.forEach((i) => (taken[i] = 1));
      return true;
    })
    .sort((a, b) => a.from - b.from);
  if (kept.length === 0) return { points, turnings: [] };
  const out: Points = [];
  const turnings: Turning[] = [];
  const start = closed ? kept[0].from : 0;
  let next = 0;
  for (let k = 0; k < n; k++) {
    const i = (start + k) % n;
    const arc = kept[next];
    if (arc && i === arc.from) {
      const { corner, turn, way } = arc;
      const side = Math.sign(corner.inX * corner.outY - corner.inY * corner.outX) || 1;
      const [cx, cy] = [points[corner.at * 2], points[corner.at * 2 + 1]];
      const [ax, ay] = [cx - corner.inX * way, cy - corner.inY * way];
      const [px, py] = [ax - corner.inY * side * radius, ay + corner.inX * side * radius];
      const steps = Math.max(4, Math.ceil((radius * turn) / ARC_STEP));
      for (let s = 0; s <= steps; s++) {
        const angle = (side * turn * s) / steps;
        const [dx, dy] = [ax - px, ay - py];
        out.push(px + dx * Math.cos(angle) - dy * Math.sin(angle), py + dx * Math.sin(angle) + dy * Math.cos(angle));
      }
      turnings.push({ x: px, y: py, radius, reach: half + radius / Math.cos(turn / 2) - radius });
      k += between(arc.from, arc.to, n).length - 1;
      next++;
    } else out.push(points[i * 2], points[i * 2 + 1]);
  }
  return { points: out, turnings };
}

/** How far rungs reach from a place of the middle: farther where the line turns around a pivot. */
export function reachAt(turnings: readonly Turning[], x: number, y: number, half: number): number {
  let reach = half;
  for (const each of turnings) {
    if (Math.abs(distance(x, y, each.x, each.y) - each.radius) < 1e-3) reach = Math.max(reach, each.reach);
  }
  return reach;
}

/** Places from one to another, onwards, both among them. */
const between = (from: number, to: number, n: number): number[] =>
  Array.from({ length: ((to - from + n) % n) + 1 }, (_, k) => (from + k) % n);

/** The place that lies so far along a run from another; undefined where the run ends before, or comes round. */
function walked(points: Points, closed: boolean, at: number, step: 1 | -1, way: number): number | undefined {
  const n = points.length / 2;
  let i = at;
  for (let gone = 0, k = 0; gone < way; k++) {
    const next = i + step;
    if (k > n / 2 || (!closed && (next < 0 || next >= n))) return undefined;
    const j = (next + n) % n;
    gone += distance(points[i * 2], points[i * 2 + 1], points[j * 2], points[j * 2 + 1]);
    i = j;
  }
  return i;
}
