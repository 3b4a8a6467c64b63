import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { toEnd } from '../geometry/pauses.js';
import { histogram, placeOf } from './histogram.js';
import { LINEAR } from './srgb.js';
import { suggestThreads } from './thread-curve.js';

/** What kind of picture it is, measured on its pixels. */
export interface Character {
  /** Flat art has areas of one colour each; anything else is treated like a photograph. */
  readonly flat: boolean;
  /** Compression noise inside the flat areas. */
  readonly noisy: boolean;
  /** Suggested number of colours. */
  readonly colours: number;
}

const MOST_FLAT_COLOURS = 40;
const CALM = 12;

/** Rows measured before something else may have a turn. */
const ROWS_A_TURN = 300;

/** Measures whether a picture is flat, whether it carries compression noise, and how many colours it has. */
export const characterOf = (raster: Raster): Character => toEnd(measureCharacter(raster));

/** The same in steps; yields the share done. */
export function* measureCharacter(raster: Raster): Generator<number, Character> {
  const { width, height, data } = raster;
  const packed = new Uint32Array(data.buffer, data.byteOffset, width * height);
  let opaque = 0;
  let calm = 0;
  let uniform = 0;
  const weight = new Uint32Array(1 << 15);
  const sums = new Float64Array((1 << 15) * 3);
  for (let y = 0; y < height; y++) {
    if (y % ROWS_A_TURN === ROWS_A_TURN - 1) yield y / height;
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      if (data[at + 3] < BARE_ALPHA) continue;
      opaque++;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) continue;
      const most = largestStep(data, packed, at / 4, width);
      if (most > CALM) continue;
      calm++;
      if (most === 0) uniform++;
      const cell = ((data[at] >> 3) << 10) | ((data[at + 1] >> 3) << 5) | (data[at + 2] >> 3);
      weight[cell]++;
      for (let j = 0; j < 3; j++) sums[cell * 3 + j] += LINEAR[data[at + j]];
    }
  }
  yield 1;
  if (opaque === 0) return { flat: true, noisy: false, colours: 1 };
  const noisy = uniform < calm * 0.98;
  const merge = noisy ? 0.02 : 0.012;
  const peaks = findPeaks(weight, sums, noisy ? 0.04 : merge);
  const least = opaque * (noisy ? 0.0015 : 0.0025);
  const strong = peaks.filter((peak) => peak.weight >= least);
  const covered = strong.reduce((sum, peak) => sum + peak.weight, 0);
  // A photograph's calm pixels spread over very many shades; flat art keeps nearly all in a few.
  const tight = findPeaks(weight, sums, merge).filter((peak) => peak.weight >= least);
  const flat = calm > opaque * 0.3 && tight.length <= MOST_FLAT_COLOURS && covered >= calm * 0.9;
  if (!flat) return { flat: false, noisy: true, colours: suggestThreads(histogram(raster)) };
  return { flat: true, noisy, colours: Math.max(1, strong.length) };
}

/** Largest |dR|+|dG|+|dB| to the eight neighbours; bare neighbours count as a large step. */
function largestStep(data: Uint8ClampedArray, packed: Uint32Array, i: number, width: number): number {
  const at = i * 4;
  let most = 0;
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      if (packed[i + dy * width + dx] === packed[i]) continue;
      const q = at + (dy * width + dx) * 4;
      if (data[q + 3] < BARE_ALPHA) return 999;
      const d =
        Math.abs(data[q] - data[at]) + Math.abs(data[q + 1] - data[at + 1]) + Math.abs(data[q + 2] - data[at + 2]);
      if (d > most) most = d;
    }
  }
  return most;
}

interface Peak {
  weight: number;
  readonly place: Float32Array;
}

/** Most frequent bins first; a bin near an earlier peak joins it. */
function findPeaks(weight: Uint32Array, sums: Float64Array, merge: number): Peak[] {
  const cells: number[] = [];
  for (let c = 0; c < weight.length; c++) if (weight[c] > 0) cells.push(c);
  cells.sort((a, b) => weight[b] - weight[a] || a - b);
  const peaks: Peak[] = [];
  for (const c of cells) {
    const n = weight[c];
    const place = new Float32Array(3);
    placeOf(sums[c * 3] / n, sums[c * 3 + 1] / n, sums[c * 3 + 2] / n, place, 0);
    let nearest: Peak | undefined;
    let best = merge * merge;
    for (const peak of peaks) {
      const d = (place[0] - peak.place[0]) ** 2 + (place[1] - peak.place[1]) ** 2 + (place[2] - peak.place[2]) ** 2;
      if (d < best) {
        best = d;
        nearest = peak;
      }
    }
    if (nearest) nearest.weight += n;
    else if (peaks.length < 400) peaks.push({ weight: n, place });
  }
  return peaks;
}
