import { closedFrom, lengthOf, nearestPoint, reversed, simplify } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';
import { createInsideTest } from '../trace/inside-test.js';
import { chainOfParts, connectedParts, findCells, sewingOrderOfCells } from './cells.js';
import type { CurvedRow } from './curved-rows.js';
import { keepInside } from './keep-inside.js';
import { offsetPattern } from './offset-patterns.js';
import { runAlong } from './running.js';

export interface CurvedFillSettings {
  readonly stitchLengthMm: number;
  readonly spacingMm: number;
  /** How far open rows reach over both their ends. */
  readonly compensationMm: number;
  readonly pattern?: string;
  readonly entry?: Point;
  readonly exit?: Point;
}

const TRAVEL_STITCH = 3;
const LONGEST_TURN = 4;
const CHORD_ERROR = 0.08;
const SHORTEST = 0.5;
/** Rows farther apart than so many spacings do not follow each other. */
const FAR_ROWS = 1.5;

/**
 * Sews rows that bend and cover a shape; where they are far apart the needle goes along the shape's edge.
 */
export function fillWithRows(
  rows: readonly CurvedRow[],
  rings: readonly Points[],
  settings: CurvedFillSettings,
): Points[] {
  const isIn = createInsideTest(rings);
  return curvedFill(rows, settings).map((run) => keepInside(run, rings, isIn));
}

/**
 * Sews rows that bend, in the order of tatami: cells of rows that follow each other, those deep in the tree first, and
 * travel only under rows still to come. Closed rows go over into each other like a spiral.
 * @returns a run for every connected group of rows
 */
export function curvedFill(rows: readonly CurvedRow[], settings: CurvedFillSettings): Points[] {
  const runs: Points[] = [];
  let from = settings.entry;
  for (const group of connectedParts(rows)) {
    const out: Points = [];
    sewGroup(rows, group, settings, from, out);
    if (out.length < 4) continue;
    runs.push(out);
    from = { x: out[out.length - 2], y: out[out.length - 1] };
  }
  return runs;
}

function sewGroup(
  rows: readonly CurvedRow[],
  group: readonly number[],
  settings: CurvedFillSettings,
  entry: Point | undefined,
  out: Points,
): void {
  const plan = findCells(rows, (a, b) => rows[a].closed === rows[b].closed);
  const { cells, cellOf } = plan;
  const nearest = (p: Point): number =>
    group.reduce((best, id) => (gapTo(rows[id], p) < gapTo(rows[best], p) ? id : best), group[0]);
  let at = entry ? nearest(entry) : group[0];
  const end = settings.exit ? nearest(settings.exit) : group[group.length - 1];
  const sewn = new Uint8Array(cells.length);
  for (const { cell, parent } of sewingOrderOfCells(rows, plan, cellOf[end], cellOf[at])) {
    const { parts } = cells[cell];
    const [first, last] = [parts[0], parts[parts.length - 1]];
    const touches = (id: number): boolean =>
      [...rows[id].above, ...rows[id].below, ...rows[id].beside].some((q) => cellOf[q] === parent);
    const here = lastOf(out) ?? entry ?? pointOf(rows[first], 0);
    let down: boolean;
    if (parent >= 0) down = touches(last) && (!touches(first) || parts.length < 2 || at !== last);
    else if (settings.exit) down = gapTo(rows[last], settings.exit) <= gapTo(rows[first], settings.exit);
    else down = gapTo(rows[first], here) <= gapTo(rows[last], here);
    const order = down ? parts : parts.slice().reverse();
    travelTo(rows, at, order[0], sewn, cellOf, here, out);
    sewCell(order, rows, settings, lastOf(out) ?? here, out);
    sewn[cell] = 1;
    at = order[order.length - 1];
  }
}

const lastOf = (out: Points): Point | undefined =>
  out.length > 0 ? { x: out[out.length - 2], y: out[out.length - 1] } : undefined;

const pointOf = ({ points }: CurvedRow, i: number): Point => ({ x: points[i], y: points[i + 1] });

const gapTo = ({ points }: CurvedRow, p: Point): number => nearestPoint(points, p.x, p.y).gap;

/** Leads the needle under rows not yet sewn to the nearest place of a row. */
function travelTo(
  rows: readonly CurvedRow[],
  at: number,
  target: number,
  sewn: Uint8Array,
  cellOf: Int32Array,
  here: Point,
  out: Points,
): void {
  if (out.length === 0 || at === target) return;
  const chain = chainOfParts(rows, at, target, (q) => !sewn[cellOf[q]]);
  if (chain.length < 2) return;
  const way: Points = [here.x, here.y];
  let place = here;
  for (const id of chain.slice(1)) {
    const { at: i } = nearestPoint(rows[id].points, place.x, place.y);
    place = pointOf(rows[id], i);
    way.push(place.x, place.y);
  }
  const stitched = runAlong(way, TRAVEL_STITCH);
  for (let i = 2; i < stitched.length; i += 2) push(out, stitched[i], stitched[i + 1]);
}

function sewCell(
  order: readonly number[],
  rows: readonly CurvedRow[],
  settings: CurvedFillSettings,
  from: Point,
  out: Points,
): void {
  let here = from;
  const closed = order.filter((id) => rows[id].closed);
  if (closed.length === order.length) {
    const rings = order.map((id) => rows[id].points);
    for (const points of spiralled(rings, here, settings.spacingMm)) sewRow(points, 0, settings, out);
    return;
  }
  for (const id of order) {
    const { points, row } = rows[id];
    const n = points.length;
    const forwards =
      distance(points[0], points[1], here.x, here.y) <= distance(points[n - 2], points[n - 1], here.x, here.y);
    const grown = reachOver(points, settings.compensationMm);
    // A row met far from both its ends is walked to the nearer one first, and then sewn over.
    const ends = forwards ? grown : reversed(grown);
    const { at } = nearestPoint(points, here.x, here.y);
    const start = { x: ends[0], y: ends[1] };
    if (out.length > 0 && distance(here.x, here.y, start.x, start.y) > LONGEST_TURN && at > 0 && at < n - 2) {
      const walk = forwards ? reversed(points.slice(0, at + 2)) : points.slice(at);
      for (const v of pairs(runAlong([here.x, here.y, ...walk], TRAVEL_STITCH).slice(2))) push(out, v[0], v[1]);
    }
    sewRow(ends, offsetPattern(settings.pattern ?? '').offset(row), settings, out, forwards);
    here = lastOf(out) ?? here;
  }
}

function* pairs(points: Points): Generator<[number, number]> {
  for (let i = 0; i < points.length; i += 2) yield [points[i], points[i + 1]];
}

/** A row with both ends drawn out straight. */
function reachOver(points: Points, by: number): Points {
  if (by <= 0) return points;
  const n = points.length;
  const a = distance(points[0], points[1], points[2], points[3]) || 1;
  const b = distance(points[n - 2], points[n - 1], points[n - 4], points[n - 3]) || 1;
  return [
    points[0] - ((points[2] - points[0]) / a) * by,
    points[1] - ((points[3] - points[1]) / a) * by,
    ...points,
    points[n - 2] - ((points[n - 4] - points[n - 2]) / b) * by,
    points[n - 1] - ((points[n - 3] - points[n - 1]) / b) * by,
  ];
}

/** Needle points along a row: at the places the pattern asks for, and where the row bends. */
function sewRow(points: Points, offset: number, settings: CurvedFillSettings, out: Points, forwards = true): void {
  const { stitchLengthMm } = settings;
  const length = lengthOf(points);
  const bends = simplify(points, CHORD_ERROR);
  const places: number[] = [0];
  const phase = (forwards ? offset : 1 - offset) * stitchLengthMm;
  for (let s = phase % stitchLengthMm; s < length - 1; s += stitchLengthMm) if (s > 1) places.push(s);
  // Ways along the row at which it bends.
  let way = 0;
  let k = 2;
  for (let i = 2; i < points.length && k < bends.length; i += 2) {
    way += distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
    if (points[i] === bends[k] && points[i + 1] === bends[k + 1]) {
      if (k < bends.length - 2) places.push(way);
      k += 2;
    }
  }
  places.sort((a, b) => a - b);
  const kept = [0];
  for (const s of places) if (s - kept[kept.length - 1] >= SHORTEST && length - s >= SHORTEST) kept.push(s);
  kept.push(length);
  let i = 2;
  let done = 0;
  kept.forEach((s) => {
    let step = i < points.length ? distance(points[i - 2], points[i - 1], points[i], points[i + 1]) : 0;
    while (i < points.length - 2 && done + step < s - 1e-9) {
      done += step;
      i += 2;
      step = distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
    }
    const t = step > 0 ? Math.min(1, Math.max(0, (s - done) / step)) : 0;
    const x = points[i - 2] + (points[i] - points[i - 2]) * t;
    const y = points[i - 1] + (points[i + 1] - points[i - 1]) * t;
    push(out, x, y);
  });
}

function push(out: Points, x: number, y: number): void {
  const last = lastOf(out);
  if (last && distance(last.x, last.y, x, y) < 0.3) return;
  out.push(x, y);
}

/**
 * Closed rows as a spiral: the first once around, then once around from each to the next, and the last once around, so
 * that nothing opens at either end. Each begins nearest to where the one before ends.
 */
function spiralled(rings: readonly Points[], from: Point, spacingMm: number): Points[] {
  let here = from;
  const begun = (ring: Points): Points => closedFrom(ring, nearestPoint(ring, here.x, here.y).at);
  const out: Points[] = [];
  const add = (loop: Points): void => {
    out.push(loop);
    here = { x: loop[loop.length - 2], y: loop[loop.length - 1] };
  };
  rings.forEach((ring, index) => {
    if (index === 0 || index === rings.length - 1) add(begun(ring));
    if (index + 1 < rings.length) add(drift(begun(ring), rings[index + 1], FAR_ROWS * spacingMm));
  });
  return out;
}

/** A closed row that on its way round goes over to the next one, where that is no farther than `mostMm`. */
function drift(points: Points, next: Points, mostMm: number): Points {
  const total = lengthOf(points);
  const out = points.slice(0, 2);
  let way = 0;
  for (let i = 2; i < points.length; i += 2) {
    way += distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
    const share = way / total;
    const { at: k, gap } = nearestPoint(next, points[i], points[i + 1]);
    if (gap > mostMm) {
      out.push(points[i], points[i + 1]);
      continue;
    }
    out.push(points[i] + (next[k] - points[i]) * share, points[i + 1] + (next[k + 1] - points[i + 1]) * share);
  }
  return out;
}
