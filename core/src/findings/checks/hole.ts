import { sewAs, type Check } from '../check.js';
import { isPushedTo } from '../pushed-ends.js';
import { spotsOf } from '../spots.js';
import { BARE } from '../surface.js';

const DEEP_MM = 0.3;
const LEAST_MM2 = 0.15;
const MOST_FOUND = 40;

/** Bare cloth inside what is sewn closed. */
export const HOLE: Check = {
  id: 'hole',
  name: 'Holes',
  why: 'The cloth shows where it should be covered.',
  find: (examined) => {
    const { design, fabric } = examined;
    const surface = examined.surface();
    if (!design || !surface) return [];
    const { thread, placeOf } = surface;
    const spots = spotsOf(
      surface,
      DEEP_MM,
      LEAST_MM2,
      (cell, piece) => thread[cell] === BARE && !isPushedTo(design.pieces[piece], placeOf(cell), fabric),
    );
    return spots.slice(0, MOST_FOUND).map(({ at, piece, mm2 }) => ({
      level: 'advice' as const,
      text: `${mm2.toFixed(2)} mm² of bare cloth inside a piece.`,
      at,
      pieces: [design.pieces[piece].id],
      harm: mm2 / LEAST_MM2,
      cost: { mm2 },
      repairs:
        design.pieces[piece].kind === 'tatami'
          ? []
          : sewAs(examined, design.pieces[piece], 'tatami', 'Sew it as tatami'),
    }));
  },
};
