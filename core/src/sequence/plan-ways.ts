import { distance, type Point } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import type { Way } from '../stitches/stitch-kind.js';
import { aboveLine, joinedUpTo } from './in-word.js';
import { portalsOf } from './portals.js';

/** What cutting and tying the thread is worth in millimetres of way. */
const CUT_AS_WAY_MM = 30;
/** Ways between threads matter less: the thread is cut there anyway, and only the frame moves. */
const BETWEEN_THREADS = 0.3;

/** A run below a piece, so that it can be left elsewhere than it was entered, is worth so much of its length. */
const RUN_BELOW = 0.6;

/** Farther away than this the next piece says nothing of the side at which one is left, in mm. */
const NEXT_MM = 8;

const nearer = (a: Point, b: Point): boolean => distance(a.x, a.y, b.x, b.y) <= NEXT_MM;

/** What a way between two pieces costs. */
export function wayCost(a: Point, b: Point, sameThread: boolean, trimOverMm: number): number {
  const gap = distance(a.x, a.y, b.x, b.y);
  if (!sameThread) return gap * BETWEEN_THREADS;
  return gap > trimOverMm ? gap + CUT_AS_WAY_MM : gap;
}

/**
 * Where every piece of an order is entered and left, so that the ways between them cost least in all: dynamic choice
 * over the places each piece offers. What the user said about an entry or exit holds.
 * @returns ways by place in the order
 */
export function planWays(pieces: readonly Piece[], order: readonly number[], trimOverMm: number): Way[] {
  const layers = order.map((index) => {
    const piece = pieces[index];
    const { places, exits: ends, leaves } = portalsOf(piece);
    const { entry, exit } = piece.choices;
    const entries = entry ? [entry] : places;
    const free = leaves === 'anywhere';
    const exits = exit ? [exit] : free || leaves === 'below' ? (ends ?? places) : entries;
    return { piece, thread: piece.thread, entries, exits, leaves, fixed: exit !== undefined };
  });
  // Least cost of leaving by each exit, and how it was entered and what was left before.
  const costs: Float64Array[] = [];
  const entered: Int32Array[] = [];
  const came: Int32Array[] = [];
  layers.forEach((layer, k) => {
    const before = layers[k - 1] as (typeof layers)[number] | undefined;
    const arrive = new Float64Array(layer.entries.length);
    const arriveFrom = new Int32Array(layer.entries.length).fill(-1);
    const joined = joinedUpTo(before?.piece, layer.piece, trimOverMm);
    layer.entries.forEach((entry, e) => {
      if (!before) return;
      arrive[e] = Infinity;
      before.exits.forEach((exit, x) => {
        const cost =
          costs[k - 1][x] +
          wayCost(exit, entry, before.thread === layer.thread, joined) *
            aboveLine(before.piece, layer.piece, exit, entry);
        if (cost < arrive[e]) [arrive[e], arriveFrom[e]] = [cost, x];
      });
    });
    const cost = new Float64Array(layer.exits.length).fill(Infinity);
    const by = new Int32Array(layer.exits.length);
    const from = new Int32Array(layer.exits.length);
    layer.exits.forEach((_, x) => {
      layer.entries.forEach((entry, e) => {
        const fits =
          layer.fixed ||
          layer.leaves === 'anywhere' ||
          layer.entries.length === 1 ||
          (layer.leaves === 'other' ? e !== x : e === x);
        const exit = layer.exits[x];
        const below = layer.leaves === 'below' ? distance(entry.x, entry.y, exit.x, exit.y) * RUN_BELOW : Infinity;
        const least = arrive[e] + (fits ? 0 : below);
        if (least >= cost[x]) return;
        [cost[x], by[x], from[x]] = [least, e, arriveFrom[e]];
      });
    });
    costs.push(cost);
    entered.push(by);
    came.push(from);
  });
  const ways: (Way | undefined)[] = new Array<undefined>(order.length);
  let at = -1;
  for (let k = layers.length - 1; k >= 0; k--) {
    if (at < 0) at = costs[k].reduce((best, cost, i) => (cost < costs[k][best] ? i : best), 0);
    const { piece, thread, entries, exits } = layers[k];
    const [entry, exit] = [entries[entered[k][at]], exits[at]];
    const after = ways[k + 1]?.entry;
    const isOn = after && layers[k + 1].thread === thread && !piece.choices.exit;
    ways[k] = { entry, exit, ...(isOn && nearer(exit, after) ? { next: after } : {}) };
    at = came[k][at];
  }
  return ways as Way[];
}

/** What an order costs between its pieces, by the planned ways. */
export interface OrderCost {
  readonly threadRuns: number;
  readonly travelMm: number;
  /** Ways over which the thread has to be cut unless they can be hidden, changes of thread aside. */
  readonly longWays: number;
}

export function costOfOrder(
  pieces: readonly Piece[],
  order: readonly number[],
  ways: readonly Way[],
  trimOverMm: number,
): OrderCost {
  let [threadRuns, travelMm, longWays] = [order.length > 0 ? 1 : 0, 0, 0];
  for (let k = 1; k < order.length; k++) {
    const from = ways[k - 1].exit ?? pieces[order[k - 1]].anchor;
    const to = ways[k].entry ?? pieces[order[k]].anchor;
    const gap = distance(from.x, from.y, to.x, to.y);
    travelMm += gap;
    if (pieces[order[k]].thread !== pieces[order[k - 1]].thread) threadRuns++;
    else if (gap > trimOverMm) longWays++;
  }
  return { threadRuns, travelMm, longWays };
}
