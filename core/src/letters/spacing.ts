import type { Points } from '../geometry/vector.js';
import type { Glyph } from './glyph.js';

/** Lines on which the room between two letters is measured. */
const LINES = 28;
/** Room that counts on one line at most, and what it is on the average, as shares of the height of capitals. */
const MOST_ROOM = 0.42;
const MEAN_ROOM = 0.25;
const MEAN_ROOM_SMALL = 0.27;
const SMALL_MM = 8;
/** Letters stand at least this far apart, in mm. */
const LEAST_MM = 0.8;
/** Part of a letter below the baseline that counts, as a share of its height. */
const BELOW = 0.45;

/** How far a letter reaches on each line: to the left and to the right, in mm; infinite where it has nothing there. */
export interface Profile {
  readonly left: Float64Array;
  readonly right: Float64Array;
}

/** Lines from above capitals to below the baseline; those that measure room lie between the two. */
const TOTAL = Math.round(LINES * (1 + 2 * BELOW));
const FIRST = Math.round(LINES * BELOW);

/** The sides of a glyph. */
export function profileOf({ rings }: Glyph, heightMm: number): Profile {
  const left = new Float64Array(TOTAL).fill(Infinity);
  const right = new Float64Array(TOTAL).fill(-Infinity);
  const yOf = (line: number): number => -heightMm * (1 + BELOW) + (heightMm * (line + 0.5)) / LINES;
  for (const ring of rings) reach(ring, heightMm, yOf, left, right);
  return { left, right };
}

function reach(
  ring: Points,
  heightMm: number,
  yOf: (line: number) => number,
  left: Float64Array,
  right: Float64Array,
): void {
  const n = ring.length;
  const step = heightMm / LINES;
  const top = yOf(0);
  for (let i = 0; i < n; i += 2) {
    const [x1, y1] = [ring[i], ring[i + 1]];
    const [x2, y2] = [ring[(i + 2) % n], ring[(i + 3) % n]];
    const from = Math.max(0, Math.ceil((Math.min(y1, y2) - top) / step));
    const to = Math.min(TOTAL - 1, Math.floor((Math.max(y1, y2) - top) / step));
    for (let line = from; line <= to; line++) {
      const t = y1 === y2 ? 0 : (yOf(line) - y1) / (y2 - y1);
      const x = x1 + (x2 - x1) * t;
      if (x < left[line]) left[line] = x;
      if (x > right[line]) right[line] = x;
    }
  }
}

/**
 * How far after the origin of a letter the next one's lies, so that the room between them looks as between others: its
 * mean over the lines is the same for all, and they never come too near.
 */
export function optical(before: Profile, after: Profile, heightMm: number): number {
  const most = MOST_ROOM * heightMm;
  const wanted = (heightMm < SMALL_MM ? MEAN_ROOM_SMALL : MEAN_ROOM) * heightMm;
  const mean = (way: number): number => {
    let sum = 0;
    for (let i = FIRST; i < FIRST + LINES; i++) sum += Math.min(most, way + after.left[i] - before.right[i]);
    return sum / LINES;
  };
  let [low, high] = [-2 * heightMm, 6 * heightMm];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (mean(middle) < wanted) low = middle;
    else high = middle;
  }
  return Math.max((low + high) / 2, leastWay(before, after));
}

/** The least way from a letter's origin to the next one's at which they do not come too near. */
export function leastWay(before: Profile, after: Profile): number {
  let least = -Infinity;
  for (let i = 0; i < TOTAL; i++) {
    // A line beside counts as well: letters are near aslant too.
    for (let j = Math.max(0, i - 1); j <= Math.min(TOTAL - 1, i + 1); j++) {
      if (before.right[i] === -Infinity || after.left[j] === Infinity) continue;
      least = Math.max(least, LEAST_MM + before.right[i] - after.left[j]);
    }
  }
  return least === -Infinity ? 0 : least;
}
