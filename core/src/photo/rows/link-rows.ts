import { distance, type Points } from '../../geometry/vector.js';
import { ROW_STEP_MM } from './row-lines.js';
import type { WideRow } from './wide-row.js';

/** A sewn part of a row, from one place of its line to another. */
export interface Stretch {
  readonly row: WideRow;
  readonly from: number;
  readonly to: number;
}

/** A link leads back along its rows so far at most, in mm. */
const MOST_BACK_MM = 6;
/** A millimetre back along a row costs as much as so much of a link in the open: it is hidden, but it is thread. */
const BACK_COST = 0.05;
/** A link lies inside only where of it is seen less than this share of what would be seen between the ends. */
const WORTH = 0.6;
/** A line of thread hides so much of a link that crosses it. */
const LINE_MM = 0.3;
const STITCH_MM = 3;

/**
 * The way from the end of one stretch of row to the end of the next. Straight from end to end it would be seen as a bar at the
 * edge of every form; where the rows are wide and nearly meet it is not seen at all: the needle goes back to there along the
 * middle of its own row, across, and out along the row that follows, which is sewn over it.
 * @param endA,endB 0 for the first place of a stretch, 1 for its last
 * @returns needle points between the two ends; none where the straight way is as good
 */
export function linkRows(a: Stretch, endA: 0 | 1, b: Stretch, endB: 0 | 1): Points {
  const [startA, inA] = endA === 1 ? [a.to, -1] : [a.from, 1];
  const startB = endB === 1 ? b.to : b.from;
  let least = openBetween(a, startA, b, startB) * WORTH;
  let found: readonly [number, number] | undefined;
  let j = startB;
  const most = Math.min(a.to - a.from, Math.round(MOST_BACK_MM / ROW_STEP_MM));
  for (let k = 0; k <= most; k++) {
    const i = startA + inA * k;
    j = nearest(a, i, b, j);
    const back = (k + Math.abs(j - startB)) * ROW_STEP_MM;
    const cost = openBetween(a, i, b, j) + back * BACK_COST;
    if (cost < least) [least, found] = [cost, [i, j]];
  }
  if (!found) return [];
  // Both ends have needle points of their own.
  return [...along(a, startA, found[0], 1), ...along(b, found[1], startB, 0)];
}

const between = (a: Stretch, i: number, b: Stretch, j: number): number =>
  distance(a.row.line.x[i], a.row.line.y[i], b.row.line.x[j], b.row.line.y[j]);

/** How much of a way across from one row to another lies open. */
function openBetween(a: Stretch, i: number, b: Stretch, j: number): number {
  const towards = half(a, i, b, j) + half(b, j, a, i);
  return Math.max(0, between(a, i, b, j) - LINE_MM - towards);
}

/** How far a row reaches towards a place of another. */
function half({ row: { line, up, down } }: Stretch, i: number, b: Stretch, j: number): number {
  const dx = b.row.line.x[j] - line.x[i];
  const dy = b.row.line.y[j] - line.y[i];
  return dx * line.acrossX[i] + dy * line.acrossY[i] > 0 ? up[i] : down[i];
}

/** The place of a stretch that is nearest to one of another, looked for from a place on. */
function nearest(a: Stretch, i: number, b: Stretch, from: number): number {
  let j = from;
  for (;;) {
    const now = between(a, i, b, j);
    if (j < b.to && between(a, i, b, j + 1) < now) j++;
    else if (j > b.from && between(a, i, b, j - 1) < now) j--;
    else return j;
  }
}

/** Needle points along the middle of a row from one place to another, all but its first or its last one. */
function along({ row: { line } }: Stretch, from: number, to: number, first: 0 | 1): Points {
  const parts = Math.max(1, Math.ceil((Math.abs(to - from) * ROW_STEP_MM) / STITCH_MM));
  const points: Points = [];
  for (let k = first; k < parts + first; k++) {
    const i = Math.round(from + ((to - from) * k) / parts);
    points.push(line.x[i], line.y[i]);
  }
  return points;
}
