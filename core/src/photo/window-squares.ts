import { KERNEL, REACH } from './soft-colours.js';

/** Weight of the square of a change of some cells in a row, after it was blurred both ways. */
const SQUARE = squares(64);

function squares(most: number): Float64Array {
  const across = KERNEL.reduce((sum, g) => sum + g * g, 0);
  const out = new Float64Array(most + 1);
  for (let n = 1; n <= most; n++) {
    let sum = 0;
    for (let k = -REACH; k < n + REACH; k++) {
      let s = 0;
      for (let j = 0; j < n; j++) if (Math.abs(k - j) <= REACH) s += KERNEL[k - j + REACH];
      sum += s * s;
    }
    out[n] = sum * across;
  }
  return out;
}

/** That of a change of `n` cells. */
export const squareOf = (n: number): number =>
  n < SQUARE.length ? SQUARE[n] : SQUARE[SQUARE.length - 1] * (n / (SQUARE.length - 1));
