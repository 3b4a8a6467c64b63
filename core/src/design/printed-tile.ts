import { toHex } from '../colour/srgb.js';
import type { PrintedTile } from '../pieces/laid-cloth.js';
import type { Raster } from '../picture/raster.js';
import { shrinkWindow } from '../picture/resample.js';

/** Longest side of a print, in pixels: a few a millimetre, which is what is seen of it on the stage. */
const SIDE = 96;
/** What is transparent stays as white as the cloth. */
const WHITE = 255;

const made = new WeakMap<Raster, PrintedTile>();

/** A picture as it is printed on cloth, small. */
export function printedTile(raster: Raster): PrintedTile {
  const known = made.get(raster);
  if (known) return known;
  const share = Math.min(1, SIDE / Math.max(raster.width, raster.height));
  const [width, height] = [raster.width, raster.height].map((side) => Math.max(1, Math.round(side * share)));
  const whole = { left: 0, top: 0, width: raster.width, height: raster.height };
  const { data } = shrinkWindow(raster, whole, width, height);
  const pixels = Array.from({ length: width * height }, (_, i) => {
    const [r, g, b] = [0, 1, 2].map((c) => {
      const alpha = data[i * 4 + 3] / 255;
      return Math.round(data[i * 4 + c] * alpha + WHITE * (1 - alpha));
    });
    return toHex({ r, g, b }).slice(1);
  });
  const tile = { width, height, pixels: pixels.join('') };
  made.set(raster, tile);
  return tile;
}
