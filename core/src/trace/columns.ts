import { createSegmentGrid, type SegmentGrid } from '../geometry/segment-grid.js';
import { evenly, reversed } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { deepest, fromMask, isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { dropCrossing, type Rung } from './rungs.js';
import { skeletonOf, type Skeleton } from './skeleton.js';
import { smoothSpine } from './smooth-spine.js';
import { spinesOf, type Spine } from './spines.js';

/** A column of satin: a ladder of rungs across a shape. */
export interface Column {
  /** Rungs from the column's start to its end, four numbers each: left end, right end. */
  readonly rungs: Points;
  readonly closed: boolean;
  /** Middle line, from edge to edge: the way the needle takes below the satin. */
  readonly spine: Points;
}

/** How a shape divides into columns, and how well they fill it. */
export interface Columns {
  readonly columns: readonly Column[];
  /** Share of the shape that lies in a column. */
  readonly covered: number;
  /** Area of all columns compared with that of the shape: over 1 where they lie over each other. */
  readonly bulk: number;
  /** Share of the rungs that had to be left out because they crossed others. */
  readonly dropped: number;
}

/** Rungs stand this far apart, in the mask's units. */
const RUNG_STEP = 0.15;
/** A rung reaches at most this many local radii from the spine, and fewer near a junction. */
const RAY_RADII = 1.6;
const RAY_RADII_AT_JUNCTION = 1.25;
/** A spine that turns by more than this is cut at the corner: the cosine of 62 degrees. */
const CORNER_COSINE = 0.47;
/** Way over which the narrowing of a shape is measured. */
const SLOPE_WAY = 0.4;
/** Mitred halves reach this far over the bisector. */
const MITRE_OVERLAP = 0.25;

/** A stretch of a spine between sharp corners, in the mask's units, and what cuts its ends. */
interface Stretch {
  readonly points: Points;
  readonly closed: boolean;
  readonly start: Ending;
  readonly end: Ending;
}

type Ending =
  | { readonly kind: 'free' | 'butt' }
  /** The rungs stay behind a line through a corner; its normal points away from the stretch. */
  | { readonly kind: 'mitre'; readonly x: number; readonly y: number; readonly nx: number; readonly ny: number };

/**
 * Divides a shape into satin columns along its skeleton.
 * @param rings the shape's outline, in the mask's units
 */
export function columnsOf(mask: AreaMask, rings: readonly Points[], skeleton: Skeleton = skeletonOf(mask)): Columns {
  const widest = deepest(mask).radius / mask.scale;
  const grid = createSegmentGrid(rings, Math.max(0.5, widest));
  const columns: Column[] = [];
  let made = 0;
  let kept = 0;
  const spines = skeleton.branches.length > 0 ? spinesOf(skeleton, mask) : [];
  const useful = spines.filter((spine) => spine.points.length >= 4);
  for (const spine of useful.length > 0 ? useful : [axisOf(mask)]) {
    for (const stretch of stretchesOf(spine, mask)) {
      const all = rungsAlong(stretch, mask, grid);
      const rungs = dropCrossing(all);
      made += all.length;
      kept += rungs.length;
      if (rungs.length < 3) continue;
      columns.push({
        rungs: rungs.flatMap((r) => [r.ax, r.ay, r.bx, r.by]),
        closed: stretch.closed,
        spine: rungs.flatMap((r) => [r.x, r.y]),
      });
    }
  }
  const shape = mask.area / (mask.scale * mask.scale);
  const bulk = columns.reduce((sum, column) => sum + ladderArea(column), 0) / Math.max(1e-9, shape);
  return { columns, covered: coverage(mask, columns), bulk, dropped: made > 0 ? 1 - kept / made : 1 };
}

/** A shape without any middle line, a dot, has its longer axis as one. */
export function axisOf(mask: AreaMask): Spine {
  const { width, inside } = mask;
  let [n, sx, sy] = [0, 0, 0];
  const each = (visit: (x: number, y: number) => void): void => {
    for (let i = 0; i < inside.length; i++) if (inside[i]) visit((i % width) + 0.5, Math.floor(i / width) + 0.5);
  };
  each((x, y) => {
    n++;
    sx += x;
    sy += y;
  });
  const cx = sx / Math.max(1, n);
  const cy = sy / Math.max(1, n);
  let [xx, xy, yy] = [0, 0, 0];
  each((x, y) => {
    xx += (x - cx) ** 2;
    xy += (x - cx) * (y - cy);
    yy += (y - cy) ** 2;
  });
  // The axis of the larger of the two moments.
  const half = (xx - yy) / 2;
  const root = Math.sqrt(half * half + xy * xy);
  let dx = half + root;
  let dy = xy;
  if (Math.abs(dx) + Math.abs(dy) < 1e-9) [dx, dy] = half >= 0 ? [1, 0] : [0, 1];
  const length = Math.sqrt(dx * dx + dy * dy);
  const reach = Math.max(1, deepest(mask).radius * 0.5);
  const [ux, uy] = [(dx / length) * reach, (dy / length) * reach];
  return { points: [cx - ux, cy - uy, cx + ux, cy + uy], closed: false, startButts: false, endButts: false };
}

/** Cuts a spine at its sharp corners and smooths what is between. */
function stretchesOf(spine: Spine, mask: AreaMask): Stretch[] {
  const { points } = spine;
  const corners = sharpCorners(spine, mask);
  const free = (butts: boolean): Ending => ({ kind: butts ? 'butt' : 'free' });
  const cuts: { at: number; mitre: Ending; back: Ending }[] = corners.map(({ at, nx, ny }) => {
    const [x, y] = fromMask(mask, [points[at], points[at + 1]]);
    return { at, mitre: { kind: 'mitre', x, y, nx, ny }, back: { kind: 'mitre', x, y, nx: -nx, ny: -ny } };
  });
  if (cuts.length === 0) {
    const smooth = fromMask(mask, smoothSpine(points, spine.closed, mask));
    return [{ points: smooth, closed: spine.closed, start: free(spine.startButts), end: free(spine.endButts) }];
  }
  const out: Stretch[] = [];
  const part = (run: Points, start: Ending, end: Ending): void => {
    if (run.length < 4) return;
    out.push({ points: fromMask(mask, smoothSpine(run, false, mask)), closed: false, start, end });
  };
  if (spine.closed) {
    const last = cuts[cuts.length - 1];
    part([...points.slice(last.at), ...points.slice(2, cuts[0].at + 2)], last.back, cuts[0].mitre);
  } else part(points.slice(0, cuts[0].at + 2), free(spine.startButts), cuts[0].mitre);
  cuts.forEach(({ at, back }, i) => {
    if (i + 1 < cuts.length) part(points.slice(at, cuts[i + 1].at + 2), back, cuts[i + 1].mitre);
    else if (!spine.closed) part(points.slice(at), back, free(spine.endButts));
  });
  return out;
}

/** Places where a spine turns sharply, with the bisector's normal pointing onwards. */
function sharpCorners(spine: Spine, mask: AreaMask): { at: number; nx: number; ny: number }[] {
  const { points, closed } = spine;
  const n = points.length / 2;
  const found: { at: number; cosine: number; nx: number; ny: number; radius: number }[] = [];
  for (let i = closed ? 0 : 2; i < (closed ? n - 1 : n - 2); i++) {
    const radius = radiusAt(mask, points[i * 2], points[i * 2 + 1]);
    const reach = Math.max(4, radius * 1.3);
    const before = directionAt(points, i, -1, reach, closed);
    const after = directionAt(points, i, 1, reach, closed);
    if (!before || !after) continue;
    const cosine = -(before.dx * after.dx + before.dy * after.dy);
    if (cosine > CORNER_COSINE) continue;
    const [nx, ny] = [after.dx - before.dx, after.dy - before.dy];
    const length = Math.sqrt(nx * nx + ny * ny) || 1;
    found.push({ at: i * 2, cosine, nx: nx / length, ny: ny / length, radius: reach });
  }
  // Of a bend seen from several points the sharpest is the corner.
  found.sort((a, b) => a.cosine - b.cosine || a.at - b.at);
  const kept: typeof found = [];
  for (const c of found) {
    const clear = kept.every(
      (k) => distance(points[k.at], points[k.at + 1], points[c.at], points[c.at + 1]) > k.radius * 1.6,
    );
    if (clear) kept.push(c);
  }
  return kept.sort((a, b) => a.at - b.at);
}

/** Direction from a point of a run to where the run is `reach` away; undefined where it ends before. */
function directionAt(
  points: Points,
  i: number,
  step: 1 | -1,
  reach: number,
  closed: boolean,
): { dx: number; dy: number } | undefined {
  const n = points.length / 2;
  let at = i;
  for (let k = 0; k < n; k++) {
    at += step;
    if (at < 0 || at >= n) {
      if (!closed) return undefined;
      at = (at + n) % n;
    }
    const dx = points[at * 2] - points[i * 2];
    const dy = points[at * 2 + 1] - points[i * 2 + 1];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length >= reach) return { dx: dx / length, dy: dy / length };
  }
  return undefined;
}

/** Rungs along one stretch, before those that cross are left out. */
function rungsAlong(stretch: Stretch, mask: AreaMask, grid: SegmentGrid): Rung[] {
  const radius = (x: number, y: number): number =>
    radiusAt(mask, (x - mask.left) * mask.scale, (y - mask.top) * mask.scale) / mask.scale;
  const inside = (x: number, y: number): boolean =>
    isInMask(mask, (x - mask.left) * mask.scale, (y - mask.top) * mask.scale);
  const trimmed = stretch.closed ? stretch.points : trimEnds(stretch, radius, inside);
  const run = evenly(trimmed, RUNG_STEP);
  const n = run.length / 2;
  const out: Rung[] = [];
  const widths = localRadii(run, radius, stretch.closed);
  const startRadius = radius(run[0], run[1]);
  const endRadius = radius(run[n * 2 - 2], run[n * 2 - 1]);
  for (let i = 0; i < n; i++) {
    const [x, y] = [run[i * 2], run[i * 2 + 1]];
    const p = stretch.closed ? (i + n - 1) % n : Math.max(0, i - 1);
    const q = stretch.closed ? (i + 1) % n : Math.min(n - 1, i + 1);
    const tx = run[q * 2] - run[p * 2];
    const ty = run[q * 2 + 1] - run[p * 2 + 1];
    const length = Math.sqrt(tx * tx + ty * ty);
    if (length === 0) continue;
    const [nx, ny] = [ty / length, -tx / length];
    const nearStart = stretch.start.kind === 'butt' && i * RUNG_STEP < startRadius * 1.5;
    const nearEnd = stretch.end.kind === 'butt' && (n - 1 - i) * RUNG_STEP < endRadius * 1.5;
    const reach = Math.max(widths[i], 0.1) * (nearStart || nearEnd ? RAY_RADII_AT_JUNCTION : RAY_RADII);
    const span = spanAcross(grid, inside, x, y, nx, ny, reach);
    if (!span) continue;
    let [from, to] = span;
    for (const ending of [stretch.start, stretch.end]) {
      if (ending.kind === 'mitre') [from, to] = clip(ending, x, y, nx, ny, from, to);
    }
    if (to - from < 0.05) continue;
    out.push({ x, y, ax: x + nx * to, ay: y + ny * to, bx: x + nx * from, by: y + ny * from });
  }
  return out;
}

/** Half-width of the column at every point: the largest radius within a half-width, since towards an end it falls. */
function localRadii(run: Points, radius: (x: number, y: number) => number, closed: boolean): Float64Array {
  const n = run.length / 2;
  const own = new Float64Array(n);
  let most = 0;
  for (let i = 0; i < n; i++) most = Math.max(most, (own[i] = radius(run[i * 2], run[i * 2 + 1])));
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    // Beyond the shape's edge the radius is nothing: the nearest point inside says how wide the column is.
    let reach = Math.ceil(Math.max(own[i], 0.2) / RUNG_STEP);
    for (let k = 1; own[i] === 0 && k < n; k++) {
      const near = Math.max(own[i - k] ?? 0, own[i + k] ?? 0);
      if (near > 0) {
        reach = k + Math.ceil((near * 2) / RUNG_STEP);
        break;
      }
    }
    for (let k = -Math.min(reach, n); k <= Math.min(reach, n); k++) {
      const at = closed ? (i + k + n) % n : i + k;
      if (at >= 0 && at < n) out[i] = Math.max(out[i], own[at]);
    }
    if (out[i] === 0) out[i] = most;
  }
  return out;
}

/** The part of a line across that lies in the shape: around the spine or, where that has left the shape, beside it. */
function spanAcross(
  grid: SegmentGrid,
  inside: (x: number, y: number) => boolean,
  x: number,
  y: number,
  nx: number,
  ny: number,
  reach: number,
): [number, number] | undefined {
  const cuts = grid.crossings(x, y, nx, ny, reach);
  if (inside(x, y)) {
    let from = -reach;
    let to = reach;
    for (const t of cuts) {
      if (t <= 0 && t > from) from = t;
      if (t > 0 && t < to) to = t;
    }
    return [from, to];
  }
  cuts.sort((a, b) => a - b);
  let best: [number, number] | undefined;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const middle = (cuts[i] + cuts[i + 1]) / 2;
    if (!inside(x + nx * middle, y + ny * middle)) continue;
    if (!best || Math.abs(middle) < Math.abs((best[0] + best[1]) / 2)) best = [cuts[i], cuts[i + 1]];
  }
  return best;
}

/** Keeps of a rung what lies on its side of a corner's bisector, and a little more. */
function clip(
  mitre: { x: number; y: number; nx: number; ny: number },
  x: number,
  y: number,
  nx: number,
  ny: number,
  from: number,
  to: number,
): [number, number] {
  const [bx, by] = [-mitre.nx, -mitre.ny];
  const base = (x - mitre.x) * bx + (y - mitre.y) * by;
  const slope = nx * bx + ny * by;
  // Kept where base + t * slope >= -overlap.
  if (Math.abs(slope) < 1e-6) return base >= -MITRE_OVERLAP ? [from, to] : [0, 0];
  const t = (-MITRE_OVERLAP - base) / slope;
  return slope > 0 ? [Math.max(from, t), to] : [from, Math.min(to, t)];
}

/** Free ends of a stretch are stripped where they narrow, then drawn out past the edge; butting ends stop short. */
function trimEnds(
  stretch: Stretch,
  radius: (x: number, y: number) => number,
  inside: (x: number, y: number) => boolean,
): Points {
  let points = stretch.points.slice();
  for (const atStart of [true, false]) {
    const ending = atStart ? stretch.start : stretch.end;
    if (!atStart) points = reversed(points);
    if (ending.kind === 'butt') points = stopShort(points, radius);
    else {
      if (ending.kind === 'free') points = stripNarrowing(points, radius);
      else points = leaveCorner(points, radius);
      points = drawPast(points, radius, inside, ending.kind === 'mitre');
    }
    if (!atStart) points = reversed(points);
  }
  return points;
}

function stopShort(points: Points, radius: (x: number, y: number) => number): Points {
  const r = radius(points[0], points[1]) * 0.95;
  let at = 0;
  while (at < points.length - 4 && distance(points[0], points[1], points[at], points[at + 1]) < r) at += 2;
  return points.slice(at);
}

/** Towards a square or slanted end the skeleton runs into a corner: there its radius falls faster than a column's. */
function stripNarrowing(points: Points, radius: (x: number, y: number) => number): Points {
  const inner = radius(points[0], points[1]);
  const most = inner * 2 + 1;
  let at = 0;
  let way = 0;
  let far = 0;
  for (let i = 0; i < points.length - 4 && way < most; i += 2) {
    const r = radius(points[i], points[i + 1]);
    // Radii come from pixels: only over some way do they say how fast the shape narrows.
    while (far < points.length - 2 && distance(points[i], points[i + 1], points[far], points[far + 1]) < SLOPE_WAY)
      far += 2;
    const step = distance(points[i], points[i + 1], points[far], points[far + 1]);
    if (step > 0 && (radius(points[far], points[far + 1]) - r) / step > 0.38) at = i + 2;
    way += distance(points[i], points[i + 1], points[i + 2], points[i + 3]);
  }
  return at > points.length - 6 ? points : points.slice(at);
}

/** Round a corner the skeleton cuts short: what leads straight to the corner begins one and a half radii before it. */
function leaveCorner(points: Points, radius: (x: number, y: number) => number): Points {
  const reach = radius(points[0], points[1]) * 1.5;
  let at = 0;
  while (at < points.length - 8 && distance(points[0], points[1], points[at], points[at + 1]) < reach) at += 2;
  return points.slice(at);
}

function drawPast(
  points: Points,
  radius: (x: number, y: number) => number,
  inside: (x: number, y: number) => boolean,
  far: boolean,
): Points {
  const half = Math.max(radius(points[0], points[1]), 0.2);
  let at = 2;
  const lever = half * (far ? 2 : 1);
  while (at < points.length - 2 && distance(points[0], points[1], points[at], points[at + 1]) < lever) at += 2;
  const dx = points[0] - points[at];
  const dy = points[1] - points[at + 1];
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return points;
  const [ux, uy] = [dx / length, dy / length];
  let way = 0;
  const most = half * (far ? 5.5 : 4);
  if (!far) while (way < most && inside(points[0] + ux * way, points[1] + uy * way)) way += 0.05;
  const past = far ? most : way + half * 1.4;
  return [points[0] + ux * past, points[1] + uy * past, ...points];
}

/** Area between the rungs of a column. */
function ladderArea({ rungs, closed }: Column): number {
  const n = rungs.length / 4;
  let sum = 0;
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const p = i * 4;
    const q = ((i + 1) % n) * 4;
    const [ax, ay, bx, by] = [rungs[p], rungs[p + 1], rungs[p + 2], rungs[p + 3]];
    const [cx, cy, dx, dy] = [rungs[q], rungs[q + 1], rungs[q + 2], rungs[q + 3]];
    // Half the cross product of the diagonals.
    sum += Math.abs((dx - ax) * (cy - by) - (dy - ay) * (cx - bx)) / 2;
  }
  return sum;
}

/** Share of the mask's pixels that lie between neighbouring rungs of some column. */
function coverage(mask: AreaMask, columns: readonly Column[]): number {
  const { width, height, inside, left, top, scale } = mask;
  const done = new Uint8Array(inside.length);
  // A pixel beside the ladder is covered by the thickness of the thread.
  const mark = (x: number, y: number): void => {
    const px = Math.floor((x - left) * scale);
    const py = Math.floor((y - top) * scale);
    if (px < 0 || py < 0 || px >= width || py >= height) return;
    done[py * width + px] = 1;
  };
  for (const { rungs, closed } of columns) {
    const n = rungs.length / 4;
    for (let i = 0; i < (closed ? n : n - 1); i++) {
      const p = i * 4;
      const q = ((i + 1) % n) * 4;
      const gap = Math.max(
        distance(rungs[p], rungs[p + 1], rungs[q], rungs[q + 1]),
        distance(rungs[p + 2], rungs[p + 3], rungs[q + 2], rungs[q + 3]),
      );
      const steps = Math.max(1, Math.ceil(gap * scale * 1.5));
      for (let k = 0; k < steps; k++) {
        const t = k / steps;
        const ax = rungs[p] + (rungs[q] - rungs[p]) * t;
        const ay = rungs[p + 1] + (rungs[q + 1] - rungs[p + 1]) * t;
        const bx = rungs[p + 2] + (rungs[q + 2] - rungs[p + 2]) * t;
        const by = rungs[p + 3] + (rungs[q + 3] - rungs[p + 3]) * t;
        const marks = Math.max(1, Math.ceil(distance(ax, ay, bx, by) * scale * 1.5));
        for (let m = 0; m <= marks; m++) mark(ax + ((bx - ax) * m) / marks, ay + ((by - ay) * m) / marks);
      }
    }
  }
  let hit = 0;
  for (let i = 0; i < inside.length; i++) {
    if (!inside[i]) continue;
    if (done[i] || done[i - 1] || done[i + 1] || done[i - width] || done[i + width]) hit++;
  }
  return mask.area > 0 ? hit / mask.area : 0;
}
