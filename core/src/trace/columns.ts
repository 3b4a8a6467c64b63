import { createSegmentGrid, type SegmentGrid } from '../geometry/segment-grid.js';
import { evenly } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { deepest, fromMask, isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { bareRests, patchOver } from './bare-rests.js';
import { coveredBy, ladderArea, shareOf } from './column-cover.js';
import { trimEnds } from './column-ends.js';
import { behindMitre, spanAcross } from './rung-span.js';
import { dropCrossing, ladderOf, type Rung } from './rungs.js';
import { skeletonOf, type Skeleton } from './skeleton.js';
import { stretchesOf, type Corners, type Stretch } from './spine-stretches.js';
import { axisOf, spinesOf, type Spine } from './spines.js';
import type { Column } from './column.js';

/** How a shape divides into columns, and how well they fill it. */
export interface Columns {
  readonly columns: readonly Column[];
  /** Share of the shape that lies in a column. */
  readonly covered: number;
  /** The largest part that none covers, in square units; 0 where none would be seen. */
  readonly hole: number;
  /** Area of all columns compared with that of the shape: over 1 where they lie over each other. */
  readonly bulk: number;
  /** Share of the rungs that had to be left out because they crossed others. */
  readonly dropped: number;
}

/** Bare parts that get a column of their own. */
const MOST_PATCHES = 4;
/** Rungs stand this far apart, in the mask's units. */
const RUNG_STEP = 0.15;
/** A rung reaches at most this many local radii from the spine, and fewer near a junction. */
const RAY_RADII = 1.6;
const RAY_RADII_AT_JUNCTION = 1.25;
/** The direction of a rung is taken over so many radii, and rungs at most, before and after it: kinks spread. */
const TANGENT_RADII = 0.6;
const MOST_TANGENT = 8;
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
  const spines = skeleton.branches.length > 0 ? spinesOf(skeleton, mask) : [];
  const useful = spines.filter((spine) => spine.points.length >= 4);
  const divided = (style: Corners | 'last'): Divided =>
    divide(useful.length > 0 ? useful : [axisOf(mask)], mask, grid, style);
  let best = divided(corners);
  if (corners === 'mitre' && best.corners > 0) {
    // Where the foot of a stem stands out below its bowl there is no mitre: one half goes on, and the other butts.
    let least = raggedness(best.columns, mask) - FOR_MITRE;
    for (const style of least > 0 ? (['point', 'last'] as const) : []) {
      const other = divided(style);
      const ragged = raggedness(other.columns, mask);
      if (ragged < least) [best, least] = [other, ragged];
    }
  }
  return judged(mask, best.columns, best.dropped, corners !== 'round');
}

interface Divided {
  readonly columns: readonly Column[];
  /** Sharp corners its middle lines were cut at. */
  readonly corners: number;
  /** Share of the rungs that crossed others. */
  readonly dropped: number;
}

function divide(spines: readonly Spine[], mask: AreaMask, grid: SegmentGrid, style: Corners | 'last'): Divided {
  const columns: Column[] = [];
  let [made, kept, corners] = [0, 0, 0];
  for (const spine of spines) {
    const stretches = stretchesOf(spine, mask, style);
    corners += stretches.length - 1;
    for (const stretch of stretches) {
      const all = withoutFlares(rungsAlong(stretch, mask, grid), passed(spine, mask));
      const rungs = dropCrossing(all);
      made += all.length;
      kept += rungs.length;
      if (rungs.length < 3) continue;
      columns.push({
        ...ladderOf(rungs),
        closed: stretch.closed,
        free: [!stretch.closed && stretch.start.kind === 'free', !stretch.closed && stretch.end.kind === 'free'],
      });
    }
  }
  return { columns, corners, dropped: made > 0 ? 1 - kept / made : 1 };
}

/** A mitre is worth so much raggedness to the eye. */
const FOR_MITRE = 0.2;
/** A rail that goes on by more than this from rung to rung jumps. */
const JUMP = 0.6;
/** What is left bare counts so many times. */
const BARE = 3;

/** How far the rails of columns jump, in the mask's units, and how much they leave bare. */
function raggedness(columns: readonly Column[], mask: AreaMask): number {
  let sum = 0;
  for (const { rungs: r } of columns) {
    for (let i = 4; i < r.length; i += 2) sum += Math.max(0, distance(r[i - 4], r[i - 3], r[i], r[i + 1]) - JUMP);
  }
  return bareRests(mask, coveredBy(mask, columns)).reduce((all, { area }) => all + BARE * area, sum);
}

/**
 * Columns of a mask with patches over what they leave bare, and how well they fill it.
 * @param patched where columns go round their corners, the tips stay bare on purpose
 */
export function judged(mask: AreaMask, columns: readonly Column[], dropped: number, patched = true): Columns {
  const all = [...columns];
  let covered = coveredBy(mask, all);
  let rests = bareRests(mask, covered);
  const patches = rests.slice(0, patched ? MOST_PATCHES : 0).flatMap((rest) => patchOver(rest, mask) ?? []);
  if (columns.length > 0 && patches.length > 0) {
    all.push(...patches);
    covered = coveredBy(mask, all);
    rests = bareRests(mask, covered);
  }
  const shape = mask.area / (mask.scale * mask.scale);
  return {
    columns: all,
    covered: shareOf(mask, covered),
    hole: rests[0]?.area ?? 0,
    bulk: columns.reduce((sum, column) => sum + ladderArea(column), 0) / Math.max(1e-9, shape),
    dropped,
  };
}

/** A column that others butt widens into them: near the junction, in its radii, its rungs keep to the width around it. */
const JUNCTION_RADII = 1.5;
const OPENING_RADII = 1.15;
/** So far they reach under what butts them, all the same. */
const REACH_INTO_ARMS = 0.3;

interface Junction {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/** Junctions a spine passes, in the mask's units. */
function passed({ passes }: Spine, mask: AreaMask): Junction[] {
  const out: Junction[] = [];
  for (let i = 0; i < passes.length; i += 2) {
    const [x, y] = fromMask(mask, [passes[i], passes[i + 1]]);
    out.push({ x, y, radius: radiusAt(mask, passes[i], passes[i + 1]) / mask.scale });
  }
  return out;
}

/** Rungs that do not widen where others butt: each side is opened by a window along the column, as an image is. */
function withoutFlares(rungs: Rung[], junctions: readonly Junction[]): Rung[] {
  if (junctions.length === 0) return rungs;
  const a = rungs.map((r) => distance(r.x, r.y, r.ax, r.ay));
  const b = rungs.map((r) => distance(r.x, r.y, r.bx, r.by));
  const out = rungs.slice();
  for (const { x, y, radius } of junctions) {
    const reach = Math.max(1, Math.round((OPENING_RADII * radius) / RUNG_STEP));
    rungs.forEach((rung, i) => {
      if (distance(rung.x, rung.y, x, y) > JUNCTION_RADII * radius) return;
      const keep = (sides: readonly number[]): number =>
        sides[i] > 0 ? Math.min(1, (openedAt(sides, i, reach) + REACH_INTO_ARMS) / sides[i]) : 1;
      const [ka, kb] = [keep(a), keep(b)];
      const { ax, ay, bx, by } = out[i];
      out[i] = {
        ...rung,
        ax: nearer(rung.x, ax, rung.x + (rung.ax - rung.x) * ka),
        ay: nearer(rung.y, ay, rung.y + (rung.ay - rung.y) * ka),
        bx: nearer(rung.x, bx, rung.x + (rung.bx - rung.x) * kb),
        by: nearer(rung.y, by, rung.y + (rung.by - rung.y) * kb),
      };
    });
  }
  return out;
}

const nearer = (from: number, a: number, b: number): number => (Math.abs(a - from) < Math.abs(b - from) ? a : b);

/** A value of a list after bumps narrower than the window have been taken off: erosion, then dilation. */
function openedAt(list: readonly number[], i: number, reach: number): number {
  let most = 0;
  for (let k = Math.max(0, i - reach); k <= Math.min(list.length - 1, i + reach); k++) {
    let least = Infinity;
    for (let j = Math.max(0, k - reach); j <= Math.min(list.length - 1, k + reach); j++)
      least = Math.min(least, list[j]);
    most = Math.max(most, least);
  }
  return most;
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
    const over = Math.min(MOST_TANGENT, Math.max(1, Math.round((widths[i] * TANGENT_RADII) / RUNG_STEP)));
    const p = stretch.closed ? (i + n - over) % n : Math.max(0, i - over);
    const q = stretch.closed ? (i + over) % n : Math.min(n - 1, i + over);
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
