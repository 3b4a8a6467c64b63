import type { Walk } from './walk-crosses.js';

/** Whether two corners are the ends of a leg across the cell that a middle belongs to. */
const isLegAround = (a: number, b: number, middle: number, stride: number): boolean =>
  a + b === middle * 2 && (middle % stride) % 2 === 1 && Math.floor(middle / stride) % 2 === 1 && a !== b;

/** Whether a part begins with a leg that is left through the middle of its cell: it may be begun at either end. */
export const beginsFreely = (part: Walk, stride: number): boolean =>
  part.length > 3 && isLegAround(part[0], part[1], part[2], stride);

/** The same for its last leg. */
export const endsFreely = (part: Walk, stride: number): boolean => {
  const n = part.length;
  return n > 4 && isLegAround(part[n - 1], part[n - 2], part[n - 3], stride);
};

/** A part with the two places at an index the other way round. */
export function swapped(part: Walk, at: number): Walk {
  const out = part.slice();
  [out[at], out[at + 1]] = [part[at + 1], part[at]];
  return out;
}
