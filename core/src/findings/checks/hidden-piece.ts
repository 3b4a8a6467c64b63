import { leaveBare, type Check } from '../check.js';

/** Of a piece of which less than this is seen, nobody misses the rest. */
const LEAST_SHOWN = 0.12;

/** A piece that later ones cover. */
export const HIDDEN_PIECE: Check = {
  id: 'hidden-piece',
  name: 'Hidden pieces',
  why: 'What is sewn later covers it.',
  find: (examined) => {
    const { design } = examined;
    if (!design) return [];
    const { shares, coveredBy } = examined.shown();
    return design.pieces.flatMap((piece, i) => {
      if (shares[i] >= LEAST_SHOWN || piece.role !== 'plain' || piece.gradient) return [];
      const stitches = examined.pieceStitches()[i];
      return [
        {
          level: 'waste' as const,
          text: `Only ${Math.round(shares[i] * 100)} % of a piece is seen.`,
          at: piece.anchor,
          pieces: [piece.id, ...coveredBy[i].slice(0, 2).map((k) => design.pieces[k].id)],
          harm: LEAST_SHOWN / Math.max(0.01, shares[i]),
          cost: { stitches, mm2: piece.areaMm2 },
          repairs: leaveBare(examined, piece, 'Leave it bare', true),
        },
      ];
    });
  },
};
