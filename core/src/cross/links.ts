import type { CellGrid } from './grid.js';

/** What the other threads are to a thread's ways over each cell; flags. */
export type Cover = Uint8Array;
/** A whole cross is sewn there later. */
export const COVERED_LATER = 1;
/** A float stands out there: the colour is another, of the cloth or of what is sewn. */
export const STANDS_OUT = 2;

/** Links lie below so many cells at most. */
const MOST_CELLS = 10;
/** A float may stand out over so many cells. */
const MOST_SEEN = 0.7;
/** Samples of a float for each cell. */
const SAMPLES = 6;

/**
 * A way from one corner to another that leads only through cells whose crosses are sewn later, along their diagonals, so
 * that their legs lie on it.
 * @returns the corners after the first, the last one included; undefined where there is no such way
 */
export function hiddenLink(grid: CellGrid, cover: Cover, from: number, to: number): number[] | undefined {
  const stride = grid.cols * 2 + 1;
  const cellAway = (p: number): number =>
    Math.max(Math.abs((p % stride) - (to % stride)), Math.abs(Math.floor(p / stride) - Math.floor(to / stride))) / 2;
  if (from === to || cellAway(from) > MOST_CELLS || (from % stride) % 2 === 1 || (to % stride) % 2 === 1)
    return undefined;
  const came = new Map<number, number>([[from, -1]]);
  let front = [from];
  for (let far = 1; far <= MOST_CELLS && front.length > 0; far++) {
    const next: number[] = [];
    for (const place of front) {
      const x = (place % stride) / 2;
      const y = Math.floor(place / stride) / 2;
      for (const [dx, dy] of DIAGONALS) {
        const [cx, cy] = [dx < 0 ? x - 1 : x, dy < 0 ? y - 1 : y];
        if (cx < 0 || cy < 0 || cx >= grid.cols || cy >= grid.rows) continue;
        if ((cover[cy * grid.cols + cx] & COVERED_LATER) === 0) continue;
        // A corner, or the middle of the cell and on to a corner beside: both below the legs.
        for (const [ox, oy] of [
          [dx, dy],
          [dx, 0],
          [0, dy],
        ]) {
          const reached = (y + oy) * 2 * stride + (x + ox) * 2;
          if (came.has(reached) || cellAway(reached) > MOST_CELLS - far) continue;
          const middle = (cy * 2 + 1) * stride + cx * 2 + 1;
          came.set(reached, ox !== 0 && oy !== 0 ? place : middle);
          if (ox === 0 || oy === 0) came.set(-reached - 2, place);
          if (reached === to) return wayBack(came, reached, from, stride);
          next.push(reached);
        }
      }
    }
    front = next;
  }
  return undefined;
}

const DIAGONALS: readonly (readonly [number, number])[] = [
  [1, 1],
  [-1, 1],
  [-1, -1],
  [1, -1],
];

/** Follows a search back: a corner knows the corner or the middle it came from, and through a middle the corner before. */
function wayBack(came: ReadonlyMap<number, number>, reached: number, from: number, stride: number): number[] {
  const way: number[] = [];
  for (let at = reached; at !== from;) {
    way.push(at);
    const before = came.get(at) as number;
    if ((before % stride) % 2 === 1) {
      way.push(before);
      at = came.get(-at - 2) as number;
    } else at = before;
  }
  return way.reverse();
}

/** Whether thread may float between two places: it hardly stands out on its way. */
export function isOpenFloat(grid: CellGrid, cover: Cover, from: number, to: number): boolean {
  const stride = grid.cols * 2 + 1;
  const [x0, y0] = [(from % stride) / 2, Math.floor(from / stride) / 2];
  const [x1, y1] = [(to % stride) / 2, Math.floor(to / stride) / 2];
  const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
  const n = Math.ceil(length * SAMPLES);
  let seen = 0;
  for (let k = 0; k < n; k++) {
    const t = (k + 0.5) / n;
    const x = Math.min(grid.cols - 1, Math.floor(x0 + (x1 - x0) * t));
    const y = Math.min(grid.rows - 1, Math.floor(y0 + (y1 - y0) * t));
    if ((cover[y * grid.cols + x] & STANDS_OUT) !== 0) seen++;
  }
  return (seen / Math.max(1, n)) * length <= MOST_SEEN;
}
