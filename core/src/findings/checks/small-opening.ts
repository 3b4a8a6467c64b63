import { signedArea } from '../../geometry/polyline.js';
import type { Point, Points } from '../../geometry/vector.js';
import { isInside } from '../../geometry/polyline.js';
import { ringsOf } from '../../pieces/piece.js';
import { mm, type Check } from '../check.js';

/** An opening closes by so many compensations, and the thread's own width. */
const SIDES = 2;
const THREAD_MM = 0.4;
/** On pile the loops fall over what little stays open. */
const PILE_MM = 0.3;

/** Openings in a piece that the stitches around them will close. */
export const SMALL_OPENING: Check = {
  id: 'small-opening',
  name: 'Openings will close',
  why: 'Stitches around a small opening grow into it: a hole nobody sees, or a hard spot.',
  find: ({ design, fabric }) => {
    if (!design) return [];
    const least = SIDES * fabric.compensationMm + THREAD_MM + (fabric.spacing < 1 ? PILE_MM : 0);
    return design.pieces.flatMap((piece) => {
      if (piece.family === 'line' || piece.role !== 'plain') return [];
      const [, ...inner] = ringsOf(piece);
      return inner.flatMap((ring) => {
        const area = Math.abs(signedArea(ring));
        // As wide as a disc of its area.
        const width = 2 * Math.sqrt(area / Math.PI);
        const at = middleOf(ring);
        if (width >= least || design.pieces.some((other) => other !== piece && isInside(ringsOf(other), at.x, at.y)))
          return [];
        return [
          {
            level: 'advice' as const,
            text: `An opening ${mm(width, 2)} wide; ${mm(least, 2)} stay open on this fabric.`,
            at,
            pieces: [piece.id],
            harm: Math.min(4, least / Math.max(0.1, width)),
            repairs: [],
          },
        ];
      });
    });
  },
};

function middleOf(ring: Points): Point {
  let [x, y] = [0, 0];
  for (let i = 0; i < ring.length; i += 2) [x, y] = [x + ring[i], y + ring[i + 1]];
  return { x: (x * 2) / ring.length, y: (y * 2) / ring.length };
}
