import type { Piece } from '../../pieces/piece.js';
import { mm, sayOf, type Check } from '../check.js';
import type { Examined } from '../examined.js';
import type { Repair } from '../finding.js';

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
          repairs: threeTimes(examined, piece),
        },
      ];
    });
  },
};

/** Sews a line three times over: said of its stitches it holds for this part of a shape alone, said with its kind for all. */
function threeTimes(examined: Examined, piece: Piece): Repair[] {
  const set = { ...piece.choices.values, passes: 3 };
  return sayOf(
    examined,
    piece,
    { id: 'running', label: 'Sew it three times over', safe: false },
    (at) => (piece.chosen ? { kind: 'sew', at, as: 'running', passes: 3 } : { kind: 'stitch', at, set }),
    () => !piece.chosen,
  );
}
