import { distance, type Point } from '../geometry/vector.js';
import type { StitchList } from '../sequence/stitch-list.js';
import { turnsOf, type RowTurn } from '../sequence/turns.js';

/** Stitches go on in one row up to an angle of this cosine, and turn back from this one on: 10 and 130 degrees. */
const STRAIGHT = 0.985;
const BACK = -0.64;
/** Rows of satin come back next to where they began, and are about as long as those beside them. */
const BESIDE_MM = 0.9;
const AS_LONG = 0.6;
/** Shorter satin has no ends to speak of. */
const LEAST_LONG_MM = 2.5;
/** Satin is pushed out over so much of its length at either end, most at the very end. */
const REACH_MM = 2.5;
/** The direction of an end is that of so much of its length. */
const DIRECTION_MM = 1.2;

/**
 * Moves the ends of satin outwards by what the crowding of its stitches pushes them.
 * @param pushMm by the piece
 * @param x where needle points lie by now; changed in place, as y is
 */
export function pushEnds(list: StitchList, pushMm: (piece: number) => number, x: Float32Array, y: Float32Array): void {
  for (const turns of satinRuns(list)) {
    const push = pushMm(list.piece[turns[0].at]);
    if (push !== 0) pushRun(list, turns, push, x, y);
  }
}

function pushRun(list: StitchList, turns: readonly RowTurn[], push: number, x: Float32Array, y: Float32Array): void {
  const middles = turns.slice(1).map(({ at }, k): Point => {
    const before = turns[k].at;
    return { x: (list.x[at] + list.x[before]) / 2, y: (list.y[at] + list.y[before]) / 2 };
  });
  const way = [0];
  for (let k = 1; k < middles.length; k++) {
    way.push(way[k - 1] + distance(middles[k].x, middles[k].y, middles[k - 1].x, middles[k - 1].y));
  }
  const length = way[way.length - 1];
  if (length < LEAST_LONG_MM) return;
  const reach = Math.min(REACH_MM, length / 2);
  const last = middles.length - 1;
  const far = { start: (k: number) => way[k], end: (k: number) => length - way[k] };
  const innerOf = (from: (k: number) => number, ks: readonly number[]): number =>
    ks.find((k) => from(k) >= DIRECTION_MM) ?? ks[last];
  const forth = middles.map((_, k) => k);
  const ends = [
    { tip: between(middles, 0, 1), inner: between(middles, innerOf(far.start, forth), 1), from: far.start },
    {
      tip: between(middles, last, -1),
      inner: between(middles, innerOf(far.end, forth.toReversed()), -1),
      from: far.end,
    },
  ];
  for (const { tip, inner, from } of ends) {
    const size = distance(tip.x, tip.y, inner.x, inner.y);
    if (size === 0) continue;
    const ux = ((tip.x - inner.x) / size) * push;
    const uy = ((tip.y - inner.y) / size) * push;
    for (let k = 0; k < turns.length; k++) {
      const share = 1 - from(Math.min(last, Math.max(0, k - 1))) / reach;
      if (share <= 0) continue;
      // Needle points between two turns go with the first of them.
      const next = turns[k + 1]?.at ?? turns[k].at + 1;
      for (let i = turns[k].at; i < next; i++) {
        x[i] += ux * share;
        y[i] += uy * share;
      }
    }
  }
}

/** Between a middle and the next one: rows lean to one side in turn. */
function between(middles: readonly Point[], k: number, way: 1 | -1): Point {
  const [a, b] = [middles[k], middles[k + way] ?? middles[k]];
  return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
}

/** Stretches of a list in which every row turns back on the one before it. */
function satinRuns(list: StitchList): RowTurn[][] {
  const runs: RowTurn[][] = [];
  const turns = turnsOf(list, STRAIGHT);
  let run: RowTurn[] = [];
  for (let k = 2; k <= turns.length; k++) {
    if (k < turns.length && turnsBack(list, turns, k)) {
      if (run.length === 0) run.push(turns[k - 2], turns[k - 1]);
      run.push(turns[k]);
    } else if (run.length > 0) {
      runs.push(run);
      run = [];
    }
  }
  return runs;
}

function turnsBack({ x, y }: StitchList, turns: readonly RowTurn[], k: number): boolean {
  if (turns[k].starts || turns[k - 1].starts) return false;
  const [a, b, c] = [turns[k - 2].at, turns[k - 1].at, turns[k].at];
  const [ux, uy] = [x[b] - x[a], y[b] - y[a]];
  const [vx, vy] = [x[c] - x[b], y[c] - y[b]];
  const lengths = Math.sqrt((ux * ux + uy * uy) * (vx * vx + vy * vy));
  if (!(lengths > 0 && (ux * vx + uy * vy) / lengths < BACK)) return false;
  const ratio = (ux * ux + uy * uy) / (vx * vx + vy * vy);
  return distance(x[a], y[a], x[c], y[c]) < BESIDE_MM && Math.min(ratio, 1 / ratio) > AS_LONG * AS_LONG;
}
