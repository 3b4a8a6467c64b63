import { direction, distance, type Points } from '../geometry/vector.js';

/** A way in which a thread is held where it begins and ends. */
export interface Tie {
  readonly id: string;
  readonly name: string;
  readonly hint: string;
  /** Needle points from the start of a run on, that one not counted. */
  readonly points: (run: Points) => readonly (readonly [number, number])[];
}

const TIE_STITCH = 0.7;
/**
 * Where the needle goes in for a tie along a run, ahead and to the side to which the run goes on, by its length: so that no needle point
 * comes near the hole of another. All of its stitches are 0.6 to 0.8 mm long.
 */
const ALONG: readonly (readonly [ahead: number, beside: number])[] = [
  [1, 0.4],
  [0.15, 0.3],
  [1.2, 0],
];
/** Points of a star lie this far from its middle; each is two fifths of a turn from the one before. */
const STAR_MM = 0.5;
const STAR_TURN = 144;
const STAR_POINTS = 5;

/** All ties; the first is the usual one. A new one is an entry here. */
export const TIES: readonly Tie[] = [
  { id: 'line', name: 'Small line', hint: 'three short stitches along the way, beside each other', points: tieAlong },
  { id: 'star', name: 'Small star', hint: 'five short stitches across each other: holds on loose cloth', points: star },
  {
    id: 'none',
    name: 'None',
    hint: 'nothing holds the thread: for threads that are knotted by hand',
    points: () => [],
  },
];

/** The tie of a name; the usual one where there is none of it. */
export const tieOf = (id: unknown): Tie => TIES.find((tie) => tie.id === id) ?? TIES[0];

/**
 * Beside the run, back beside it, and along the run itself: the stitch that follows lies on the run, where from a place
 * beside it a slit of cloth would be left open.
 */
function tieAlong(run: Points): [number, number][] {
  const [x, y] = run;
  const [fx, fy] = along(run, TIE_STITCH);
  const [dx, dy] = [fx - x, fy - y];
  const n = run.length;
  const on = Math.min(n - 2, 6);
  const side = dx * (run[on + 1] - y) - dy * (run[on] - x) >= 0 ? 1 : -1;
  return ALONG.map(([ahead, beside]) => [x + dx * ahead - dy * beside * side, y + dy * ahead + dx * beside * side]);
}

/** A star of five points around a place just inside the run. */
function star(run: Points): [number, number][] {
  const [x, y] = run;
  const [fx, fy] = along(run, TIE_STITCH);
  const length = distance(x, y, fx, fy) || 1;
  const [ux, uy] = [(fx - x) / length, (fy - y) / length];
  const middle = { x: x + ux * STAR_MM, y: y + uy * STAR_MM };
  return Array.from({ length: STAR_POINTS }, (_, k): [number, number] => {
    const { x: cos, y: sin } = direction(180 + STAR_TURN * (k + 1));
    return [middle.x + STAR_MM * (ux * cos - uy * sin), middle.y + STAR_MM * (ux * sin + uy * cos)];
  });
}

/** The place a given way along a run, on a straight line towards it where the run folds back. */
function along(run: Points, wanted: number): [number, number] {
  for (let i = 2; i < run.length; i += 2) {
    const gap = distance(run[0], run[1], run[i], run[i + 1]);
    if (gap >= wanted) {
      const share = wanted / gap;
      return [run[0] + (run[i] - run[0]) * share, run[1] + (run[i + 1] - run[1]) * share];
    }
  }
  // The whole run stays nearer than that: a straight line in its first direction.
  const gap = distance(run[0], run[1], run[2], run[3]);
  if (gap === 0) return [run[0] + wanted, run[1]];
  return [run[0] + ((run[2] - run[0]) / gap) * wanted, run[1] + ((run[3] - run[1]) / gap) * wanted];
}
