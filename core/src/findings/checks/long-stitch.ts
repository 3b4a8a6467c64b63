import { stitchLength } from '../../sequence/figures.js';
import { STITCH } from '../../sequence/stitch-list.js';
import { mm, type Check } from '../check.js';

const LONGEST_MM = 12;

/** Stitches longer than a machine can make. */
export const LONG_STITCH: Check = {
  id: 'long-stitch',
  name: 'Stitches too long',
  why: 'Stitches over 12 mm are longer than a machine can make.',
  find: ({ sewing: { stitches: list, pieceIds } }) => {
    const found = [];
    for (let i = 1; i < list.count; i++) {
      // Stitch lists from outside may start after a jump without a needle point; only seams are measured.
      if (list.command[i] !== STITCH || list.command[i - 1] !== STITCH) continue;
      const length = stitchLength(list, i);
      if (length <= LONGEST_MM) continue;
      found.push({
        level: 'problem' as const,
        text: `A stitch of ${mm(length)}.`,
        at: { x: list.x[i], y: list.y[i] },
        pieces: pieceIds[list.piece[i]] ? [pieceIds[list.piece[i]]] : [],
        harm: length / LONGEST_MM,
        repairs: [],
      });
    }
    return found;
  },
};
