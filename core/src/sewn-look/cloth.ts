import { fromHex } from '../colour/srgb.js';
import type { View, ViewPart } from './view.js';

/** Distance between two yarns of the cloth, in mm. */
const YARN = 0.5;

/**
 * Fills a view with woven cloth: yarns over and under each other, shaded like shallow cylinders, softened where they
 * are too small to be seen.
 */
export function drawCloth(pixels: Int32Array, view: View, hex: string): void {
  const { r, g, b } = fromHex(hex);
  const shades = new Int32Array(256);
  for (let i = 0; i < 256; i++) {
    const f = 1 + (i - 128) / 640;
    const clip = (v: number): number => Math.max(0, Math.min(255, Math.round(v * f)));
    shades[i] = (255 << 24) | (clip(b) << 16) | (clip(g) << 8) | clip(r);
  }
  const depth = Math.min(1, Math.max(0, (view.scale - 3) / 8)) * 96 + 10;
  const { width } = view;
  const cell = new Int32Array(width);
  // A yarn on top seen across, and along, for every column.
  const acrossAt = new Float32Array(width);
  const alongAt = new Float32Array(width);
  for (let x = 0; x < width; x++) {
    const u = (view.left + x + 0.5) / (view.scale * YARN);
    cell[x] = Math.floor(u);
    acrossAt[x] = depth * across(u - cell[x] - 0.5);
    alongAt[x] = depth * along(u - cell[x] - 0.5);
  }
  for (let y = 0; y < view.height; y++) {
    const v = (view.top + y + 0.5) / (view.scale * YARN);
    const row = Math.floor(v);
    const acrossRow = depth * across(v - row - 0.5);
    const alongRow = depth * along(v - row - 0.5);
    const seed = row * 668265263;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      // In half of the cells the warp lies on top, in the others the weft.
      const lit = ((cell[x] + row) & 1) === 0 ? acrossAt[x] + alongRow : acrossRow + alongAt[x];
      // A little irregularity from yarn to yarn keeps large areas from looking printed.
      const yarn = (((cell[x] * 374761393) ^ seed) >>> 13) & 15;
      const shade = 128 + lit + (yarn - 7.5) * 0.5;
      pixels[i] = shades[shade < 0 ? 0 : shade > 255 ? 255 : shade | 0];
    }
  }
}

/** Height of a yarn on top at a place across it, and what it changes along it: both from -0.5 to 0.5. */
const across = (d: number): number => ((0.25 - d * d) * 2.2 - 0.5 - 0.35 * d) * 0.8;
const along = (d: number): number => (0.25 - d * d) * 1.2 * 0.8;

/**
 * Lays threads over cloth, in a part of a view.
 * @param threads as `drawStitches` leaves them
 * @param cloth the cloth of the view
 * @param stride pixels of a row of the view
 * @param out what is seen of both, of the size of the part; of the whole view it may be `cloth` itself
 */
export function overCloth(
  threads: Int32Array,
  cloth: Int32Array,
  stride: number,
  { left, top, width, height }: ViewPart,
  out: Int32Array,
): void {
  for (let y = 0, o = 0; y < height; y++) {
    const start = (top + y) * stride + left;
    for (let i = start; i < start + width; i++, o++) {
      const p = threads[i];
      const covered = p >>> 24;
      if (covered === 255) {
        out[o] = p;
        continue;
      }
      const c = cloth[i];
      if (p === 0) {
        out[o] = c;
        continue;
      }
      const open = 256 - covered - (covered >> 7);
      const rb = (p & 0xff00ff) + ((Math.imul(c & 0xff00ff, open) >>> 8) & 0xff00ff);
      const g = (p & 0xff00) + ((Math.imul(c & 0xff00, open) >>> 8) & 0xff00);
      out[o] = -16777216 | (rb & 0xff00ff) | (g & 0xff00);
    }
  }
}
