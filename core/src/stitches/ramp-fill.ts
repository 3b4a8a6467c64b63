import { common } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import { direction, distance, turnPoints, type Point, type Points } from '../geometry/vector.js';
import { lengthOfRamp, shareAt, thresholdOf, type Ramp } from './ramp.js';
import { runAlong } from './running.js';
import { tatami, type TatamiSettings } from './tatami.js';

type RampSettings = Omit<TatamiSettings, 'angle'>;

/** Edges are followed this closely where rows are drawn apart. */
const FINEST_MM = 0.25;
/** Rows that are left out still take this much of one: the way back has to find its place. */
const LEFT_OUT = 1e-3;
/** Shorter stretches of a row are not sewn. */
const SHORTEST_RUN = 1.2;
/** The thread goes on to a stretch this far away; farther ones begin anew. */
const REACH_MM = 3;
const STEP_MM = 0.1;

/**
 * Fills a shape with rows that open along a ramp. Along a line, the shape is drawn apart so that rows of any distance
 * become rows of one distance, filled like any other shape, and drawn together again: a row lies wherever the integral
 * of the share, plus a half, passes a whole number.
 */
export function rampFill(rings: readonly Points[], ramp: Ramp, settings: RampSettings): Points[] {
  return ramp.shape === 'linear' ? linearFill(rings, ramp, settings) : radialFill(rings, ramp, settings);
}

function linearFill(rings: readonly Points[], ramp: Ramp, settings: RampSettings): Points[] {
  const length = lengthOfRamp(ramp);
  const axis = { x: (ramp.x2 - ramp.x1) / length, y: (ramp.y2 - ramp.y1) / length };
  // Turned so that the way leads down from its start, and rows are level.
  const level = (p: Point): Point => ({
    x: (p.x - ramp.x1) * axis.y - (p.y - ramp.y1) * axis.x,
    y: (p.x - ramp.x1) * axis.x + (p.y - ramp.y1) * axis.y,
  });
  const back = (x: number, y: number): [number, number] => [
    ramp.x1 + x * axis.y + y * axis.x,
    ramp.y1 - x * axis.x + y * axis.y,
  ];
  const turned = rings.map((ring) => mapPlaces(ring, (x, y) => {
    const p = level({ x, y });
    return [p.x, p.y];
  }));
  const box = boundsOf(turned);
  const top = Math.max(box.top, ramp.from * length);
  const bottom = Math.min(box.bottom, ramp.to * length);
  if (!(bottom - top > STEP_MM)) return [];
  const strip = [box.left - 1, top, box.right + 1, top, box.right + 1, bottom, box.left - 1, bottom];
  const inside = top > box.top || bottom < box.bottom ? common(turned, [strip]) : turned;
  const scale = new RowScale(ramp, length, settings.spacingMm, top, bottom);
  const apart = inside.map((ring) => mapPlaces(divided(ring), (x, y) => [x, scale.to(y)]));
  const runs = tatami(apart, {
    ...settings,
    angle: 0,
    aligned: true,
    underlay: undefined,
    // A way to the first row would lie across open rows.
    entry: undefined,
    exit: undefined,
  });
  return runs.map((run) => splitLong(mapPlaces(run, (x, y) => back(x, scale.from(y)))));
}

function mapPlaces(points: Points, map: (x: number, y: number) => readonly [number, number]): Points {
  const out: Points = [];
  for (let i = 0; i < points.length; i += 2) out.push(...map(points[i], points[i + 1]));
  return out;
}

/** A ring with more places along what leads down or up. */
function divided(ring: Points): Points {
  const out: Points = [];
  const n = ring.length;
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    const parts = Math.max(1, Math.ceil(Math.abs(ring[j + 1] - ring[i + 1]) / FINEST_MM));
    for (let k = 0; k < parts; k++) {
      out.push(ring[i] + ((ring[j] - ring[i]) * k) / parts, ring[i + 1] + ((ring[j + 1] - ring[i + 1]) * k) / parts);
    }
  }
  return out;
}

/** Between rows that are far apart the way is long: no stitch of it is. */
function splitLong(run: Points): Points {
  const out: Points = [run[0], run[1]];
  for (let i = 2; i < run.length; i += 2) {
    const [x, y] = [run[i - 2], run[i - 1]];
    const parts = Math.ceil(distance(x, y, run[i], run[i + 1]) / LONGEST_MM);
    for (let k = 1; k <= parts; k++) out.push(x + ((run[i] - x) * k) / parts, y + ((run[i + 1] - y) * k) / parts);
  }
  return out;
}
const LONGEST_MM = 5;

/** From places along the way to places at which rows lie evenly, and back. */
class RowScale {
  private readonly rows: Float64Array;
  private readonly step: number;

  constructor(
    ramp: Ramp,
    length: number,
    private readonly spacing: number,
    private readonly top: number,
    bottom: number,
  ) {
    this.step = ramp.over ? spacing : STEP_MM;
    // In one layer rows of both threads lie on the same places, counted from the start of the way.
    if (ramp.over) this.top = Math.floor(top / spacing) * spacing;
    const count = Math.ceil((bottom - this.top) / this.step) + 1;
    this.rows = new Float64Array(count + 1);
    const sum = ramp.over ? lattice(ramp, length, spacing, this.top, count) : undefined;
    for (let k = 0; k < count; k++) {
      const t = (this.top + (k + 0.5) * this.step) / length;
      const grown = sum ? (sum[k] ? 1 : LEFT_OUT) : Math.max(LEFT_OUT, shareAt(ramp.cover, t)) * (this.step / spacing);
      this.rows[k + 1] = this.rows[k] + grown;
    }
  }

  to(y: number): number {
    const at = Math.min(this.rows.length - 1, Math.max(0, (y - this.top) / this.step));
    const k = Math.min(this.rows.length - 2, Math.floor(at));
    return (this.rows[k] + (this.rows[k + 1] - this.rows[k]) * (at - k)) * this.spacing;
  }

  from(y: number): number {
    const row = y / this.spacing;
    let low = 0;
    let high = this.rows.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.rows[middle] <= row) low = middle;
      else high = middle;
    }
    const within = (row - this.rows[low]) / (this.rows[high] - this.rows[low]);
    return this.top + (low + within) * this.step;
  }
}

/** Which rows of an even lattice a thread gets: those its share takes, but not those the thread over it takes. */
function lattice(ramp: Ramp, length: number, spacing: number, top: number, count: number): Uint8Array {
  const out = new Uint8Array(count);
  const first = Math.round(top / spacing);
  const taken = (list: readonly number[]): ((row: number) => boolean) => {
    // Counted from the start of the way, so that two threads agree.
    const from = Math.min(0, first);
    const sums = new Float64Array(first + count - from + 1);
    for (let k = 1; k < sums.length; k++) {
      sums[k] = sums[k - 1] + shareAt(list, ((from + k - 0.5) * spacing) / length);
    }
    return (row) => Math.floor(sums[row - from + 1] + 0.5) > Math.floor(sums[row - from] + 0.5);
  };
  const own = taken(ramp.cover);
  const other = taken(ramp.over as readonly number[]);
  for (let k = 0; k < count; k++) out[k] = own(first + k) && !other(first + k) ? 1 : 0;
  return out;
}

interface Stretch {
  readonly row: number;
  readonly y: number;
  readonly left: number;
  readonly right: number;
}

/**
 * Around a middle, level rows are cut where the share falls below the threshold of the row, in an order of eight rows that
 * leaves no stripes. Stretches are joined side by side; where one is shorter than the last, the needle goes back over its
 * own row first, so that nothing lies across.
 */
function radialFill(rings: readonly Points[], ramp: Ramp, settings: RampSettings): Points[] {
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
      return own >= threshold && !(ramp.over && shareAt(ramp.over, t) >= threshold);
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

/** Sews stretches side by side, the nearest next. */
function joinStretches(stretches: readonly Stretch[], { stitchLengthMm, compensationMm }: RampSettings): Points[] {
  const byRow = new Map<number, Set<Stretch>>();
  for (const stretch of stretches) {
    const row = byRow.get(stretch.row);
    if (row) row.add(stretch);
    else byRow.set(stretch.row, new Set([stretch]));
  }
  const runs: Points[] = [];
  let open = stretches.length;
  let run: Points = [];
  let at: Stretch | undefined;
  let x = 0;
  while (open > 0) {
    let next: Stretch | undefined;
    let least = Infinity;
    const consider = (stretch: Stretch): void => {
      for (const end of [stretch.left, stretch.right]) {
        // Along its own row the needle goes back for nothing.
        const inside = at ? Math.min(at.right, Math.max(at.left, end)) : end;
        const gap = at ? distance(inside, at.y, end, stretch.y) + Math.abs(inside - x) * 0.05 : 0;
        if (gap < least) [least, next] = [gap, stretch];
      }
    };
    if (at) for (let row = at.row - NEAR_ROWS; row <= at.row + NEAR_ROWS; row++) byRow.get(row)?.forEach(consider);
    if (!next || least > REACH_MM) {
      if (run.length > 0) runs.push(run);
      run = [];
      at = undefined;
      for (const row of byRow.values()) {
        const [one] = row;
        if (one) {
          next = one;
          break;
        }
      }
    }
    if (!next) break;
    byRow.get(next.row)?.delete(next);
    open--;
    let fromLeft = true;
    if (at) {
      const cost = (end: number): number => {
        const inside = Math.min((at as Stretch).right, Math.max((at as Stretch).left, end));
        return distance(inside, (at as Stretch).y, end, (next as Stretch).y) + Math.abs(inside - x) * 0.05;
      };
      fromLeft = cost(next.left) <= cost(next.right);
      const end = fromLeft ? next.left : next.right;
      const inside = Math.min(at.right, Math.max(at.left, end));
      if (Math.abs(inside - x) > 0.4) pushAlong(run, x, inside, at.y, stitchLengthMm);
    }
    const [from, to] = fromLeft ? [next.left - compensationMm, next.right + compensationMm] : [next.right + compensationMm, next.left - compensationMm];
    run.push(from, next.y);
    pushAlong(run, from, to, next.y, stitchLengthMm);
    x = to;
    at = next;
  }
  if (run.length > 0) runs.push(run);
  return runs.filter((points) => points.length >= 4);
}
const NEAR_ROWS = 8;

function pushAlong(run: Points, from: number, to: number, y: number, stitchMm: number): void {
  const stitched = runAlong([from, y, to, y], stitchMm);
  for (let i = 2; i < stitched.length; i++) run.push(stitched[i]);
}
