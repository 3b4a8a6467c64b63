import { distance, type Points } from '../geometry/vector.js';
import type { Lattice } from './lattice.js';
import type { EndedRun } from './route-thread.js';
import { stretchesOf } from './rows/row-lines.js';

/** Wider holes are no specks: nothing beside them suits what was to be seen there. */
const MOST_CELLS = 15;
/** Up to so many cells the row simply ends later; over more of them the needle goes there and back. */
const REACHED_CELLS = 2;
/** What is sewn over a hole ends this far beyond the middle of its last cell, in mm. */
const BEYOND_MM = 0.2;
/** A thread that differs by more from what is wanted would be seen more than the cloth. */
const FARTHEST = 14;

type Cells = Pick<Lattice, 'cols' | 'rows' | 'x' | 'y'>;

/** A way to close a hole: what is put in after a needle point, and the way back; or where that needle point is moved to. */
interface Closing {
  readonly run: number;
  readonly point: number;
  readonly over: Points;
  readonly back: boolean;
}

/**
 * Closes specks of bare cloth between rows: a row that ends beside one, or above or below it, and is near in colour goes on
 * over it.
 * @param holes 1 for every cell that is bare and must not be
 * @param runs runs of all threads; their needle points are changed in place
 * @param difference squared difference of the thread of a run from what is wanted at a cell
 * @returns cells that were closed
 */
export function closeHoles(
  cells: Cells,
  holes: Uint8Array,
  runs: readonly EndedRun[],
  difference: (run: number, cell: number) => number,
): number {
  const closingsOf = closingsAmong(cells, runs);
  const chosen: Closing[] = [];
  let closed = 0;
  for (let row = 0; row < cells.rows; row++) {
    const first = row * cells.cols;
    for (const [from, to] of stretchesOf(cells.cols, (c) => holes[first + c] === 1)) {
      if (to - from + 1 > MOST_CELLS) continue;
      const middle = first + ((from + to) >> 1);
      let [best, least]: [Closing | undefined, number] = [undefined, FARTHEST ** 2];
      for (const closing of closingsOf(row, from, to)) {
        const far = difference(closing.run, middle);
        if (far < least) [best, least] = [closing, far];
      }
      if (!best) continue;
      chosen.push(best);
      closed += to - from + 1;
    }
  }
  // From the last on, so that numbers before it stay what they are.
  for (const { run, point, over, back } of chosen.sort((a, b) => b.point - a.point)) {
    const { points } = runs[run];
    const at = point * 2;
    if (back) points.splice(at + 2, 0, ...over, points[at], points[at + 1]);
    else [points[at], points[at + 1]] = over;
  }
  return closed;
}

/** Finds the ways in which rows that end around a stretch of a row could go on over it. */
function closingsAmong(
  cells: Cells,
  runs: readonly EndedRun[],
): (row: number, from: number, to: number) => readonly Closing[] {
  const { cols, rows } = cells;
  const key = (cell: number, side: 1 | -1): number => cell * 2 + (side > 0 ? 1 : 0);
  const ends = new Map<number, { readonly run: number; readonly point: number }>();
  runs.forEach((each, run) => {
    for (const { cell, side, point } of each.ends) ends.set(key(cell, side), { run, point });
  });
  return (row, from, to) => {
    const found: Closing[] = [];
    const [left, right] = [beyond(cells, row * cols + from, -1), beyond(cells, row * cols + to, 1)];
    const add = (r: number, c: number, side: 1 | -1, over: Points, back: boolean): void => {
      if (r < 0 || r >= rows || c < 0 || c >= cols) return;
      const end = ends.get(key(r * cols + c, side));
      if (end) found.push({ ...end, over, back });
    };
    const back = to - from + 1 > REACHED_CELLS;
    add(row, from - 1, 1, right, back);
    add(row, to + 1, -1, left, back);
    for (const near of [row - 1, row + 1]) {
      for (let c = from - 1; c <= to + 1; c++) {
        const over = c - from <= to - c ? [...left, ...right] : [...right, ...left];
        for (const side of [1, -1] as const) add(near, c, side, over, true);
      }
    }
    return found;
  };
}

/** A place a little beyond the middle of a cell along its row, to one side. */
function beyond({ cols, x, y }: Cells, cell: number, side: 1 | -1): [number, number] {
  const column = (cell % cols) - side;
  const inner = column >= 0 && column < cols ? cell - side : cell;
  const share = BEYOND_MM / (distance(x[inner], y[inner], x[cell], y[cell]) || Infinity);
  return [x[cell] + (x[cell] - x[inner]) * share, y[cell] + (y[cell] - y[inner]) * share];
}
