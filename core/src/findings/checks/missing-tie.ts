import { stitchLength } from '../../sequence/figures.js';
import { JUMP, STITCH } from '../../sequence/stitch-list.js';
import type { Check } from '../check.js';

/** A tie is made of stitches no longer than this, among the first of a run. */
const TIE_MM = 1.2;
const WITHIN = 6;
const MOST_FOUND = 40;

/** Runs whose beginning is not tied in. */
export const MISSING_TIE: Check = {
  id: 'missing-tie',
  name: 'Missing ties',
  why: 'What is not tied in can pull out.',
  find: ({ sewing: { stitches: list, pieceIds } }) => {
    const found = [];
    for (let i = 0; i + 1 < list.count && found.length < MOST_FOUND; i++) {
      if (list.command[i] !== JUMP || list.command[i + 1] !== STITCH) continue;
      let short = 0;
      let count = 0;
      for (let k = i + 2; k < Math.min(list.count, i + 2 + WITHIN) && list.command[k] === STITCH; k++) {
        count++;
        if (stitchLength(list, k) <= TIE_MM) short++;
      }
      if (count === 0 || short >= 2) continue;
      found.push({
        level: 'advice' as const,
        text: 'A thread begins without a tie-in.',
        at: { x: list.x[i + 1], y: list.y[i + 1] },
        pieces: pieceIds[list.piece[i + 1]] ? [pieceIds[list.piece[i + 1]]] : [],
        harm: 1,
        repairs: [],
      });
    }
    return found;
  },
};
