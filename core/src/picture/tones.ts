import { BARE_ALPHA, type Raster } from './raster.js';

/** How many pixels have each lightness (luma of the sRGB levels, 0 to 255); bare ones are not counted. */
export function toneHistogram(raster: Raster): Uint32Array {
  const counts = new Uint32Array(256);
  const { data } = raster;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < BARE_ALPHA) continue;
    counts[Math.round(0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2])]++;
  }
  return counts;
}

/** Share of the pixels that may lie beyond the points of automatic levels, at either end. */
const BEYOND = 0.004;
/** Black and white points keep this many levels between them. */
const LEAST_SPAN = 16;

/** Black and white points that use the whole range of lightness. */
export function autoLevels(counts: Uint32Array): { black: number; white: number } {
  const total = counts.reduce((sum, n) => sum + n, 0);
  if (total === 0) return { black: 0, white: 255 };
  const reach = (from: number, step: number): number => {
    let passed = 0;
    let at = from;
    while (at + step >= 0 && at + step <= 255 && passed + counts[at] <= total * BEYOND) {
      passed += counts[at];
      at += step;
    }
    return at;
  };
  const black = reach(0, 1);
  const white = reach(255, -1);
  if (white - black >= LEAST_SPAN) return { black, white };
  return { black: 0, white: 255 };
}
