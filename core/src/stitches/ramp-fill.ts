import { common } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import { direction, distance, turnPoints, type Point, type Points } from '../geometry/vector.js';
import { lengthOfRamp, shareAt, thresholdOf, type Ramp } from '../geometry/ramp.js';
import { offsetPattern } from './offset-patterns.js';
import { bundles, rampRows, rowsBetween, type Band } from './ramp-rows.js';
import { tatami, type TatamiSettings } from './tatami.js';

type RampSettings = Omit<TatamiSettings, 'angle'>;

/** Shorter stretches of a row are not sewn. */
const SHORTEST_RUN = 1.2;
/** The thread goes on to a stretch this far away; farther ones begin anew. */
const REACH_MM = 4;
const STEP_MM = 0.1;

/**
 * Fills a shape with rows that open along a ramp. Along a line they lie across it, wherever the integral of the share, plus
 * a half, passes a whole number; where everything is covered they are an ordinary fill.
 */
export function rampFill(rings: readonly Points[], ramp: Ramp, settings: RampSettings): Points[] {
  if (ramp.shape === 'radial') return radialFill(rings, ramp, settings);
  const length = lengthOfRamp(ramp);
  const axis = { x: (ramp.x2 - ramp.x1) / length, y: (ramp.y2 - ramp.y1) / length };
  // Turned so that the way leads down from its start, and rows are level.
  const level = (x: number, y: number): [number, number] => [
    (x - ramp.x1) * axis.y - (y - ramp.y1) * axis.x,
    (x - ramp.x1) * axis.x + (y - ramp.y1) * axis.y,
  ];
  const back = (x: number, y: number): [number, number] => [
    ramp.x1 + x * axis.y + y * axis.x,
    ramp.y1 - x * axis.x + y * axis.y,
  ];
  const turned = rings.map((ring) => mapPlaces(ring, level));
  const box = boundsOf(turned);
  const top = Math.max(box.top, ramp.from * length);
  const bottom = Math.min(box.bottom, ramp.to * length);
  if (!(bottom - top > STEP_MM)) return [];
  const place = (p: Point | undefined): Point | undefined => {
    if (!p) return undefined;
    const [x, y] = level(p.x, p.y);
    return { x, y };
  };
  const { spacingMm } = settings;
  const bands =
    ramp.rows === 'bundled' ? (ramp.over ?? []).map((over) => bundles(over, length, spacingMm, top, bottom)) : [];
  const runs: Points[] = [];
  let rows: number[];
  if (isSolid(ramp)) {
    const ways = { entry: place(settings.entry), exit: place(settings.exit) };
    for (const [from, to] of between(bands, top, bottom, spacingMm)) {
      const strip = [box.left - 1, from, box.right + 1, from, box.right + 1, to, box.left - 1, to];
      const inside = from > box.top || to < box.bottom ? common(turned, [strip]) : turned;
      runs.push(...tatami(inside, { ...settings, ...ways, angle: 0 }));
    }
    rows = bands.flatMap((list) => rowsBetween(list, spacingMm)).sort((a, b) => a - b);
  } else {
    rows = rampRows(ramp, length, spacingMm, top, bottom);
  }
  const stretches: Stretch[] = [];
  rows.forEach((y, row) => {
    for (const [left, right] of spansAt(turned, y)) {
      if (right - left >= SHORTEST_RUN) stretches.push({ row, y, left, right });
    }
  });
  return [...runs, ...joinStretches(stretches, settings)].map((run) => mapPlaces(run, back));
}

/** What is left of the way, from place to place, where bands of the threads above are left out. */
function between(
  bands: readonly (readonly Band[])[],
  top: number,
  bottom: number,
  spacing: number,
): [number, number][] {
  // Each thread above covers nearly everything towards one end: its bands follow each other.
  const out = bands
    .filter((list) => list.length > 0)
    .map((list) => ({ from: list[0].from, to: list[list.length - 1].to }));
  const strips: [number, number][] = [];
  let at = top;
  for (const { from, to } of out.sort((a, b) => a.from - b.from)) {
    strips.push([at, Math.max(at, from + spacing)]);
    at = to - spacing;
  }
  strips.push([at, bottom]);
  return strips.filter(([from, to]) => to - from > STEP_MM);
}

function mapPlaces(points: Points, map: (x: number, y: number) => readonly [number, number]): Points {
  const out: Points = [];
  for (let i = 0; i < points.length; i += 2) out.push(...map(points[i], points[i + 1]));
  return out;
}

interface Stretch {
  readonly row: number;
  readonly y: number;
  readonly left: number;
  readonly right: number;
}

/**
 * Around a middle, level rows are cut where the share falls below the threshold of the row, in an order of rows that
 * leaves no stripes. Stretches are joined side by side; where one is shorter than the last, the needle goes back over its
 * own row first, so that nothing lies across.
 */
function radialFill(rings: readonly Points[], ramp: Ramp, settings: RampSettings): Points[] {
  if (isSolid(ramp)) {
    const disc = discOf(ramp);
    return tatami(disc ? common(rings, [disc]) : rings, { ...settings, angle: RADIAL_ANGLE });
  }
  const turned = direction(-RADIAL_ANGLE);
  const level = rings.map((ring) => turnPoints(ring, turned));
  const [cx, cy] = turnPoints([ramp.x1, ramp.y1], turned);
  const radius = lengthOfRamp(ramp);
  const { top, bottom } = boundsOf(level);
  const { spacingMm } = settings;
  const first = Math.floor(top / spacingMm);
  const stretches: Stretch[] = [];
  for (let row = first; row * spacingMm < bottom; row++) {
    const y = (row + 0.5) * spacingMm;
    const threshold = thresholdOf(row);
    const isSewn = (x: number): boolean => {
      const t = distance(x, y, cx, cy) / radius;
      if (t < ramp.from || t > ramp.to) return false;
      const own = shareAt(ramp.cover, t);
      return own >= threshold && !ramp.over?.some((over) => shareAt(over, t) >= threshold);
    };
    for (const [left, right] of spansAt(level, y)) {
      let from: number | undefined;
      const steps = Math.max(1, Math.ceil((right - left) / STEP_MM));
      for (let k = 0; k <= steps; k++) {
        const x = left + ((right - left) * k) / steps;
        const sewn = isSewn(x);
        if (sewn) from ??= x;
        if ((!sewn || k === steps) && from !== undefined) {
          if (x - from >= SHORTEST_RUN) stretches.push({ row, y, left: from, right: x });
          from = undefined;
        }
      }
    }
  }
  const back = direction(RADIAL_ANGLE);
  return joinStretches(stretches, settings).map((run) => turnPoints(run, back));
}

/** Whether everything is covered where there are rows at all. */
const isSolid = ({ over, cover, rows, shape }: Ramp): boolean =>
  (!over || (shape === 'linear' && rows === 'bundled')) && cover.every((share) => share > 0.999);

/** What lies within the end of a radial ramp; undefined where that is everything. */
function discOf(ramp: Ramp): Points | undefined {
  const radius = ramp.to * lengthOfRamp(ramp);
  if (radius > 1000) return undefined;
  const out: Points = [];
  for (let degrees = 0; degrees < 360; degrees += 4) {
    const { x, y } = direction(degrees);
    out.push(ramp.x1 + radius * x, ramp.y1 + radius * y);
  }
  return out;
}

/** Rows of a radial ramp are slanted a little: level ones look like a screen. */
const RADIAL_ANGLE = 20;

/** Stretches of a level line inside rings. */
function spansAt(rings: readonly Points[], y: number): [number, number][] {
  const xs: number[] = [];
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [y0, y1] = [ring[j + 1], ring[i + 1]];
      if (y0 > y === y1 > y) continue;
      xs.push(ring[j] + ((y - y0) / (y1 - y0)) * (ring[i] - ring[j]));
    }
  }
  xs.sort((a, b) => a - b);
  const out: [number, number][] = [];
  for (let i = 0; i + 1 < xs.length; i += 2) out.push([xs[i], xs[i + 1]]);
  return out;
}

/** Sews stretches side by side, the nearest next; what is too far away begins a new run. */
function joinStretches(stretches: readonly Stretch[], settings: RampSettings): Points[] {
  const offsetOf = offsetPattern(settings.pattern ?? '').offset;
  const byRow = new Map<number, Set<Stretch>>();
  for (const stretch of stretches) {
    const row = byRow.get(stretch.row);
    if (row) row.add(stretch);
    else byRow.set(stretch.row, new Set([stretch]));
  }
  const runs: Points[] = [];
  let run: Points = [];
  let at: Stretch | undefined;
  let x = 0;
  /** Where in the last row the needle leaves it for an end of the next: along its own row it goes back for nothing. */
  const leave = (end: number): number => (at ? Math.min(at.right, Math.max(at.left, end)) : end);
  const cost = (end: number, y: number): number =>
    at ? distance(leave(end), at.y, end, y) + Math.abs(leave(end) - x) * BACK_COST : 0;
  for (let open = stretches.length; open > 0; open--) {
    let next: Stretch | undefined;
    let least = Infinity;
    if (at) {
      for (let row = at.row - NEAR_ROWS; row <= at.row + NEAR_ROWS; row++) {
        for (const stretch of byRow.get(row) ?? []) {
          const gap = Math.min(cost(stretch.left, stretch.y), cost(stretch.right, stretch.y));
          if (gap < least) [least, next] = [gap, stretch];
        }
      }
    }
    if (!next || least > REACH_MM) {
      if (run.length > 0) runs.push(run);
      [run, at] = [[], undefined];
      for (const row of byRow.values()) {
        [next] = row;
        if (next) break;
      }
    }
    if (!next) break;
    const row = byRow.get(next.row);
    row?.delete(next);
    if (row?.size === 0) byRow.delete(next.row);
    const fromLeft = cost(next.left, next.y) <= cost(next.right, next.y);
    const end = fromLeft ? next.left : next.right;
    if (at && Math.abs(leave(end) - x) > TURN_MM) pushBack(run, x, leave(end), at.y);
    const sign = fromLeft ? 1 : -1;
    const reach = settings.compensationMm;
    let from = end - sign * reach;
    const n = run.length;
    // The stitch that leads to a row is no shorter than is good for it.
    if (n > 0 && distance(run[n - 2], run[n - 1], from, next.y) < TURN_MM) from += sign * MOST_INSET;
    run.push(from, next.y);
    const to = (fromLeft ? next.right : next.left) + sign * reach;
    pushRow(run, from, to, next, settings, offsetOf);
    [x, at] = [to, next];
  }
  if (run.length > 0) runs.push(run);
  return runs.filter((points) => points.length >= 4);
}
/** Rows on either side among which the next is looked for. */
const NEAR_ROWS = 8;
/** What a millimetre back over a row costs against one across. */
const BACK_COST = 0.05;
const TURN_MM = 0.5;
const MOST_INSET = 0.3;
/** Needle points inside a row keep this far from its ends. */
const END_MARGIN = 2;

/** Back over a row that is sewn: with as few stitches as hold. */
function pushBack(run: Points, from: number, to: number, y: number): void {
  const steps = Math.ceil(Math.abs(to - from) / LONGEST_BACK);
  for (let k = 1; k <= steps; k++) run.push(from + ((to - from) * k) / steps, y);
}
const LONGEST_BACK = 6.5;

/** Stitches along a row, its needle points moved along as the grain has them. */
function pushRow(
  run: Points,
  from: number,
  to: number,
  { row, y }: Stretch,
  { stitchLengthMm }: RampSettings,
  offsetOf: (row: number) => number,
): void {
  const shift = offsetOf(row) * stitchLengthMm;
  const [left, right] = [Math.min(from, to) + END_MARGIN, Math.max(from, to) - END_MARGIN];
  const inner: number[] = [];
  for (let k = Math.ceil((left - shift) / stitchLengthMm); shift + k * stitchLengthMm <= right; k++) {
    inner.push(shift + k * stitchLengthMm);
  }
  if (to < from) inner.reverse();
  for (const x of inner) run.push(x, y);
  run.push(to, y);
}
