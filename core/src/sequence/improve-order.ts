import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import { portalsOf } from './portals.js';

/** So many places forwards and back are tried for every stretch. */
const MOST_MOVES = 120;
const ROUNDS = 6;
/** Ways between threads matter less; another thread run is worth no way at all. */
const BETWEEN_THREADS = 0.3;
const A_THREAD_RUN = 1e4;
const LONGEST_STRETCH = 3;
/** Places looked at for each piece. */
const PLACES = 12;

/** Least distances between the places where two pieces may be entered or left. */
interface Gaps {
  /** Measured once for each two pieces. */
  between(a: number, b: number): number;
  /** No more than the distance: that of the boxes around their places, which is found quickly. */
  atLeast(a: number, b: number): number;
  /** No distance is longer. */
  readonly longest: number;
}

/** Distances are remembered in floats of seven digits: a bound must stay below them. */
const BELOW = 1 - 1e-5;

function createGaps(pieces: readonly Piece[]): Gaps {
  const n = pieces.length;
  const places = pieces.map((piece): Points => {
    const all = portalsOf(piece).places;
    const every = Math.max(1, Math.ceil(all.length / PLACES));
    return all.filter((_, i) => i % every === 0).flatMap(({ x, y }) => [x, y]);
  });
  const boxes = places.map((own) => boundsOf([own]));
  const whole = boundsOf(places);
  // Distances as they are, and bounds, of which nothing more is known yet, below zero.
  const known = new Float32Array(n * n).fill(NaN);
  const measured = (a: number, b: number): number => {
    const [p, q] = [places[a], places[b]];
    let least = Infinity;
    for (let i = 0; i < p.length; i += 2) {
      for (let j = 0; j < q.length; j += 2) {
        const [dx, dy] = [p[i] - q[j], p[i + 1] - q[j + 1]];
        const square = dx * dx + dy * dy;
        if (square < least) least = square;
      }
    }
    return Math.sqrt(least);
  };
  const bounded = (a: number, b: number): number => {
    const [p, q] = [boxes[a], boxes[b]];
    const dx = Math.max(0, p.left - q.right, q.left - p.right);
    const dy = Math.max(0, p.top - q.bottom, q.top - p.bottom);
    return Math.sqrt(dx * dx + dy * dy) * BELOW;
  };
  return {
    longest: whole.right - whole.left + whole.bottom - whole.top,
    between: (a, b) => {
      const key = a < b ? a * n + b : b * n + a;
      if (!(known[key] >= 0)) known[key] = measured(a, b);
      return known[key];
    },
    atLeast: (a, b) => {
      const key = a < b ? a * n + b : b * n + a;
      const value = known[key];
      if (value >= 0) return value;
      if (value < 0) return -1 - value;
      const bound = bounded(a, b);
      known[key] = -1 - bound;
      // As it is remembered.
      return -1 - known[key];
    },
  };
}

/**
 * Shortens the way through an order: stretches of up to three pieces of one thread, and whole thread runs, are moved,
 * either way round, to where the way gets shorter (or-opt: Or 1976). Nothing comes before what it must follow, and no
 * move makes another thread run.
 * @param before for every piece, the pieces that must be sewn before it
 */
export function improveOrder(
  pieces: readonly Piece[],
  given: readonly number[],
  before: readonly (readonly number[])[],
): number[] {
  const gaps = createGaps(pieces);
  const threads = Int32Array.from(pieces, ({ thread: own }) => own);
  let order = given.slice();
  const thread = (at: number): number => (at < 0 || at >= order.length ? -1 : pieces[order[at]].thread);
  // When each place of the order changed last, and when a stretch from there was tried last: where nothing within its reach
  // has changed since, there is still no better place for it.
  const changed = new Int32Array(order.length);
  const tried = new Map<number, number>();
  let now = 1;
  for (let round = 0; round < ROUNDS; round++) {
    let improved = false;
    for (let i = 0; i < order.length; i++) {
      for (const length of stretchesAt(i, thread, order.length)) {
        const key = i * (order.length + 1) + length;
        if (isAsBefore(changed, i, length, tried.get(key) ?? 0)) continue;
        tried.set(key, now);
        const better = bestMove(order, i, length, threads, before, gaps);
        if (!better) continue;
        now++;
        better.forEach((piece, at) => piece !== order[at] && (changed[at] = now));
        order = better;
        improved = true;
      }
    }
    if (!improved) break;
  }
  return order;
}

/** Whether no place that a stretch could be moved to, or that lies beside it, has changed since a time; 0 is never. */
function isAsBefore(changed: Int32Array, i: number, length: number, since: number): boolean {
  if (since === 0) return false;
  const to = Math.min(changed.length, i + length + MOST_MOVES + 1);
  for (let at = Math.max(0, i - MOST_MOVES - 1); at < to; at++) if (changed[at] > since) return false;
  return true;
}

/** Lengths of the stretches of one thread from a place that are moved as one: short ones, and the whole run. */
function stretchesAt(at: number, thread: (at: number) => number, count: number): number[] {
  let run = 1;
  while (at + run < count && thread(at + run) === thread(at)) run++;
  const lengths = [1, 2, 3].filter((length) => length <= Math.min(run, LONGEST_STRETCH));
  if (thread(at - 1) !== thread(at) && run > LONGEST_STRETCH) lengths.push(run);
  return lengths;
}

/** In place of a piece, before the first and after the last. */
const NOTHING = -1;

function bestMove(
  order: readonly number[],
  i: number,
  length: number,
  threads: Int32Array,
  before: readonly (readonly number[])[],
  gaps: Gaps,
): number[] | undefined {
  const count = order.length - length;
  /** What is left of the order when the stretch is taken out of it; nothing before and after it. */
  const rest = (at: number): number => (at < 0 || at >= count ? NOTHING : order[at < i ? at : at + length]);
  /** What a distance between two pieces counts; none on the other side of an end. */
  const weighed = (a: number, b: number, gap: number): number =>
    threads[a] === threads[b] ? gap : gap * BETWEEN_THREADS + A_THREAD_RUN;
  const cost = (a: number, b: number): number =>
    a === NOTHING || b === NOTHING ? 0 : weighed(a, b, gaps.between(a, b));
  const bound = (a: number, b: number): number =>
    a === NOTHING || b === NOTHING ? 0 : weighed(a, b, gaps.atLeast(a, b));
  const [first, last] = [order[i], order[i + length - 1]];
  const [earlier, later] = [rest(i - 1), rest(i)];
  const removed = cost(earlier, first) + cost(last, later) - cost(earlier, later);
  const moves: { gain: number; j: number; isTurned: boolean }[] = [];
  const low = Math.max(0, i - MOST_MOVES);
  const high = Math.min(count, i + MOST_MOVES);
  const ways = length > 1 ? 2 : 1;
  // Beside pieces of other threads it would make two runs of one.
  const own = threads[first];
  const staysInRun = removed + gaps.longest < A_THREAD_RUN;
  let next = rest(low - 1);
  let isNextOther = next !== NOTHING && threads[next] !== own;
  let boundsAt = -1;
  let nextFirst = 0;
  let nextLast = 0;
  for (let j = low; j <= high; j++) {
    const prev = next;
    next = rest(j);
    const isPrevOther = isNextOther;
    isNextOther = next !== NOTHING && threads[next] !== own;
    if (staysInRun && isPrevOther && isNextOther) continue;
    const between = cost(prev, next);
    // What comes after one place comes before the next.
    const isNear = boundsAt === j;
    const prevFirst = isNear ? nextFirst : bound(prev, first);
    const prevLast = isNear ? nextLast : length > 1 ? bound(prev, last) : prevFirst;
    nextFirst = bound(first, next);
    nextLast = length > 1 ? bound(last, next) : nextFirst;
    boundsAt = j + 1;
    for (let way = 0; way < ways; way++) {
      if (j === i && way === 0) continue;
      // Most places lie too far off: that is seen by the boxes.
      const least = way === 0 ? prevFirst + nextLast : prevLast + nextFirst;
      if (removed - (least - between) <= 1e-6) continue;
      const head = way === 0 ? first : last;
      const tail = way === 0 ? last : first;
      const gain = removed - (cost(prev, head) + cost(tail, next) - between);
      if (gain > 1e-6) moves.push({ gain, j, isTurned: way === 1 });
    }
  }
  if (moves.length === 0) return undefined;
  moves.sort((a, b) => b.gain - a.gain);
  const stretch = order.slice(i, i + length);
  const turned = stretch.slice().reverse();
  const left = [...order.slice(0, i), ...order.slice(i + length)];
  for (const { j, isTurned } of moves) {
    const list = [...left.slice(0, j), ...(isTurned ? turned : stretch), ...left.slice(j)];
    if (isAllowed(list, before, Math.min(i, j), Math.max(i, j) + length)) return list;
  }
  return undefined;
}

/** Whether everything in a stretch of an order comes after what it must follow. */
function isAllowed(list: readonly number[], before: readonly (readonly number[])[], from: number, to: number): boolean {
  const place = new Map<number, number>();
  for (let i = from; i < Math.min(to, list.length); i++) place.set(list[i], i);
  for (const [piece, at] of place) {
    for (const other of before[piece]) if ((place.get(other) ?? -1) > at) return false;
  }
  return true;
}
