import { boundsOf } from '../geometry/polyline.js';
import { innerRows } from '../picture/inner-rows.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import { stitchKindOf } from '../stitches/kinds/index.js';

/** What of each piece is seen at last. */
export interface Shown {
  /** Share of each piece that nothing sewn later covers, 0 to 1. */
  readonly shares: readonly number[];
  /** For each piece, the pieces that cover most of it. */
  readonly coveredBy: readonly (readonly number[])[];
}

const PER_MM = 4;
const MOST_CELLS = 1_500_000;

/** Paints pieces in sewing order and counts what is left of each. */
export function visibleShares(pieces: readonly Piece[], order: readonly number[]): Shown {
  if (pieces.length === 0) return { shares: [], coveredBy: [] };
  const box = boundsOf(pieces.map(({ bounds: b }) => [b.left, b.top, b.right, b.bottom]));
  const size = Math.max(1, (box.right - box.left) * (box.bottom - box.top));
  const scale = Math.min(PER_MM, Math.sqrt(MOST_CELLS / size));
  const width = Math.ceil((box.right - box.left) * scale) + 2;
  const height = Math.ceil((box.bottom - box.top) * scale) + 2;
  const grid = { width, height, left: box.left, top: box.top, scale };
  const top = new Int32Array(width * height).fill(-1);
  const all = new Uint32Array(pieces.length);
  const lost = pieces.map(() => new Map<number, number>());
  for (const index of order) {
    const piece = pieces[index];
    // What is open lets through what lies below it.
    const covers = stitchKindOf(piece.kind).covers;
    innerRows(ringsOf(piece), grid, (from, to) => {
      all[index] += to - from;
      for (let cell = from; cell < to; cell++) {
        const below = top[cell];
        if (below >= 0 && covers) lost[below].set(index, (lost[below].get(index) ?? 0) + 1);
        if (below < 0 || covers) top[cell] = index;
      }
    });
  }
  return {
    shares: pieces.map((_, i) => {
      const gone = [...lost[i].values()].reduce((a, b) => a + b, 0);
      return all[i] > 0 ? 1 - gone / all[i] : 1;
    }),
    coveredBy: lost.map((by) => [...by].sort((a, b) => b[1] - a[1]).map(([piece]) => piece)),
  };
}
