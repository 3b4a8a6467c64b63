import { mm, sewAs, type Check } from '../check.js';

const THIN_MM = 0.7;

/** A thin line on pile or a knit. */
export const THIN_LINE_SINKS: Check = {
  id: 'thin-line-sinks',
  name: 'Thin lines sink',
  why: 'Thin lines sink into pile and knits.',
  find: (examined) => {
    if (examined.fabric.spacing >= 1) return [];
    return (examined.design?.pieces ?? []).flatMap((piece) => {
      if (piece.kind !== 'running' || piece.role !== 'plain' || piece.widthMm >= THIN_MM || piece.passes === 3)
        return [];
      return [
        {
          level: 'advice' as const,
          text: `A line of ${mm(piece.widthMm)} on ${examined.fabric.name.toLowerCase()}.`,
          at: piece.anchor,
          pieces: [piece.id],
          harm: THIN_MM / Math.max(0.1, piece.widthMm),
          repairs: sewAs(examined, piece, 'running', 'Sew it three times over', 3),
        },
      ];
    });
  },
};
