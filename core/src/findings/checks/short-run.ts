import { stitchLength } from '../../sequence/figures.js';
import { CHANGE, JUMP, STITCH, TRIM } from '../../sequence/stitch-list.js';
import { leaveBare, mm, type Check } from '../check.js';

/** Thread between a tie-in and a tie-off, ties not counted: less does not hold, and costs a trim. */
const LEAST_MM = 8;
const TIES_MM = 4.2;
const MOST_FOUND = 80;

/** Runs that are tied in and off again at once. */
export const SHORT_RUN: Check = {
  id: 'short-run',
  name: 'Too small to sew',
  why: 'So little thread hardly holds, and costs a trim.',
  find: (examined) => {
    const {
      sewing: { stitches: list, pieceIds },
      design,
    } = examined;
    const found = [];
    let length = 0;
    let first = -1;
    for (let i = 0; i < list.count && found.length < MOST_FOUND; i++) {
      if (list.command[i] === STITCH) {
        if (first < 0) first = i;
        else length += stitchLength(list, i);
        continue;
      }
      if (list.command[i] !== TRIM && list.command[i] !== JUMP && list.command[i] !== CHANGE) continue;
      const own = length - TIES_MM;
      if (first >= 0 && list.command[i] === TRIM && own < LEAST_MM) {
        const piece = design?.pieces[list.piece[first]];
        found.push({
          level: 'waste' as const,
          text: `${mm(Math.max(0, own))} of thread between tie-in and tie-off.`,
          at: { x: list.x[first], y: list.y[first] },
          pieces: pieceIds[list.piece[first]] ? [pieceIds[list.piece[first]]] : [],
          harm: LEAST_MM / Math.max(0.5, own),
          cost: { stitches: i - first, trims: 1 },
          repairs: piece ? leaveBare(examined, piece) : [],
        });
      }
      length = 0;
      first = -1;
    }
    return found;
  },
};
