import type { Lattice } from './lattice.js';
import { CELL_MM } from './cell.js';

/** How colours mix for the eye: a Gaussian of 0.5 mm. */
const SIGMA_MM = 0.5;
/** Cells on either side that a cell is mixed with. */
export const REACH = 4;

/** Weights of the cells around one, the middle at REACH. */
export const KERNEL = kernel(SIGMA_MM / CELL_MM);

function kernel(sigma: number): Float64Array {
  const out = Float64Array.from({ length: 2 * REACH + 1 }, (_, i) => Math.exp(-((i - REACH) ** 2) / (2 * sigma ** 2)));
  const sum = out.reduce((a, b) => a + b, 0);
  return out.map((v) => Math.fround(v / sum));
}

/** The wanted colours mixed as the eye mixes them, over what is to be sewn. */
export function softColours({ wanted, inside, cols, rows }: Lattice): Float32Array {
  const across = new Float64Array(cols * rows * 4);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      const o = (r * cols + c) * 4;
      for (let k = Math.max(-REACH, -c); k <= Math.min(REACH, cols - 1 - c); k++) {
        const i = r * cols + c + k;
        if (!inside[i]) continue;
        const g = KERNEL[k + REACH];
        for (let j = 0; j < 3; j++) across[o + j] += g * wanted[i * 3 + j];
        across[o + 3] += g;
      }
    }
  }
  const out = new Float32Array(cols * rows * 3);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      const sum = [0, 0, 0, 0];
      for (let k = Math.max(-REACH, -r); k <= Math.min(REACH, rows - 1 - r); k++) {
        const g = KERNEL[k + REACH];
        const i = ((r + k) * cols + c) * 4;
        for (let j = 0; j < 4; j++) sum[j] += g * across[i + j];
      }
      if (sum[3] > 0) for (let j = 0; j < 3; j++) out[(r * cols + c) * 3 + j] = sum[j] / sum[3];
    }
  }
  return out;
}
