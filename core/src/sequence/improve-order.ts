import { distance, type Point } from '../geometry/vector.js';
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

/** Least distance between the places where two pieces may be entered or left; remembered. */
export function createGaps(pieces: readonly Piece[]): (a: number, b: number) => number {
  const places = pieces.map((piece): readonly Point[] => {
    const all = portalsOf(piece).places;
    const every = Math.max(1, Math.ceil(all.length / PLACES));
    return all.filter((_, i) => i % every === 0);
  });
  const known = new Float32Array(pieces.length * pieces.length).fill(-1);
  return (a, b) => {
    const key = a < b ? a * pieces.length + b : b * pieces.length + a;
    let gap = known[key];
    if (gap < 0) {
      gap = Infinity;
      for (const p of places[a]) for (const q of places[b]) gap = Math.min(gap, distance(p.x, p.y, q.x, q.y));
      known[key] = gap;
    }
    return gap;
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
  const gap = createGaps(pieces);
  let order = given.slice();
  const thread = (at: number): number => (at < 0 || at >= order.length ? -1 : pieces[order[at]].thread);
  for (let round = 0; round < ROUNDS; round++) {
    let improved = false;
    for (let i = 0; i < order.length; i++) {
      for (const length of stretchesAt(i, thread, order.length)) {
        const better = bestMove(order, i, length, pieces, before, gap);
        if (!better) continue;
        order = better;
        improved = true;
      }
    }
    if (!improved) break;
  }
  return order;
}

/** Lengths of the stretches of one thread from a place that are moved as one: short ones, and the whole run. */
function stretchesAt(at: number, thread: (at: number) => number, count: number): number[] {
  let run = 1;
  while (at + run < count && thread(at + run) === thread(at)) run++;
  const lengths = [1, 2, 3].filter((length) => length <= Math.min(run, LONGEST_STRETCH));
  if (thread(at - 1) !== thread(at) && run > LONGEST_STRETCH) lengths.push(run);
  return lengths;
}

function bestMove(
  order: readonly number[],
  i: number,
  length: number,
  pieces: readonly Piece[],
  before: readonly (readonly number[])[],
  gap: (a: number, b: number) => number,
): number[] | undefined {
  const cost = (a: number | undefined, b: number | undefined): number => {
    if (a === undefined || b === undefined) return 0;
    return pieces[a].thread === pieces[b].thread ? gap(a, b) : gap(a, b) * BETWEEN_THREADS + A_THREAD_RUN;
  };
  const stretch = order.slice(i, i + length);
  const turned = stretch.slice().reverse();
  const rest = [...order.slice(0, i), ...order.slice(i + length)];
  const removed =
    cost(order[i - 1], order[i]) +
    cost(order[i + length - 1], order[i + length]) -
    cost(order[i - 1], order[i + length]);
  const moves: { gain: number; j: number; part: number[] }[] = [];
  const low = Math.max(0, i - MOST_MOVES);
  const high = Math.min(rest.length, i + MOST_MOVES);
  for (let j = low; j <= high; j++) {
    for (const part of length > 1 ? [stretch, turned] : [stretch]) {
      if (j === i && part === stretch) continue;
      const added = cost(rest[j - 1], part[0]) + cost(part[length - 1], rest[j]) - cost(rest[j - 1], rest[j]);
      const gain = removed - added;
      if (gain > 1e-6) moves.push({ gain, j, part });
    }
  }
  moves.sort((a, b) => b.gain - a.gain);
  for (const { j, part } of moves) {
    const list = [...rest.slice(0, j), ...part, ...rest.slice(j)];
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
