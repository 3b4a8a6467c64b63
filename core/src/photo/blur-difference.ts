import type { Lattice } from './lattice.js';
import { KERNEL, REACH } from './soft-colours.js';

/**
 * The difference between what a lattice shows and what it is to show, mixed as the eye mixes it.
 * @param shown linear r, g, b of every cell
 * @param out written: three numbers a cell
 */
export function blurDifference({ cols, rows, inside, wanted }: Lattice, shown: Float32Array, out: Float32Array): void {
  const raw = new Float32Array(cols * rows * 3);
  for (let i = 0; i < cols * rows; i++) {
    if (!inside[i]) continue;
    for (let j = 0; j < 3; j++) raw[i * 3 + j] = shown[i * 3 + j] - wanted[i * 3 + j];
  }
  const across = new Float32Array(raw.length);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      const last = Math.min(REACH, cols - 1 - c);
      const to = (r * cols + c) * 3;
      let [s0, s1, s2] = [0, 0, 0];
      for (let k = Math.max(-REACH, -c); k <= last; k++) {
        const g = KERNEL[k + REACH];
        const at = to + k * 3;
        s0 += g * raw[at];
        s1 += g * raw[at + 1];
        s2 += g * raw[at + 2];
      }
      across[to] = s0;
      across[to + 1] = s1;
      across[to + 2] = s2;
    }
  }
  out.fill(0);
  for (let r = 0; r < rows; r++) {
    for (let k = Math.max(-REACH, -r); k <= Math.min(REACH, rows - 1 - r); k++) {
      const g = KERNEL[k + REACH];
      const from = (r + k) * cols * 3;
      const to = r * cols * 3;
      for (let c = 0; c < cols * 3; c++) out[to + c] += g * across[from + c];
    }
  }
}
