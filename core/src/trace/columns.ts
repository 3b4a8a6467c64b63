import { createSegmentGrid, type SegmentGrid } from '../geometry/segment-grid.js';
import { evenly } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { deepest, isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { coverage, ladderArea } from './column-cover.js';
import { trimEnds } from './column-ends.js';
import { behindMitre, spanAcross } from './rung-span.js';
import { dropCrossing, type Rung } from './rungs.js';
import { skeletonOf, type Skeleton } from './skeleton.js';
import { stretchesOf, type Corners, type Stretch } from './spine-stretches.js';
import { axisOf, spinesOf } from './spines.js';
import type { Column } from './column.js';

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
/** A mitre cuts rungs up to so many radii along the column: it is drawn past its corner by 5.5 half-widths. */
const MITRE_RADII = 8;

/**
 * Divides a shape into satin columns along its skeleton.
 * @param rings the shape's outline, in the mask's units
 */
export function columnsOf(
  mask: AreaMask,
  rings: readonly Points[],
  skeleton: Skeleton = skeletonOf(mask),
  corners: Corners = 'mitre',
): Columns {
  const widest = deepest(mask).radius / mask.scale;
  const grid = createSegmentGrid(rings, Math.max(0.5, widest));
  const columns: Column[] = [];
  let made = 0;
  let kept = 0;
  const spines = skeleton.branches.length > 0 ? spinesOf(skeleton, mask) : [];
  const useful = spines.filter((spine) => spine.points.length >= 4);
  for (const spine of useful.length > 0 ? useful : [axisOf(mask)]) {
    for (const stretch of stretchesOf(spine, mask, corners)) {
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
  if (stretch.start.kind === 'free') widenEnd(widths, run, radius, 1);
  if (stretch.end.kind === 'free') widenEnd(widths, run, radius, -1);
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
    for (const [ending, way] of [
      [stretch.start, i],
      [stretch.end, n - 1 - i],
    ] as const) {
      if (ending.kind !== 'mitre') continue;
      // Farther on the same column may well come round to the other side of the bisector.
      const reachOfCorner = MITRE_RADII * Math.max(0.4, radius(ending.x, ending.y));
      if (way * RUNG_STEP < reachOfCorner) [from, to] = behindMitre(ending, x, y, nx, ny, from, to);
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

/** Over so many rungs is measured how fast a shape narrows towards a free end; faster than this it ends square there. */
const END_RUNGS = 3;
const END_SLOPE = 0.38;

/**
 * Towards a square end the radius falls to nothing, though the column is as wide as before: all rungs outside the place
 * from where it falls reach as far as the radius there.
 * @param step 1 from the start of the run, -1 from its end
 */
function widenEnd(widths: Float64Array, run: Points, radius: (x: number, y: number) => number, step: 1 | -1): void {
  const n = widths.length;
  const first = step === 1 ? 0 : n - 1;
  const at = (k: number): number => first + k * step;
  const own = (k: number): number => radius(run[at(k) * 2], run[at(k) * 2 + 1]);
  let k = 0;
  while (k < n - 1 && own(k) === 0) k++;
  while (k + END_RUNGS < n && own(k + END_RUNGS) - own(k) > END_SLOPE * END_RUNGS * RUNG_STEP) k++;
  const reach = own(Math.min(n - 1, k));
  for (let j = 0; j < k; j++) widths[at(j)] = Math.max(widths[at(j)], reach);
}
