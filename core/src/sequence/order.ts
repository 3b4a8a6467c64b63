import type { PieceMove } from '../pieces/found-pieces.js';
import type { Piece } from '../pieces/piece.js';
import type { KindFamily } from '../pieces/sewn-as.js';
import { distance } from '../geometry/vector.js';
import { improveOrder } from './improve-order.js';

const BEAM = 20;

/** Pieces that meet on less than this only touch: which of them is sewn first is not worth a thread change. */
const TOUCH_MM = 1;

/**
 * For every piece, the pieces that must be sewn before it: what lies below goes first; on one layer fills before satin
 * and satin before lines, and of two alike the larger.
 */
export function layering(pieces: readonly Piece[]): number[][] {
  const rank: Readonly<Record<KindFamily, number>> = { area: 0, column: 1, line: 2 };
  const goesBefore = (a: Piece, b: Piece): boolean => {
    if (a.layer !== b.layer) return a.layer < b.layer;
    if (a.family !== b.family) return rank[a.family] < rank[b.family];
    return a.areaMm2 > b.areaMm2 || (a.areaMm2 === b.areaMm2 && a.id < b.id);
  };
  const readBefore = readingOrder(pieces);
  const turnBefore = copyBefore(pieces);
  return pieces.map((piece, i) => [
    ...piece.neighbours
      .filter(({ piece: other, borderMm }) => {
        if (borderMm < TOUCH_MM) return false;
        const next = pieces[other];
        // Letters that touch are sewn as they are read, whichever is larger.
        const isText = piece.reading !== undefined && next.reading !== undefined && piece.object === next.object;
        return !isText && !areTurns(piece, next) && goesBefore(next, piece);
      })
      .map(({ piece: other }) => other),
    ...(readBefore.get(i) ?? []),
    ...turnBefore(piece),
  ]);
}

/** Whether two pieces are of copies of which one is finished before the other is begun. */
const areTurns = ({ turn: a }: Piece, { turn: b }: Piece): boolean =>
  a !== undefined && b !== undefined && a.of === b.of && a.at !== b.at;

/** For a piece of a copy that is sewn by itself: all of the copy before it. */
function copyBefore(pieces: readonly Piece[]): (piece: Piece) => readonly number[] {
  const turns = new Map<string, number[]>();
  pieces.forEach(({ turn }, i) => {
    if (!turn) return;
    const key = `${turn.of} ${turn.at}`;
    turns.set(key, [...(turns.get(key) ?? []), i]);
  });
  return ({ turn }) => (turn && turns.get(`${turn.of} ${turn.at - 1}`)) ?? [];
}

/** For each letter of a text the one that is read before it, of the same thread. */
function readingOrder(pieces: readonly Piece[]): ReadonlyMap<number, readonly number[]> {
  const texts = new Map<string, number[]>();
  pieces.forEach(({ reading, object, thread, layer }, i) => {
    if (reading === undefined) return;
    const key = `${object} ${thread} ${layer}`;
    texts.set(key, [...(texts.get(key) ?? []), i]);
  });
  const before = new Map<number, readonly number[]>();
  for (const letters of texts.values()) {
    const sorted = letters.sort((a, b) => (pieces[a].reading ?? 0) - (pieces[b].reading ?? 0) || a - b);
    sorted.forEach((i, k) => k > 0 && before.set(i, [sorted[k - 1]]));
  }
  return before;
}

interface State {
  readonly done: Uint8Array;
  readonly left: number;
  readonly threadsLeft: number;
  /** The newest run; each knows the one before. */
  readonly run: Run | undefined;
}

interface Run {
  readonly pieces: readonly number[];
  readonly before: Run | undefined;
}

/**
 * Groups pieces into as few thread runs as the layering allows: beam search over "take a thread, sew every piece of
 * it that is free". States that finished the same pieces are one.
 */
export function threadRuns(pieces: readonly Piece[], before: readonly (readonly number[])[]): number[][] {
  const threads = [...new Set(pieces.map((p) => p.thread))].sort((a, b) => a - b);
  const byThread = new Map(threads.map((t) => [t, pieces.map((_, i) => i).filter((i) => pieces[i].thread === t)]));
  let beam: State[] = [
    { done: new Uint8Array(pieces.length), left: pieces.length, threadsLeft: threads.length, run: undefined },
  ];
  while (beam.length > 0 && beam[0].left > 0) {
    const next = new Map<string, State>();
    for (const state of beam) {
      for (const thread of threads) {
        const sewn = sewFree(state.done, byThread.get(thread) as number[], before);
        if (!sewn) continue;
        const open = threads.filter((t) => (byThread.get(t) as number[]).some((i) => !sewn.done[i])).length;
        const key = sewn.done.join('');
        if (next.has(key)) continue;
        next.set(key, {
          done: sewn.done,
          left: state.left - sewn.pieces.length,
          threadsLeft: open,
          run: { pieces: sewn.pieces, before: state.run },
        });
      }
    }
    beam = [...next.values()].sort((a, b) => a.threadsLeft - b.threadsLeft || a.left - b.left).slice(0, BEAM);
    const finished = beam.find((state) => state.left === 0);
    if (finished) beam = [finished];
  }
  const runs: number[][] = [];
  for (let run = beam[0]?.run; run; run = run.before) runs.unshift([...run.pieces]);
  return runs;
}

function sewFree(
  done: Uint8Array,
  candidates: readonly number[],
  before: readonly (readonly number[])[],
): { done: Uint8Array; pieces: number[] } | undefined {
  const after = done.slice();
  const sewn: number[] = [];
  for (let again = true; again;) {
    again = false;
    for (const i of candidates) {
      if (after[i] || before[i].some((other) => !after[other])) continue;
      after[i] = 1;
      sewn.push(i);
      again = true;
    }
  }
  return sewn.length > 0 ? { done: after, pieces: sewn } : undefined;
}

/** Orders of more pieces are left as the nearest next makes them. */
const MOST_IMPROVED = 500;

/** What a thread change is worth in millimetres of travel when the machine changes by itself. */
const CHANGE_AS_TRAVEL_MM = 40;

/**
 * Sewing order: as few thread runs as the layering allows, and within each run the nearest piece next. On several needles,
 * where a change costs seconds instead of a minute, the nearest free piece next, whatever its thread, is tried as well, and
 * taken where it is quicker.
 */
export function sewingOrder(pieces: readonly Piece[], needles: number): number[] {
  const before = layering(pieces);
  const improved = (order: number[]): number[] =>
    pieces.length <= MOST_IMPROVED ? improveOrder(pieces, order, before) : order;
  const fewest = improved(nearestNext(pieces, before, threadRuns(pieces, before)));
  if (needles <= 1) return fewest;
  const nearest = improved(nearestNext(pieces, before, [pieces.map((_, i) => i)]));
  return secondsBetween(pieces, nearest) < secondsBetween(pieces, fewest) ? nearest : fewest;
}

/** Pieces of each group, one after the other, the nearest that is free next. */
function nearestNext(
  pieces: readonly Piece[],
  before: readonly (readonly number[])[],
  groups: readonly (readonly number[])[],
): number[] {
  const order: number[] = [];
  const done = new Uint8Array(pieces.length);
  let x = 0;
  let y = -1e6;
  let thread = -1;
  for (const group of groups) {
    const open = new Set(group);
    while (open.size > 0) {
      let best = -1;
      let least = Infinity;
      for (const i of open) {
        if (before[i].some((other) => !done[other])) continue;
        const change = thread >= 0 && pieces[i].thread !== thread ? CHANGE_AS_TRAVEL_MM : 0;
        const cost = gapToBox(pieces[i], x, y) + change;
        if (cost < least) {
          least = cost;
          best = i;
        }
      }
      open.delete(best);
      done[best] = 1;
      order.push(best);
      ({ x, y } = pieces[best].anchor);
      thread = pieces[best].thread;
    }
  }
  return order;
}

/** What cutting the thread takes, and changing it as well, on a machine of several needles. */
const TRIM_SECONDS = 7;
const CHANGE_SECONDS = 15;
/** Farther apart than this the thread is cut between two pieces. */
const CUT_OVER_MM = 3;

/** Seconds on several needles between the pieces of an order; what is sewn in them is the same for all. */
function secondsBetween(pieces: readonly Piece[], order: readonly number[]): number {
  let seconds = 0;
  for (let k = 1; k < order.length; k++) {
    const [a, b] = [pieces[order[k - 1]], pieces[order[k]]];
    if (a.thread !== b.thread) seconds += CHANGE_SECONDS;
    else if (boxGap(a, b) > CUT_OVER_MM) seconds += TRIM_SECONDS;
  }
  return seconds;
}

function boxGap({ bounds: a }: Piece, { bounds: b }: Piece): number {
  const dx = Math.max(0, a.left - b.right, b.left - a.right);
  const dy = Math.max(0, a.top - b.bottom, b.top - a.bottom);
  return Math.sqrt(dx * dx + dy * dy);
}

function gapToBox(piece: Piece, x: number, y: number): number {
  const { left, top, right, bottom } = piece.bounds;
  const nx = Math.min(right, Math.max(left, x));
  const ny = Math.min(bottom, Math.max(top, y));
  return distance(nx, ny, x, y) + 0.1 * distance(piece.anchor.x, piece.anchor.y, x, y);
}

/**
 * How many renderings lie below the pieces of each object: pieces are sewn between renderings as they lie, however else
 * they are moved.
 * @param objects of a design, lowest first
 * @param renderings objects that are sewn as renderings
 */
export function renderingsBelow(
  objects: readonly { readonly id: string }[],
  renderings: ReadonlySet<string>,
): Record<string, number> {
  let below = 0;
  return Object.fromEntries(
    objects.map(({ id }) => {
      if (renderings.has(id)) below++;
      return [id, below];
    }),
  );
}

/** Carries out what the user said about the order: each piece named is sewn just before another, first or last. */
export function movePieces(order: readonly number[], moves: readonly PieceMove[]): number[] {
  const out = order.slice();
  for (const { piece, before } of moves) {
    out.splice(out.indexOf(piece), 1);
    const at = before === 'first' ? 0 : before === 'last' ? out.length : out.indexOf(before);
    out.splice(at, 0, piece);
  }
  return out;
}
