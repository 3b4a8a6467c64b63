import { toEnd } from '../geometry/pauses.js';

const WINDOW = 8;
/** Windows of so many rows are looked at in one step. */
const ROWS_A_STEP = 64;
const C1 = 1;
const C2 = 9;

/** Mean structural similarity over windows of 8 x 8 samples, half overlapping. */
export function* similaritySteps(
  a: Float32Array,
  b: Float32Array,
  width: number,
  height: number,
): Generator<number, number> {
  let total = 0;
  let windows = 0;
  for (let y = 0; y + WINDOW <= height; y += WINDOW / 2) {
    if (y % ROWS_A_STEP === 0) yield y / height;
    for (let x = 0; x + WINDOW <= width; x += WINDOW / 2) {
      let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
      for (let dy = 0; dy < WINDOW; dy++) {
        for (let dx = 0; dx < WINDOW; dx++) {
          const i = (y + dy) * width + x + dx;
          sa += a[i];
          sb += b[i];
          saa += a[i] * a[i];
          sbb += b[i] * b[i];
          sab += a[i] * b[i];
        }
      }
      const n = WINDOW * WINDOW;
      const ma = sa / n;
      const mb = sb / n;
      const va = saa / n - ma * ma;
      const vb = sbb / n - mb * mb;
      const cov = sab / n - ma * mb;
      total += ((2 * ma * mb + C1) * (2 * cov + C2)) / ((ma * ma + mb * mb + C1) * (va + vb + C2));
      windows++;
    }
  }
  return windows > 0 ? total / windows : 1;
}

/** The same at once. */
export const similarity = (a: Float32Array, b: Float32Array, width: number, height: number): number =>
  toEnd(similaritySteps(a, b, width, height));
