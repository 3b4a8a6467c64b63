import { distance, type Point } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import { portalsOf } from './portals.js';

/** Of larger runs only so many neighbours in the order are tried. */
const MOST_MOVES = 60;
const ROUNDS = 6;
const LONGEST_STRETCH = 3;
/** Places looked at for each piece. */
const PLACES = 6;

/** Least distance between the places where two pieces may be entered or left; remembered. */
export function createGaps(pieces: readonly Piece[]): (a: number, b: number) => number {
  const places = pieces.map((piece): readonly Point[] => {
    const all = portalsOf(piece).places;
    const every = Math.max(1, Math.ceil(all.length / PLACES));
    return all.filter((_, i) => i % every === 0);
  });
  const known = new Map<number, number>();
  return (a, b) => {
    const key = a < b ? a * pieces.length + b : b * pieces.length + a;
    let gap = known.get(key);
    if (gap === undefined) {
      gap = Infinity;
      for (const p of places[a]) for (const q of places[b]) gap = Math.min(gap, distance(p.x, p.y, q.x, q.y));
      known.set(key, gap);
    }
    return gap;
  };
}

/**
 * Shortens the way through a run of pieces of one thread: stretches of up to three pieces are moved, either way round,
 * to where the way gets shorter (or-opt: Or 1976), as long as what must be sewn before stays before.
 * @param before for every piece, the pieces that must be sewn before it
 */
export function improveRun(
  run: readonly number[],
  before: readonly (readonly number[])[],
  gap: (a: number, b: number) => number,
): number[] {
  let order = run.slice();
  const inRun = new Set(run);
  const needs = new Map(run.map((i) => [i, before[i].filter((other) => inRun.has(other))]));
  const isAllowed = (list: readonly number[], from: number, to: number): boolean => {
    const place = new Map<number, number>();
    for (let i = 0; i < list.length; i++) place.set(list[i], i);
    for (let i = from; i <= to; i++) {
      for (const other of needs.get(list[i]) as number[]) if ((place.get(other) as number) > i) return false;
    }
    return true;
  };
  const step = (list: readonly number[], i: number): number =>
    i < 0 || i + 1 >= list.length ? 0 : gap(list[i], list[i + 1]);
  for (let round = 0; round < ROUNDS; round++) {
    let improved = false;
    for (let length = 1; length <= LONGEST_STRETCH; length++) {
      for (let i = 0; i + length <= order.length; i++) {
        const removed = step(order, i - 1) + step(order, i + length - 1);
        const bridge = i > 0 && i + length < order.length ? gap(order[i - 1], order[i + length]) : 0;
        const rest = [...order.slice(0, i), ...order.slice(i + length)];
        const stretch = order.slice(i, i + length);
        const turned = stretch.slice().reverse();
        let best: { list: number[]; gain: number; from: number; to: number } | undefined;
        const [low, high] = [Math.max(0, i - MOST_MOVES), Math.min(rest.length, i + MOST_MOVES)];
        for (let j = low; j <= high; j++) {
          if (j === i) continue;
          for (const part of length > 1 ? [stretch, turned] : [stretch]) {
            const added =
              (j > 0 ? gap(rest[j - 1], part[0]) : 0) +
              (j < rest.length ? gap(part[length - 1], rest[j]) : 0) -
              (j > 0 && j < rest.length ? gap(rest[j - 1], rest[j]) : 0);
            const gain = removed - bridge - added;
            if (gain <= 1e-6 || (best && gain <= best.gain)) continue;
            const list = [...rest.slice(0, j), ...part, ...rest.slice(j)];
            const [from, to] = [Math.min(i, j), Math.max(i, j) + length - 1];
            if (isAllowed(list, from, Math.min(to, list.length - 1))) best = { list, gain, from, to };
          }
        }
        if (!best) continue;
        order = best.list;
        improved = true;
      }
    }
    if (!improved) break;
  }
  return order;
}
