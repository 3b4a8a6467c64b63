import { fromHex } from '../colour/srgb.js';
import type { View } from './view.js';

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
  const column = new Float32Array(view.width);
  const cell = new Int32Array(view.width);
  for (let x = 0; x < view.width; x++) {
    const u = (view.left + x + 0.5) / (view.scale * YARN);
    cell[x] = Math.floor(u);
    column[x] = u - cell[x] - 0.5;
  }
  for (let y = 0; y < view.height; y++) {
    const v = (view.top + y + 0.5) / (view.scale * YARN);
    const row = Math.floor(v);
    const dy = v - row - 0.5;
    for (let x = 0; x < view.width; x++) {
      const dx = column[x];
      // In half of the cells the warp lies on top, in the others the weft.
      const over = ((cell[x] + row) & 1) === 0;
      const across = over ? dx : dy;
      const along = over ? dy : dx;
      const height = (0.25 - across * across) * 2.2 + (0.25 - along * along) * 1.2 - 0.5 - 0.35 * across;
      // A little irregularity from yarn to yarn keeps large areas from looking printed.
      const yarn = (((cell[x] * 374761393) ^ (row * 668265263)) >>> 13) & 15;
      const shade = 128 + depth * height * 0.8 + (yarn - 7.5) * 0.5;
      pixels[y * view.width + x] = shades[shade < 0 ? 0 : shade > 255 ? 255 : shade | 0];
    }
  }
}
