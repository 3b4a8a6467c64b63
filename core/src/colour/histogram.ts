import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { linearToOklab } from './oklab.js';
import { LINEAR } from './srgb.js';

/** Shades of a picture: per entry a weight, a linear-light mean, and its place in stretched OKLab (L, 2a, 2b). */
export interface Shades {
  readonly count: number;
  readonly weight: Float64Array;
  /** r, g, b in linear light, three numbers an entry. */
  readonly linear: Float64Array;
  /** L, 2a, 2b, three numbers an entry. */
  readonly place: Float32Array;
}

/** Chroma counts double: hue mistakes in thread are seen sooner than lightness mistakes. */
export const CHROMA_WEIGHT = 2;

/** Writes L, 2a, 2b of a linear colour into `out`. */
export function placeOf(r: number, g: number, b: number, out: Float32Array, at: number): void {
  linearToOklab(r, g, b, out, at);
  out[at + 1] *= CHROMA_WEIGHT;
  out[at + 2] *= CHROMA_WEIGHT;
}

/** Histogram of 5 bits a channel; bare pixels are not counted. */
export function histogram(raster: Raster): Shades {
  const cells = 1 << 15;
  const weight = new Uint32Array(cells);
  const sums = new Float64Array(cells * 3);
  const { data } = raster;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < BARE_ALPHA) continue;
    const r = data[i];
    const g = data[i + 1];
    const b = data[i + 2];
    const cell = ((r >> 3) << 10) | ((g >> 3) << 5) | (b >> 3);
    weight[cell]++;
    sums[cell * 3] += LINEAR[r];
    sums[cell * 3 + 1] += LINEAR[g];
    sums[cell * 3 + 2] += LINEAR[b];
  }
  let count = 0;
  for (let c = 0; c < cells; c++) if (weight[c] > 0) count++;
  const shades = emptyShades(count);
  for (let c = 0, at = 0; c < cells; c++) {
    if (weight[c] === 0) continue;
    const n = weight[c];
    setShade(shades, at++, n, sums[c * 3] / n, sums[c * 3 + 1] / n, sums[c * 3 + 2] / n);
  }
  return shades;
}

/** Room for `count` shades. */
export function emptyShades(count: number): Shades {
  return {
    count,
    weight: new Float64Array(count),
    linear: new Float64Array(count * 3),
    place: new Float32Array(count * 3),
  };
}

/** Fills one entry from its weight and linear-light colour. */
export function setShade(shades: Shades, at: number, weight: number, r: number, g: number, b: number): void {
  shades.weight[at] = weight;
  shades.linear[at * 3] = r;
  shades.linear[at * 3 + 1] = g;
  shades.linear[at * 3 + 2] = b;
  placeOf(r, g, b, shades.place, at * 3);
}
