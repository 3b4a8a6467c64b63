import type { Check } from '../check.js';
import { spotsOf } from '../spots.js';
import { BARE } from '../surface.js';

/** Nearer to an edge the thread of a neighbour may be seen: it reaches over by the pull compensation. */
const DEEP_MM = 0.7;
const LEAST_MM2 = 0.5;
const MOST_FOUND = 40;

/** Another thread on top of a piece, in the middle of it. */
export const WRONG_COLOUR: Check = {
  id: 'wrong-colour',
  name: 'Wrong colour on top',
  why: 'Another thread is seen where this piece should be.',
  find: ({ design, surface: make }) => {
    const surface = make();
    if (!design || !surface) return [];
    const spots = spotsOf(surface, DEEP_MM, LEAST_MM2, (cell, piece) => {
      const seen = surface.thread[cell];
      return seen !== BARE && seen !== design.pieces[piece].thread;
    });
    return spots.slice(0, MOST_FOUND).map(({ at, piece, mm2 }) => ({
      level: 'advice' as const,
      text: `${mm2.toFixed(1)} mm² of another thread on top of a piece.`,
      at,
      pieces: [design.pieces[piece].id],
      harm: mm2 / LEAST_MM2,
      cost: { mm2 },
      repairs: [],
    }));
  },
};
