import { TRIM } from '../../sequence/stitch-list.js';
import type { Piece } from '../../pieces/piece.js';
import { leaveBare, type Check } from '../check.js';
import type { Examined } from '../examined.js';

const NEAR_MM = 4;
/** So many trims around one place are a heap. */
const LEAST = 5;
/** Pieces smaller than this may be left out of one. */
const SMALL_MM2 = 4;

/** Many trims in one place: knots on the back, and the machine stands still more than it sews. */
export const TRIMS_IN_A_HEAP: Check = {
  id: 'trims-in-a-heap',
  name: 'Trims in a heap',
  why: 'So many knots in one place make a lump on the back, and every one costs 7 seconds.',
  find: (examined) => {
    const { stitches: list, pieceIds } = examined.sewing;
    const places: { x: number; y: number; piece: number; taken?: boolean }[] = [];
    for (let i = 1; i < list.count; i++)
      if (list.command[i] === TRIM) places.push({ x: list.x[i], y: list.y[i], piece: list.piece[i - 1] });
    const found = [];
    for (const place of places) {
      if (place.taken) continue;
      const near = places.filter(
        (other) => !other.taken && (other.x - place.x) ** 2 + (other.y - place.y) ** 2 <= NEAR_MM * NEAR_MM,
      );
      if (near.length < LEAST) continue;
      for (const each of near) each.taken = true;
      const pieces = [...new Set(near.map(({ piece }) => piece))].filter((piece) => piece < pieceIds.length);
      found.push({
        level: 'advice' as const,
        text: `${near.length} trims within ${NEAR_MM} mm.`,
        at: { x: place.x, y: place.y },
        pieces: pieces.map((piece) => pieceIds[piece]),
        harm: near.length / LEAST,
        cost: { trims: near.length },
        repairs: withoutSmall(
          examined,
          pieces.flatMap((piece) => examined.design?.pieces[piece] ?? []),
        ),
      });
    }
    return found;
  },
};

/** Leaves the smallest pieces of a heap bare, so that the others remain. */
function withoutSmall(examined: Examined, pieces: readonly Piece[]) {
  const small = pieces.filter(({ areaMm2 }) => areaMm2 < SMALL_MM2);
  const decisions = small.flatMap((piece) => leaveBare(examined, piece)[0]?.decisions ?? []);
  if (decisions.length === 0) return [];
  const label = decisions.length === 1 ? 'Leave the smallest bare' : `Leave the ${decisions.length} smallest bare`;
  return [{ id: 'bare-small', label, safe: false, decisions }];
}
