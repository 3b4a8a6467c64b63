import type { Check } from '../check.js';
import { spotsOf } from '../spots.js';
import { BARE } from '../surface.js';

/** Nearer to an edge the thread of a neighbour may be seen: it reaches over by the pull compensation. */
const DEEP_MM = 0.7;
/** So many cells beside a place are of another thread as well: a single one, as it leads from letter to letter, is no fault. */
const BESIDE = 2;
const LEAST_MM2 = 0.1;
const MOST_FOUND = 40;

/** Another thread on top of a piece, in the middle of it, and wider than one thread. */
export const WRONG_COLOUR: Check = {
  id: 'wrong-colour',
  name: 'Wrong colour on top',
  why: 'Another thread is seen where this piece should be.',
  find: ({ design, surface: make }) => {
    const surface = make();
    if (!design || !surface) return [];
    const { thread, width } = surface;
    const beside = [0, -BESIDE, BESIDE, -BESIDE * width, BESIDE * width];
    const spots = spotsOf(surface, DEEP_MM, LEAST_MM2, (cell, piece) => {
      const own = design.pieces[piece].thread;
      return beside.every((by) => thread[cell + by] !== own && thread[cell + by] !== BARE);
    });
    return spots.slice(0, MOST_FOUND).map(({ at, piece, mm2 }) => ({
      level: 'advice' as const,
      text: 'Another thread lies in the middle of a piece.',
      at,
      pieces: [design.pieces[piece].id],
      harm: 1 + mm2,
      repairs: [],
    }));
  },
};
