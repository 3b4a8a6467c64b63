import { flatten, type Curve } from '../geometry/curve.js';
import { isInside, lengthOf, reversed } from '../geometry/polyline.js';
import { createSegmentGrid, type SegmentGrid } from '../geometry/segment-grid.js';
import { distance, type Points } from '../geometry/vector.js';
import { maskOfRings, type AreaMask } from './area-mask.js';
import type { Column } from './column.js';
import { judged, type Columns } from './columns.js';
import { directionAt } from './direction-along.js';
import { middleReach, type MiddleReach } from './middle-reach.js';
import { reachAt, roundedRun, type Corner, type Turning } from './rounded-run.js';
import { behindMitre, spanAcross } from './rung-span.js';
import { dropCrossing, endBeforeCrossing, ladderOf, type Rung } from './rungs.js';
import type { Corners } from './spine-stretches.js';

/** A line somebody drew, and how wide. */
export interface Stroke {
  readonly paths: readonly Curve[];
  readonly widthMm: number;
}

/** Pixels to the unit in which is looked for bare places. */
const FINEST = 12;
/** Tolerance for turning curves into points. */
const FLATNESS = 0.02;
/** Rungs stand this far apart, in mm. */
const RUNG_STEP = 0.15;
/** A line that turns by more than this within its own width has a corner: the cosine of 62 degrees. */
const CORNER_COSINE = 0.47;
/** A line that turns by more than this is not turned around, however round its corners are meant: the cosine of 101 degrees. */
const FAN_COSINE = -0.2;
/** Way before and after a place over which a corner is looked for, in half-widths, and the least of it in mm. */
const CORNER_WAY = 0.8;
const LEAST_CORNER_WAY = 0.5;
/** The direction of a rung is taken over so many widths before and after it: narrow bends do not make it tremble. */
const TANGENT_WIDTHS = 0.3;
/** Past a corner a column goes on by at most so many half-widths, to the tip of its mitre. */
const MITRE_RADII = 5.5;
/** A mitre cuts rungs up to so many half-widths before its corner. */
const MITRE_REACH = 4;
/** An end that lies within this share of the half-width of another line meets it. */
const MEETS = 0.9;
/** No more than so many half-widths are cut off an end. */
const MOST_CUT = 4;
/** What butts another column reaches this far under it. */
const BUTT_OVERLAP = 0.3;
/** Shorter rungs, at the tips of mitres, are no stitches. */
const LEAST_RUNG = 0.25;
/** A middle line that has come away from its rungs stays this share of a rung within it. */
const RUNG_INSET = 0.1;
/** More rungs than this without any part of the shape between them, and the column ends and begins again. */
const GAP_RUNGS = 3;

type Ending =
  | { readonly kind: 'free' }
  /** The column goes on past its corner, by so far. */
  | { readonly kind: 'through'; readonly past: number }
  /** Its rungs stay behind a line through its corner; the normal points away from the column. */
  | {
      readonly kind: 'mitre';
      readonly past: number;
      readonly x: number;
      readonly y: number;
      readonly nx: number;
      readonly ny: number;
      /** Direction in which the column comes to its corner. */
      readonly dx: number;
      readonly dy: number;
    }
  /** It ends at the sides of other columns. */
  | { readonly kind: 'butt'; readonly sides: readonly Side[] };

/** Another column passes through a place along a direction. */
interface Side {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
}

interface Stretch {
  readonly points: Points;
  readonly closed: boolean;
  readonly start: Ending;
  readonly end: Ending;
  /** Where it turns around its corners. */
  readonly turnings: readonly Turning[];
}

/**
 * Satin columns along a line that was drawn with a width: its own middle is the columns', so that corners and ends are where they
 * were drawn, and nothing has to be found again in pixels.
 * @param rings what is sewn of it, in mm: the line's outline, or what is left of that
 * @param mask the same as pixels
 */
export function strokeColumns(
  { paths, widthMm }: Stroke,
  rings: readonly Points[],
  corners: Corners,
  mask: AreaMask = maskOfRings(rings, FINEST),
): Columns {
  const half = widthMm / 2;
  const grid = createSegmentGrid(rings, Math.max(0.5, half));
  const inside = (x: number, y: number): boolean => isInside(rings, x, y);
  const columns: Column[] = [];
  let made = 0;
  let kept = 0;
  const runs = paths.map((path) => flatten(path, FLATNESS)).filter((r) => r.length >= 4 && lengthOf(r) >= RUNG_STEP);
  const laid = runs.map((run) => laidRun(run, half, corners));
  // Lines that end somewhere pass each other; only closed ones have a middle between them.
  const toMiddle = middleReach(
    laid.flatMap(({ points, closed }) => (closed ? [points] : [])),
    half,
  );
  for (const [k, run] of runs.entries()) {
    const ends = [true, false].map((atStart) => endOf(run, atStart, k, runs, half)) as [Ending, Ending];
    const reach = laid[k].closed ? toMiddle && besidePoints(toMiddle, laid[k], half, corners) : undefined;
    for (const stretch of stretchesOfRun(laid[k], ends, half, corners)) {
      for (const part of rungsAlong(stretch, half, grid, inside, reach)) {
        const rungs = dropCrossing(reach ? endBeforeCrossing(part.rungs) : part.rungs);
        made += part.rungs.length;
        kept += rungs.length;
        if (rungs.length < 3) continue;
        const ladder = ladderOf(rungs);
        columns.push({
          ...ladder,
          // Past a mitre the neighbour's thread lies over it.
          spine: corners === 'point' ? rungs.flatMap(belowThread) : ladder.spine,
          closed: part.closed,
          free: part.free,
        });
      }
    }
  }
  return judged(mask, columns, made > 0 ? 1 - kept / made : 1, corners !== 'round');
}

/** Where the middle line passes below a rung: a tip that is cut away on one side has rungs beside the line it was drawn along. */
function belowThread({ x, y, ax, ay, bx, by }: Rung): [x: number, y: number] {
  const [dx, dy] = [bx - ax, by - ay];
  const t = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy);
  if (t >= 0 && t <= 1) return [x, y];
  const inner = t < 0 ? RUNG_INSET : 1 - RUNG_INSET;
  return [ax + dx * inner, ay + dy * inner];
}

/** A run as its column goes along it: rounded where that is asked for, and where it is cut. */
interface LaidRun {
  readonly points: Points;
  readonly closed: boolean;
  readonly turnings: readonly Turning[];
  readonly cuts: readonly Corner[];
}

function laidRun(run: Points, half: number, corners: Corners): LaidRun {
  const n = run.length;
  const closed = n > 6 && distance(run[0], run[1], run[n - 2], run[n - 1]) < FLATNESS;
  const drawn = dense(run, closed);
  const found = cornersOf(drawn, closed, half);
  const fans = corners === 'round' ? found.filter(({ cosine }) => cosine > FAN_COSINE) : [];
  const { points, turnings } = roundedRun(drawn, closed, fans, half);
  // What was rounded is no corner any more; what is too sharp for that has its two sides meet.
  const cuts = fans.length === 0 ? found : cornersOf(points, closed, half).filter(({ cosine }) => cosine <= FAN_COSINE);
  return { points, closed, turnings, cuts };
}

/** A column drawn out to the point of a corner goes on across what its neighbour would have, which butts against it. */
function besidePoints(toMiddle: MiddleReach, { points, cuts }: LaidRun, half: number, corners: Corners): MiddleReach {
  if (corners !== 'point') return toMiddle;
  const tips = cuts.map(({ at, cosine }) => ({
    x: points[at * 2],
    y: points[at * 2 + 1],
    past: pastCorner(cosine, half),
  }));
  return (x, y, nx, ny) =>
    tips.some((tip) => distance(x, y, tip.x, tip.y) <= tip.past) ? Infinity : toMiddle(x, y, nx, ny);
}

/** How far past a corner the outer sides meet, and a little farther: half the turn's tangent, in half-widths. */
const pastCorner = (cosine: number, half: number): number =>
  Math.min(MITRE_RADII, Math.sqrt((1 - cosine) / Math.max(1e-6, 1 + cosine))) * half + BUTT_OVERLAP;

/** Cuts a run at its corners. */
function stretchesOfRun(
  { points, closed, turnings, cuts }: LaidRun,
  [first, final]: readonly [Ending, Ending],
  half: number,
  corners: Corners,
): Stretch[] {
  if (cuts.length === 0) return [{ points, closed, start: first, end: final, turnings }];
  const out: Stretch[] = [];
  const count = points.length / 2;
  const ends = cuts.map((cut) => endsAt(points, cut, half, corners));
  const part = (from: number, to: number, start: Ending, end: Ending): void => {
    const own: Points = [];
    for (let i = from; i <= to; i++) own.push(points[(i % count) * 2], points[(i % count) * 2 + 1]);
    if (own.length >= 4) out.push({ points: own, closed: false, start, end, turnings });
  };
  const last = cuts.length - 1;
  if (closed) part(cuts[last].at, cuts[0].at + count, ends[last].leaves, ends[0].comes);
  else part(0, cuts[0].at, first, ends[0].comes);
  for (let k = 0; k < last; k++) part(cuts[k].at, cuts[k + 1].at, ends[k].leaves, ends[k + 1].comes);
  if (!closed) part(cuts[last].at, count - 1, ends[last].leaves, final);
  return out;
}

/** How a run ends: at the side of another that it meets, else freely. Of two ends that meet the one listed first goes on. */
function endOf(run: Points, atStart: boolean, index: number, runs: readonly Points[], half: number): Ending {
  const n = run.length;
  const [x, y] = atStart ? [run[0], run[1]] : [run[n - 2], run[n - 1]];
  const sides: Side[] = [];
  for (const [k, other] of runs.entries()) {
    if (k === index) continue;
    const met = nearestOn(other, x, y);
    if (met.gap > half * MEETS) continue;
    const m = other.length;
    const toEnd = Math.min(
      distance(met.x, met.y, other[0], other[1]),
      distance(met.x, met.y, other[m - 2], other[m - 1]),
    );
    const isClosed = distance(other[0], other[1], other[m - 2], other[m - 1]) < FLATNESS;
    if (toEnd < half && !isClosed && k > index) continue;
    sides.push(met);
  }
  return sides.length > 0 ? { kind: 'butt', sides } : { kind: 'free' };
}

/** The nearest place of a run, and the direction it has there. */
function nearestOn(run: Points, x: number, y: number): { x: number; y: number; dx: number; dy: number; gap: number } {
  let best = { x, y, dx: 1, dy: 0, gap: Infinity };
  for (let i = 2; i < run.length; i += 2) {
    const [ax, ay] = [run[i - 2], run[i - 1]];
    const [dx, dy] = [run[i] - ax, run[i + 1] - ay];
    const square = dx * dx + dy * dy;
    if (square === 0) continue;
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square));
    const gap = distance(x, y, ax + dx * t, ay + dy * t);
    const length = Math.sqrt(square);
    if (gap < best.gap) best = { x: ax + dx * t, y: ay + dy * t, dx: dx / length, dy: dy / length, gap };
  }
  return best;
}

/** What the stretches before and after a corner end with. */
function endsAt(points: Points, corner: Corner, half: number, corners: Corners): { comes: Ending; leaves: Ending } {
  const { at, inX, inY, outX, outY, cosine } = corner;
  const past = pastCorner(cosine, half);
  if (corners === 'point') {
    const [x, y] = [points[at * 2], points[at * 2 + 1]];
    return { comes: { kind: 'through', past }, leaves: { kind: 'butt', sides: [{ x, y, dx: inX, dy: inY }] } };
  }
  const length = Math.sqrt((inX + outX) ** 2 + (inY + outY) ** 2) || 1;
  const [nx, ny] = [(inX + outX) / length, (inY + outY) / length];
  const [x, y] = [points[at * 2], points[at * 2 + 1]];
  return {
    comes: { kind: 'mitre', past, x, y, nx, ny, dx: inX, dy: inY },
    leaves: { kind: 'mitre', past, x, y, nx: -nx, ny: -ny, dx: -outX, dy: -outY },
  };
}

/** A run with points no farther apart than rungs, its own points among them; of a closed one the first is not said again. */
function dense(run: Points, closed: boolean): Points {
  const out: Points = [run[0], run[1]];
  for (let i = 2; i < run.length; i += 2) {
    const [ax, ay, bx, by] = [run[i - 2], run[i - 1], run[i], run[i + 1]];
    const parts = Math.ceil(distance(ax, ay, bx, by) / RUNG_STEP - 1e-9);
    for (let k = 1; k <= parts; k++) out.push(ax + ((bx - ax) * k) / parts, ay + ((by - ay) * k) / parts);
  }
  return closed && out.length > 6 ? out.slice(0, -2) : out;
}

function cornersOf(points: Points, closed: boolean, half: number): Corner[] {
  const n = points.length / 2;
  const way = Math.max(LEAST_CORNER_WAY, half * CORNER_WAY);
  const found: Corner[] = [];
  for (let i = 0; i < n; i++) {
    const before = directionAt(points, i, -1, way, closed);
    const after = directionAt(points, i, 1, way, closed);
    if (!before || !after) continue;
    const cosine = -(before.dx * after.dx + before.dy * after.dy);
    if (cosine > CORNER_COSINE) continue;
    found.push({ at: i, inX: -before.dx, inY: -before.dy, outX: after.dx, outY: after.dy, cosine });
  }
  // Of a bend seen from several points the sharpest is the corner.
  found.sort((a, b) => a.cosine - b.cosine || a.at - b.at);
  const kept: Corner[] = [];
  for (const c of found) {
    const near = (k: Corner): boolean =>
      distance(points[k.at * 2], points[k.at * 2 + 1], points[c.at * 2], points[c.at * 2 + 1]) < way * 1.6;
    if (!kept.some(near)) kept.push(c);
  }
  return kept.sort((a, b) => a.at - b.at);
}

interface Ladder {
  readonly rungs: Rung[];
  readonly closed: boolean;
  readonly free: readonly [start: boolean, end: boolean];
}

/** Ladders along a stretch: one, or several where the shape has been cut between them. */
function rungsAlong(
  stretch: Stretch,
  half: number,
  grid: SegmentGrid,
  inside: (x: number, y: number) => boolean,
  toMiddle: MiddleReach | undefined,
): Ladder[] {
  const { closed, start, end } = stretch;
  const points = closed ? stretch.points : drawnPast(stretch, half);
  const spineAt = spineOf(stretch);
  const n = points.length / 2;
  const over = Math.max(1, Math.round((TANGENT_WIDTHS * half * 2) / RUNG_STEP));
  const out: Ladder[] = [];
  let isFree = !closed && start.kind === 'free';
  let rungs: Rung[] = [];
  let missing = 0;
  let whole = true;
  for (let i = 0; i < n; i++) {
    const [x, y] = [points[i * 2], points[i * 2 + 1]];
    const p = closed ? (i - over + n) % n : Math.max(0, i - over);
    const q = closed ? (i + over) % n : Math.min(n - 1, i + over);
    const tx = points[q * 2] - points[p * 2];
    const ty = points[q * 2 + 1] - points[p * 2 + 1];
    const length = Math.sqrt(tx * tx + ty * ty);
    if (length === 0) continue;
    const [nx, ny] = [ty / length, -tx / length];
    let [from, to] = spanAcross(grid, inside, x, y, nx, ny, reachAt(stretch.turnings, x, y, half) + FLATNESS) ?? [0, 0];
    if (toMiddle) {
      to = Math.min(to, toMiddle(x, y, nx, ny));
      from = Math.max(from, -toMiddle(x, y, -nx, -ny));
    }
    for (const [ending, way] of [
      [start, i],
      [end, n - 1 - i],
    ] as const) {
      // Farther on the same column may well come round to the other side of the bisector.
      if (ending.kind === 'mitre' && way * RUNG_STEP < ending.past + MITRE_REACH * half)
        [from, to] = behindMitre(ending, x, y, nx, ny, from, to);
    }
    if (to - from < LEAST_RUNG) {
      whole = false;
      if (rungs.length > 0 && ++missing > GAP_RUNGS) {
        out.push({ rungs, closed: false, free: [isFree, false] });
        isFree = false;
        rungs = [];
        missing = 0;
      }
      continue;
    }
    missing = 0;
    rungs.push({ ...spineAt(x, y), ax: x + nx * to, ay: y + ny * to, bx: x + nx * from, by: y + ny * from });
  }
  const endsFree = !closed && end.kind === 'free' && missing <= GAP_RUNGS;
  if (rungs.length > 0) out.push({ rungs, closed: closed && whole, free: [isFree, endsFree] });
  // A closed line that was cut begins behind the cut, and not where somebody began to draw it.
  const first = out[0];
  if (closed && !whole && out.length > 1 && missing === 0 && startsAt(first.rungs[0], points)) {
    const last = out.pop();
    out[0] = { rungs: [...(last?.rungs ?? []), ...first.rungs], closed: false, free: [false, false] };
  }
  return out;
}

const startsAt = ({ x, y }: Rung, points: Points): boolean => distance(x, y, points[0], points[1]) < RUNG_STEP;

/** The middle line ends at a corner, where that of the next column begins, though rungs go on to the mitre's tip. */
function spineOf({ start, end }: Stretch): (x: number, y: number) => { x: number; y: number } {
  const mitres = [start, end].filter((ending) => ending.kind === 'mitre');
  return (x, y) => {
    for (const mitre of mitres) {
      const ahead = (x - mitre.x) * mitre.dx + (y - mitre.y) * mitre.dy;
      if (ahead > 0 && distance(x, y, mitre.x, mitre.y) <= mitre.past + RUNG_STEP) return { x: mitre.x, y: mitre.y };
    }
    return { x, y };
  };
}

/** The points of a stretch with what its ends ask for: past a free end or a corner, or short of another column. */
function drawnPast({ points, start, end }: Stretch, half: number): Points {
  let out = points;
  for (const atStart of [false, true]) {
    const ending = atStart ? start : end;
    if (ending.kind === 'butt') {
      // What is cut for one may be enough for the next as well.
      for (const side of ending.sides) out = shortOf(out, side, half, atStart);
    } else out = goneOn(out, ending.kind === 'free' ? half : ending.past, half, atStart);
  }
  return out;
}

function goneOn(points: Points, past: number, half: number, atStart: boolean): Points {
  const n = points.length / 2;
  const [first, step] = atStart ? [0, 1] : [n - 1, -1];
  const [x, y] = [points[first * 2], points[first * 2 + 1]];
  let at = first;
  for (let k = 1; k < n && distance(x, y, points[at * 2], points[at * 2 + 1]) < Math.max(0.4, half * 0.5); k++)
    at += step;
  const [dx, dy] = [x - points[at * 2], y - points[at * 2 + 1]];
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return points;
  const more: Points = [];
  for (let way = RUNG_STEP; way < past + RUNG_STEP; way += RUNG_STEP) {
    more.push(x + (dx / length) * way, y + (dy / length) * way);
  }
  return atStart ? [...reversed(more), ...points] : [...points, ...more];
}

/** Without what lies in a column that passes; a run that leads along it stays, since it would go with all of it. */
function shortOf(points: Points, { x, y, dx, dy }: Side, half: number, atStart: boolean): Points {
  const n = points.length / 2;
  const [first, step] = atStart ? [0, 1] : [n - 1, -1];
  const isOut = (i: number): boolean =>
    Math.abs((points[i * 2] - x) * dy - (points[i * 2 + 1] - y) * dx) >= half - BUTT_OVERLAP;
  const most = Math.min(n - 2, Math.ceil((MOST_CUT * half) / RUNG_STEP));
  let k = 0;
  while (k < most && !isOut(first + k * step)) k++;
  if (k >= most) return points;
  return atStart ? points.slice(k * 2) : points.slice(0, (n - k) * 2);
}
