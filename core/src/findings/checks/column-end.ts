import { distance, type Points } from '../../geometry/vector.js';
import { mm, type Check } from '../check.js';
import { isPushedTo } from '../pushed-ends.js';
import { spotsOf } from '../spots.js';
import { BARE } from '../surface.js';

/** So far from its end a column may lose its corners. */
const NEAR_MM = 1.5;
const LEAST_MM2 = 0.25;
const MOST_FOUND = 40;

/** A column of satin that is narrower at its end than its shape. */
export const COLUMN_END: Check = {
  id: 'column-end',
  name: 'Ends of satin too narrow',
  why: 'A square end is sewn round, and the cloth shows at its corners.',
  find: ({ design, fabric, surface: make }) => {
    const surface = make();
    if (!design || !surface) return [];
    const { thread, placeOf } = surface;
    const bare = spotsOf(surface, 0, LEAST_MM2, (cell, piece) => {
      const each = design.pieces[piece];
      return thread[cell] === BARE && each.family === 'column' && !isPushedTo(each, placeOf(cell), fabric);
    });
    return bare
      .flatMap(({ at, piece, mm2 }) => {
        const { columns, id } = design.pieces[piece];
        const near = columns.some(
          ({ rungs, closed }) =>
            !closed && [rungs.slice(0, 4), rungs.slice(-4)].some((rung) => toRung(rung, at.x, at.y) < NEAR_MM),
        );
        if (!near) return [];
        return [
          {
            level: 'advice' as const,
            text: `${mm2.toFixed(2)} mm² stay bare at the end of a column${mm2 > 1 ? `, ${mm(Math.sqrt(mm2))} across` : ''}.`,
            at,
            pieces: [id],
            harm: mm2 / LEAST_MM2,
            cost: { mm2 },
            repairs: [],
          },
        ];
      })
      .slice(0, MOST_FOUND);
  },
};

/** How far a place lies from the nearer end of a rung. */
const toRung = (rung: Points, x: number, y: number): number =>
  Math.min(distance(rung[0], rung[1], x, y), distance(rung[2], rung[3], x, y));
