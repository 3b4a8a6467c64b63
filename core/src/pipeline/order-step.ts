import type { FoundPieces, PieceMove } from '../pieces/found-pieces.js';
import type { Piece } from '../pieces/piece.js';
import { movePieces, sewingOrder } from '../sequence/order.js';
import { step } from './step.js';

interface OrderInputs {
  readonly found: FoundPieces;
  readonly threadOf: readonly number[];
  readonly needles: number;
  /** How many renderings lie below the pieces of each object that has pieces. */
  readonly heights: Readonly<Record<string, number>>;
}

/** Sewing order of pieces, and how many of them come before each rendering. */
export interface DesignOrder {
  readonly order: readonly number[];
  /** Pieces sewn before the first rendering, before the second … */
  readonly before: readonly number[];
}

/** Orders pieces: what lies below a rendering is sewn before it, what lies above after it, however else it is moved. */
export const orderStep = step('order', ({ found, threadOf, needles, heights }: OrderInputs): DesignOrder => {
  const pieces = found.pieces.map((piece): Piece => ({ ...piece, thread: threadOf[piece.thread] }));
  const heightOf = pieces.map(({ object }) => heights[object] ?? 0);
  const most = Math.max(0, ...Object.values(heights));
  const order: number[] = [];
  const before: number[] = [];
  for (let height = 0; height <= most; height++) {
    const members = pieces.map((_, i) => i).filter((i) => heightOf[i] === height);
    order.push(...orderOf(pieces, members, found.moves, needles));
    before.push(order.length);
  }
  return { order, before };
});

function orderOf(pieces: readonly Piece[], members: readonly number[], moves: readonly PieceMove[], needles: number) {
  const place = new Map(members.map((piece, i) => [piece, i]));
  const own = members.map((i): Piece => ({
    ...pieces[i],
    neighbours: pieces[i].neighbours.flatMap(({ piece, borderMm }) => {
      const at = place.get(piece);
      return at === undefined ? [] : [{ piece: at, borderMm }];
    }),
  }));
  const moved = moves.flatMap(({ piece, before }): PieceMove[] => {
    const at = place.get(piece);
    const goal = typeof before === 'number' ? place.get(before) : before;
    return at === undefined || goal === undefined ? [] : [{ piece: at, before: goal }];
  });
  return movePieces(sewingOrder(own, needles), moved).map((i) => members[i]);
}
