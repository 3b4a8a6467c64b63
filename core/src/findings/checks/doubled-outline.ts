import { distanceToSegment, evenly, lengthOf } from '../../geometry/polyline.js';
import type { Points } from '../../geometry/vector.js';
import { runsOf, type Piece } from '../../pieces/piece.js';
import { leaveBare, mm, type Check } from '../check.js';

/** Lines nearer than this to each other are one on top of the other. */
const NEAR_MM = 0.35;
/** So much of a line lies on the other one. */
const LEAST_SHARE = 0.7;
const LEAST_MM = 4;
const STEP_MM = 0.5;

/** A line that is sewn twice, each time as a piece of its own. */
export const DOUBLED_OUTLINE: Check = {
  id: 'doubled-outline',
  name: 'Doubled outlines',
  why: 'Two lines on top of each other get hard, and never meet exactly.',
  find: (examined) => {
    const { design } = examined;
    const lines = (design?.pieces ?? [])
      .filter(({ family, role, gradient }) => family !== 'area' && role === 'plain' && !gradient)
      .map((piece) => ({ piece, runs: middlesOf(piece) }))
      .filter(({ runs }) => runs.reduce((sum, run) => sum + lengthOf(run), 0) >= LEAST_MM);
    return lines.flatMap(({ piece, runs }, i) => {
      const other = lines.find(
        (each, k) => k > i && overlaps(piece, each.piece) && shareOn(runs, each.runs) >= LEAST_SHARE,
      );
      if (!other) return [];
      const length = runs.reduce((sum, run) => sum + lengthOf(run), 0);
      return [
        {
          level: 'advice' as const,
          text: `Two lines lie on top of each other for ${mm(length, 0)}.`,
          at: { x: runs[0][0], y: runs[0][1] },
          pieces: [piece.id, other.piece.id],
          harm: 1 + length / 50,
          repairs: leaveBare(examined, other.piece, 'Leave the second one bare', true),
        },
      ];
    });
  },
};

/** Middle lines of a line, or of the columns of satin. */
const middlesOf = (piece: Piece): Points[] =>
  piece.family === 'line' ? runsOf(piece) : piece.columns.map(({ spine }) => spine).filter(({ length }) => length >= 4);

const overlaps = ({ bounds: a }: Piece, { bounds: b }: Piece): boolean =>
  a.left <= b.right + NEAR_MM &&
  b.left <= a.right + NEAR_MM &&
  a.top <= b.bottom + NEAR_MM &&
  b.top <= a.bottom + NEAR_MM;

/** How much of some lines lies on others. */
function shareOn(runs: readonly Points[], others: readonly Points[]): number {
  let [near, all] = [0, 0];
  for (const run of runs) {
    const places = evenly(run, STEP_MM);
    for (let i = 0; i < places.length; i += 2) {
      all++;
      if (others.some((other) => isNear(other, places[i], places[i + 1]))) near++;
    }
  }
  return all > 0 ? near / all : 0;
}

function isNear(run: Points, x: number, y: number): boolean {
  for (let i = 2; i < run.length; i += 2)
    if (distanceToSegment(x, y, run[i - 2], run[i - 1], run[i], run[i + 1]) <= NEAR_MM) return true;
  return false;
}
