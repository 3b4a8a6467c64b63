import { createRaster, type Raster } from './raster.js';

const REACH = 3;

/**
 * Takes noise out and keeps edges: a bilateral filter (Tomasi and Manduchi 1998), along the rows and then along the
 * columns, which comes close to the full one at a fraction of its cost (Pham and van Vliet 2005).
 * @param strength 0 to 100
 */
export function denoise(raster: Raster, strength: number): Raster {
  const { width, height } = raster;
  const weights = rangeWeights(strength);
  const rows = createRaster(width, height);
  const out = createRaster(width, height);
  pass(packed(raster), packed(rows), width, height, false, weights);
  pass(packed(rows), packed(out), width, height, true, weights);
  return out;
}

/** The pixels as one number each: four times fewer reads. */
const packed = ({ data, width, height }: Raster): Int32Array =>
  new Int32Array(data.buffer, data.byteOffset, width * height);

/** Weight of a neighbour by |dR| + |dG| + |dB|: a parabola that ends, so that nothing beyond an edge counts at all. */
function rangeWeights(strength: number): Float32Array {
  const end = 12 + strength * 1.4;
  return Float32Array.from({ length: 766 }, (_, d) => (d >= end ? 0 : (1 - (d / end) ** 2) ** 2));
}

const NEAR = 0.85;
const FURTHER = 0.55;
const FARTHEST = 0.25;

/** One pass along the rows or down the columns; the picture is walked row by row in both, which the cache likes. */
function pass(
  from: Int32Array,
  to: Int32Array,
  width: number,
  height: number,
  down: boolean,
  weights: Float32Array,
): void {
  const step = down ? width : 1;
  const length = down ? height : width;
  let at = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const i = down ? y : x;
      const before = i < REACH ? i : REACH;
      const after = length - 1 - i < REACH ? length - 1 - i : REACH;
      const p = from[at];
      const r0 = p & 255;
      const g0 = (p >> 8) & 255;
      const b0 = (p >> 16) & 255;
      let r = r0;
      let g = g0;
      let b = b0;
      let sum = 1;
      // The same twice, before and after the pixel: one loop over both is half as fast again.
      for (let k = 1; k <= before; k++) {
        const q = from[at - k * step];
        const rq = q & 255;
        const gq = (q >> 8) & 255;
        const bq = (q >> 16) & 255;
        const dr = rq - r0;
        const dg = gq - g0;
        const db = bq - b0;
        const d = (dr < 0 ? -dr : dr) + (dg < 0 ? -dg : dg) + (db < 0 ? -db : db);
        // Bare pixels have no colour to give.
        const w = q >>> 24 === 0 ? 0 : weights[d] * (k === 1 ? NEAR : k === 2 ? FURTHER : FARTHEST);
        r += rq * w;
        g += gq * w;
        b += bq * w;
        sum += w;
      }
      for (let k = 1; k <= after; k++) {
        const q = from[at + k * step];
        const rq = q & 255;
        const gq = (q >> 8) & 255;
        const bq = (q >> 16) & 255;
        const dr = rq - r0;
        const dg = gq - g0;
        const db = bq - b0;
        const d = (dr < 0 ? -dr : dr) + (dg < 0 ? -dg : dg) + (db < 0 ? -db : db);
        // Bare pixels have no colour to give.
        const w = q >>> 24 === 0 ? 0 : weights[d] * (k === 1 ? NEAR : k === 2 ? FURTHER : FARTHEST);
        r += rq * w;
        g += gq * w;
        b += bq * w;
        sum += w;
      }
      const share = 1 / sum;
      to[at] = (p & 0xff000000) | ((b * share + 0.5) << 16) | ((g * share + 0.5) << 8) | (r * share + 0.5);
    }
  }
}
