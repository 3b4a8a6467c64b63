import { distance } from '../../geometry/vector.js';
import { runsOf } from '../../pieces/piece.js';
import { mm, type Check } from '../check.js';

/** Ends farther apart are two lines; nearer ones are covered by the thread. */
const [NEAREST_MM, FARTHEST_MM] = [0.5, 1.5];
const LEAST_MM = 6;
/** Directions at both ends differ by less, where one goes on as the other: a dot product of unit vectors. */
const STRAIGHT_ON = 0.7;

interface End {
  readonly piece: number;
  readonly x: number;
  readonly y: number;
  /** The way out of the line. */
  readonly ux: number;
  readonly uy: number;
}

/** A line with a gap in it. */
export const BROKEN_OUTLINE: Check = {
  id: 'broken-outline',
  name: 'Broken outlines',
  why: 'A small gap in a line looks like a thread that broke.',
  find: ({ design }) => {
    if (!design) return [];
    const ends = design.pieces.flatMap((piece, i): End[] => {
      if (piece.family !== 'line' || piece.role !== 'plain') return [];
      return runsOf(piece).flatMap((run): End[] => {
        const n = run.length;
        const closed = distance(run[0], run[1], run[n - 2], run[n - 1]) < 1e-6;
        return closed || n < 4 ? [] : [endOf(i, run, 0, 2), endOf(i, run, n - 2, n - 4)];
      });
    });
    return ends.flatMap((a, i) => {
      const b = ends.find(
        (other, k) => k > i && design.pieces[a.piece].thread === design.pieces[other.piece].thread && goesOn(a, other),
      );
      const long =
        b && [a, b].every(({ piece }) => design.pieces[piece].areaMm2 / design.pieces[piece].widthMm >= LEAST_MM);
      if (!b || !long) return [];
      // Where another line meets one of them, both end there on purpose.
      if (ends.some((other) => other !== a && other !== b && Math.min(gap(a, other), gap(b, other)) < NEAREST_MM))
        return [];
      return [
        {
          level: 'advice' as const,
          text: `A gap of ${mm(gap(a, b))} in a line.`,
          at: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
          pieces: [...new Set([design.pieces[a.piece].id, design.pieces[b.piece].id])],
          harm: 1 + gap(a, b) / FARTHEST_MM,
          repairs: [],
        },
      ];
    });
  },
};

function endOf(piece: number, run: readonly number[], at: number, before: number): End {
  const length = distance(run[at], run[at + 1], run[before], run[before + 1]) || 1;
  return {
    piece,
    x: run[at],
    y: run[at + 1],
    ux: (run[at] - run[before]) / length,
    uy: (run[at + 1] - run[before + 1]) / length,
  };
}

const gap = (a: End, b: End): number => distance(a.x, a.y, b.x, b.y);

/** Whether two ends look at each other across a small gap. */
function goesOn(a: End, b: End): boolean {
  const between = gap(a, b);
  if (between < NEAREST_MM || between > FARTHEST_MM) return false;
  const [dx, dy] = [(b.x - a.x) / between, (b.y - a.y) / between];
  return a.ux * dx + a.uy * dy > STRAIGHT_ON && b.ux * dx + b.uy * dy < -STRAIGHT_ON;
}
