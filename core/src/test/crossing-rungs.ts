import type { Points } from '../geometry/vector.js';

/** How far along a ladder rungs are compared. */
const WINDOW = 80;

/** Pairs of rungs of one ladder (four numbers each) that cross. */
export function crossingRungs(rungs: Points): number {
  const side = (i: number, x: number, y: number): number =>
    (rungs[i + 2] - rungs[i]) * (y - rungs[i + 1]) - (rungs[i + 3] - rungs[i + 1]) * (x - rungs[i]);
  let count = 0;
  for (let i = 0; i < rungs.length; i += 4) {
    for (let j = i + 4; j < Math.min(rungs.length, i + WINDOW); j += 4) {
      const a = side(i, rungs[j], rungs[j + 1]) * side(i, rungs[j + 2], rungs[j + 3]);
      const b = side(j, rungs[i], rungs[i + 1]) * side(j, rungs[i + 2], rungs[i + 3]);
      if (a < 0 && b < 0) count++;
    }
  }
  return count;
}
