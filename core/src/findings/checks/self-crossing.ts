import { areaOf, fillRings } from '../../geometry/polygons.js';
import { signedArea } from '../../geometry/polyline.js';
import { ringsOf } from '../../pieces/piece.js';
import type { Check } from '../check.js';

/** So much of a shape lies in loops that cross it. */
const LEAST_MM2 = 1;

/** A shape whose outline crosses itself. */
export const SELF_CROSSING: Check = {
  id: 'self-crossing',
  name: 'Outlines that cross themselves',
  why: 'Where an outline crosses itself nobody can say what is inside: rows break off there.',
  find: ({ design }) =>
    (design?.pieces ?? []).flatMap((piece) => {
      if (piece.family === 'line' || piece.origin !== 'drawn') return [];
      return ringsOf(piece).flatMap((ring) => {
        // A loop the other way round takes away from the area the ring says it has.
        const loops = areaOf(fillRings([ring], 'nonzero')) - Math.abs(signedArea(ring));
        if (loops < LEAST_MM2) return [];
        return [
          {
            level: 'advice' as const,
            text: `An outline crosses itself: ${loops.toFixed(1)} mm² lie in a loop.`,
            at: piece.anchor,
            pieces: [piece.id],
            harm: 1 + loops / 10,
            repairs: [],
          },
        ];
      });
    }),
};
