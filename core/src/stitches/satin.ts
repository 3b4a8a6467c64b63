import { alongRings } from '../geometry/along-rings.js';
import { isInside, lengthOf, reversed, withoutStart } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';
import type { Column } from '../trace/column.js';
import { runAlong } from './running.js';
import { satinUnderlay } from './satin-underlay.js';
import type { Way } from './stitch-kind.js';
import type { PieceUnderlay } from './underlay.js';
import { LONGEST_MM, zigzag, type ZigzagSettings } from './zigzag.js';

export interface SatinSettings extends ZigzagSettings {
  readonly runStitchMm: number;
  /** What lies below; the run out along the middle always does. */
  readonly underlay: PieceUnderlay;
}

/** Rungs sewn twice where a ring closes. */
const RING_OVERLAP = 4;
/** A column entered fewer rungs from its end than this is entered at its end. */
const LEAST_HALF = 5;
/** From a column to the outline, or from it, the needle goes at most this far. */
const LONGEST_HOP_MM = 4;
/** The thread is tied in so far inside a column, and not where it is tied off; shorter columns have no room for both. */
const START_INSIDE_MM = 0.6;
const LEAST_INSIDE_MM = 3;
/** A tie is held so far inside a column that is left at once. */
const TIED_INSIDE_MM = 1.2;
/** A piece is left at another place than it is entered where they are so far apart. */
const APART_MM = 1;
/** From a corner of a column to its middle, or from side to side, the needle goes so far at least and at most. */
const LEAST_HOP_MM = 0.5;
const MOST_HOP_MM = 7;
/** Places nearer to each other are one. */
const HERE_MM = 0.02;

/** A column and those that branch off it, in the order they are met along its spine. */
interface Limb {
  readonly column: Column;
  /** Rung at which it is entered. */
  readonly from: number;
  /** What is sewn from a rung of the column, and ends there: a column entered in its middle is two. */
  readonly children: { readonly at: number; readonly limbs: readonly Limb[] }[];
}

/**
 * Sews satin columns, those that hang together in one go. The needle runs out along a column's middle, takes every column that branches off on
 * the way, and covers its way with satin on the way back: all it travels over is covered later, and the run out is the
 * underlay.
 * @param rings outline of the shape, along which columns are joined that do not touch
 */
export function satin(
  columns: readonly Column[],
  rings: readonly Points[],
  settings: SatinSettings,
  { entry, exit, next }: Way = {},
): Points[] {
  if (columns.length === 0) return [];
  const onward = next ?? exit;
  const inside: SatinSettings = { isInside: (x, y) => isInside(rings, x, y), ...settings };
  const left = new Set(columns);
  const out: Points[] = [];
  let at: Point = entry ?? { x: columns[0].spine[0], y: columns[0].spine[1] };
  if (entry && exit && distance(entry.x, entry.y, exit.x, exit.y) > APART_MM) {
    const { column, rung } = nearestEnd(columns, exit);
    const limbs = limbsOf(column, rung, left);
    const way = left.size === 0 ? wayBelow(limbs, entry) : [];
    if (way.length >= 4) {
      // Everything ends where it is begun: so it is begun at the exit, and a run leads there below all that is sewn after it.
      const part = runAlong(way, settings.runStitchMm);
      for (const limb of limbs) sewLimb(limb, inside, part);
      return [leftBy(onward, column, rung, enteredBy(entry, begun(part, column)))];
    }
    for (const other of columns) left.add(other);
  }
  while (left.size > 0) {
    const { column, rung } = nearestEnd([...left], at);
    const part: Points = [];
    for (const limb of limbsOf(column, rung, left)) sewLimb(limb, inside, part);
    const run = out.at(-1);
    const start = { x: part[0], y: part[1] };
    const way = run && alongRings(rings, at, start);
    if (run && way && keepsToEdge(way)) {
      append(run, steppedOver(way, settings.runStitchMm));
      append(run, part);
    } else out.push(leftBy(onward, column, rung, enteredBy(entry, begunAt(part, column, rung, inside))));
    at = { x: part[part.length - 2], y: part[part.length - 1] };
  }
  return out;
}

/** A run that begins a little inside its column. */
const begun = (part: Points, { spine }: Column): Points =>
  lengthOf(spine) > LEAST_INSIDE_MM ? withoutStart(part, START_INSIDE_MM) : part;

/** A run from an end of its column: one that leaves it at once comes from within, so that its tie is covered. */
function begunAt(part: Points, column: Column, rung: number, { isInside: isIn }: SatinSettings): Points {
  const { spine } = column;
  const [x, y] = spine.slice(rung * 2, rung * 2 + 2);
  const leaves = distance(x, y, part[0], part[1]) > START_INSIDE_MM && !isIn?.((x + part[0]) / 2, (y + part[1]) / 2);
  if (!leaves || lengthOf(spine) <= LEAST_INSIDE_MM) return begun(part, column);
  const inwards = withoutStart(rung * 4 < spine.length ? spine : reversed(spine), TIED_INSIDE_MM);
  return [inwards[0], inwards[1], x, y, ...part];
}

/** A run that begins at a corner of its column, where the needle comes from. */
function enteredBy(entry: Point | undefined, part: Points): Points {
  if (!entry) return part;
  const gap = distance(entry.x, entry.y, part[0], part[1]);
  return gap > LEAST_HOP_MM && gap < MOST_HOP_MM ? [entry.x, entry.y, ...part] : part;
}

/** A run that ends on that side of its last rung from which the needle goes on. */
function leftBy(exit: Point | undefined, { rungs }: Column, rung: number, part: Points): Points {
  if (!exit || part.length < 4) return part;
  const [x, y] = part.slice(-2);
  const [ax, ay, bx, by] = rungs.slice(rung * 4, rung * 4 + 4);
  const isA = distance(x, y, ax, ay) < distance(x, y, bx, by);
  const [ox, oy] = isA ? [bx, by] : [ax, ay];
  const far = distance(exit.x, exit.y, x, y) - distance(exit.x, exit.y, ox, oy);
  return far > LEAST_HOP_MM && distance(x, y, ox, oy) < MOST_HOP_MM ? [...part, ox, oy] : part;
}

/** The way from the place nearest to a point along the middle lines to where the first of the limbs is entered. */
function wayBelow(limbs: readonly Limb[], from: Point): Points {
  let best: Points = [];
  let least = Infinity;
  const look = (limb: Limb, onward: Points): void => {
    const { spine } = limb.column;
    const n = spine.length / 2;
    const between = (a: number, b: number): Points => {
      const out: Points = [];
      for (let k = a; k !== b; k += Math.sign(b - a)) out.push(spine[k * 2], spine[k * 2 + 1]);
      out.push(spine[b * 2], spine[b * 2 + 1]);
      return out;
    };
    for (let k = 0; k < n; k++) {
      const gap = distance(spine[k * 2], spine[k * 2 + 1], from.x, from.y);
      if (gap < least) [least, best] = [gap, [...between(k, limb.from), ...onward]];
    }
    for (const { at, limbs: others } of limb.children) {
      for (const other of others) look(other, [...between(at, limb.from), ...onward]);
    }
  };
  for (const limb of limbs) look(limb, []);
  return best;
}

/** A way along an outline: over the cloth before and after it the needle goes in one stitch, so that none stands there. */
function steppedOver(way: Points, stitchMm: number): Points {
  const n = way.length;
  return [...way.slice(0, 2), ...runAlong(way.slice(2, n - 2), stitchMm), ...way.slice(n - 2)];
}

/** Whether a way goes along the outline of one part, rather than across the cloth to another. */
function keepsToEdge(way: Points): boolean {
  const n = way.length;
  const first = distance(way[0], way[1], way[2], way[3]);
  const last = distance(way[n - 4], way[n - 3], way[n - 2], way[n - 1]);
  return Math.max(first, last) <= LONGEST_HOP_MM;
}

function append(out: Points, more: Points): void {
  for (let i = 0; i < more.length; i += 2) {
    const n = out.length;
    if (n > 0) {
      const [x, y] = [out[n - 2], out[n - 1]];
      const gap = distance(x, y, more[i], more[i + 1]);
      if (gap < 0.05) continue;
      const parts = Math.ceil(gap / LONGEST_MM - 1e-9);
      for (let k = 1; k < parts; k++) {
        out.push(x + ((more[i] - x) * k) / parts, y + ((more[i + 1] - y) * k) / parts);
      }
    }
    out.push(more[i], more[i + 1]);
  }
}

const widthAt = ({ rungs }: Column, k: number): number =>
  distance(rungs[k * 4], rungs[k * 4 + 1], rungs[k * 4 + 2], rungs[k * 4 + 3]);

function nearestEnd(columns: readonly Column[], at: Point): { column: Column; rung: number } {
  let best = { column: columns[0], rung: 0 };
  let least = Infinity;
  for (const column of columns) {
    const { spine, closed } = column;
    const last = spine.length / 2 - 1;
    // A ring may be entered anywhere.
    const rungs = closed ? Array.from({ length: last + 1 }, (_, i) => i) : [0, last];
    for (const rung of rungs) {
      const gap = distance(spine[rung * 2], spine[rung * 2 + 1], at.x, at.y);
      if (gap < least) {
        least = gap;
        best = { column, rung };
      }
    }
  }
  return best;
}

/** Takes a column and all that can be reached from it out of those left. */
function limbsOf(column: Column, from: number, left: Set<Column>): Limb[] {
  const branches = branchesFrom(column, left);
  const grow = (own: Column, at: number): Limb[] => {
    const halves = halvesAt(own, at).map((half) => ({ ...half, children: [] as { at: number; limbs: Limb[] }[] }));
    for (const other of branches.get(own) ?? []) {
      // Of a column in two halves the one that comes nearer.
      const [nearest] = halves
        .flatMap((half) => {
          const meeting = meet(half.column, other);
          return meeting ? [{ half, meeting }] : [];
        })
        .sort((a, b) => a.meeting.gap - b.meeting.gap);
      if (nearest) nearest.half.children.push({ at: nearest.meeting.at, limbs: grow(other, nearest.meeting.rung) });
    }
    return halves;
  };
  return grow(column, from);
}

/**
 * What branches off what, beginning with a column: those that come nearest hang together, so that the way from one to the
 * next is the shortest there is (Prim 1957). Takes them out of those left.
 */
function branchesFrom(column: Column, left: Set<Column>): Map<Column, Column[]> {
  const branches = new Map<Column, Column[]>([[column, []]]);
  const nearest = new Map<Column, { readonly to: Column; readonly gap: number }>();
  const reach = (own: Column): void => {
    left.delete(own);
    nearest.delete(own);
    for (const other of left) {
      const meeting = meet(own, other);
      const known = nearest.get(other);
      if (meeting && (!known || meeting.gap < known.gap)) nearest.set(other, { to: own, gap: meeting.gap });
    }
  };
  reach(column);
  while (nearest.size > 0) {
    const [next, { to }] = [...nearest].reduce((a, b) => (b[1].gap < a[1].gap ? b : a));
    branches.get(to)?.push(next);
    branches.set(next, []);
    reach(next);
  }
  return branches;
}

/** A column that is entered at its end, or the two parts of one that is entered between them; they lap over by a rung. */
function halvesAt(column: Column, from: number): Omit<Limb, 'children'>[] {
  const last = column.rungs.length / 4 - 1;
  if (column.closed || Math.min(from, last - from) < LEAST_HALF) return [{ column, from }];
  const part = (first: number, to: number): Column => ({
    rungs: column.rungs.slice(first * 4, to * 4 + 4),
    spine: column.spine.slice(first * 2, to * 2 + 2),
    closed: false,
  });
  return [
    { column: part(0, from + 1), from: from + 1 },
    { column: part(from - 1, last), from: 0 },
  ];
}

interface Meeting {
  readonly at: number;
  readonly rung: number;
  /** Between the middle lines, in mm. */
  readonly gap: number;
}

/**
 * Where two columns meet: an end of one that lies within the width of the other, whichever comes nearer.
 * @returns rungs of both
 */
function meet(column: Column, other: Column): Meeting | undefined {
  const touching = endAt(column, other);
  const touched = endAt(other, column);
  if (!touched || (touching && touching.gap <= touched.gap)) return touching;
  return { ...touched, at: touched.rung, rung: touched.at };
}

/** Where an end of another column comes nearest to a column's spine, if that is within the column's own width. */
function endAt(column: Column, other: Column): Meeting | undefined {
  const { spine } = column;
  const last = other.spine.length / 2 - 1;
  let best: Omit<Meeting, 'gap'> | undefined;
  let least = Infinity;
  for (const rung of other.closed ? everyFifth(last) : [0, last]) {
    const [x, y] = [other.spine[rung * 2], other.spine[rung * 2 + 1]];
    for (let at = 0; at < spine.length / 2; at += 2) {
      const gap = distance(spine[at * 2], spine[at * 2 + 1], x, y);
      if (gap < least) {
        least = gap;
        best = { at, rung };
      }
    }
  }
  if (!best) return undefined;
  best = { ...best, at: outermost(spine, best.at) };
  const near = (widthAt(column, best.at) + widthAt(other, best.rung)) * 0.75 + 0.4;
  return least <= near ? { ...best, gap: least } : undefined;
}

/** Rungs that stand at one place of the middle line, at a corner: of those at an end the very last. */
function outermost(spine: Points, at: number): number {
  const isHere = (i: number): boolean =>
    distance(spine[at * 2], spine[at * 2 + 1], spine[i * 2], spine[i * 2 + 1]) < HERE_MM;
  const last = spine.length / 2 - 1;
  for (const step of [-1, 1]) {
    let to = at;
    while (to > 0 && to < last && isHere(to + step)) to += step;
    if (to === 0 || to === last) return to;
  }
  return at;
}

const everyFifth = (last: number): number[] => Array.from({ length: Math.floor(last / 5) + 1 }, (_, i) => i * 5);

function sewLimb({ column, from, children }: Limb, settings: SatinSettings, out: Points): void {
  const n = column.rungs.length / 4;
  const order = walkOrder(n, from, column.closed);
  const place = new Map(order.map((rung, i) => [rung, i]));
  const stops = [...children].sort((a, b) => (place.get(a.at) ?? 0) - (place.get(b.at) ?? 0));
  const spineOf = (a: number, b: number): Points =>
    within(
      order.slice(a, b + 1).flatMap((rung) => [column.spine[rung * 2], column.spine[rung * 2 + 1]]),
      settings,
    );
  let at = 0;
  for (const { at: rung, limbs } of stops) {
    const to = place.get(rung) ?? 0;
    if (to > at) append(out, runAlong(spineOf(at, to), settings.runStitchMm));
    for (const limb of limbs) sewLimb(limb, settings, out);
    at = to;
  }
  if (at < order.length - 1) append(out, runAlong(spineOf(at, order.length - 1), settings.runStitchMm));
  const rungs = order.map((rung) => column.rungs.slice(rung * 4, rung * 4 + 4));
  const width = rungs.reduce((sum, _, i) => sum + widthAt(column, order[i]), 0) / rungs.length;
  if (width > 1.2) for (const run of satinUnderlay(rungs.slice(0, n), settings)) append(out, run);
  // Out at the far end by now: the satin comes back to where the column was entered.
  append(out, zigzag(rungs.reverse(), settings));
}

/** A run without the places beside the shape, where a middle was drawn past its edge. */
function within(run: Points, { isInside: isIn }: SatinSettings): Points {
  if (!isIn) return run;
  const kept: Points = [];
  for (let i = 0; i < run.length; i += 2) if (isIn(run[i], run[i + 1])) kept.push(run[i], run[i + 1]);
  return kept.length >= 4 ? kept : run;
}

/** Rungs in the order they are passed when a column is entered at one of them. */
function walkOrder(n: number, from: number, closed: boolean): number[] {
  // A ring ends a little beyond where it began, so that no seam opens.
  if (closed) return Array.from({ length: n + Math.min(n, RING_OVERLAP) }, (_, i) => (from + i) % n);
  const forwards = from < n / 2;
  return Array.from({ length: n }, (_, i) => (forwards ? i : n - 1 - i));
}
