import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import type { Rgb } from '../colour/srgb.js';
import { toEnd } from '../geometry/pauses.js';

/** How far neighbouring pixels must differ, and how well a shade must fit between them, to be an edge shade. */
interface Tolerance {
  readonly pair: number;
  readonly residual: number;
  readonly residualShare: number;
  readonly reach: number;
  /** Half-width of the box a flat colour's pixels stay in. */
  readonly calm: number;
}

const CLEAN: Tolerance = { pair: 10, residual: 5, residualShare: 0.06, reach: 1, calm: 6 };
const NOISY: Tolerance = { pair: 40, residual: 24, residualShare: 0.12, reach: 2, calm: 18 };

/** Shades nearer than this (Euclidean, sRGB) are one colour of flat art. */
const MERGE = 12;
const MERGE_NOISY = 30;
const SMALLEST_SHARE = 0.0003;
const SMALLEST_SHARE_NOISY = 0.0015;
const MOST_COLOURS = 250;

/** Whether two colours of flat art would be taken for one. */
export function isNear(a: Rgb, b: Rgb, noisy: boolean): boolean {
  const merge = noisy ? MERGE_NOISY : MERGE;
  return (a.r - b.r) ** 2 + (a.g - b.g) ** 2 + (a.b - b.b) ** 2 <= merge * merge;
}

/** Labels of flat art: 0 is bare, 1.. are entries of the palette. */
export interface FlatLabels {
  readonly labels: Uint8Array;
  readonly palette: Rgb[];
}

/**
 * Finds the colours of flat art and gives every pixel one of them. Shades that only exist because an edge was
 * smoothed lie on the straight line between the colours of two opposite neighbours; they never become colours and
 * take a label that is present right beside them.
 * Yields the share done.
 * @param wanted colours that become part of the palette even where they are too rare to be found
 */
export function* flatArtSteps(
  raster: Raster,
  noisy: boolean,
  wanted: readonly Rgb[] = [],
): Generator<number, FlatLabels> {
  const tolerance = noisy ? NOISY : CLEAN;
  const mixed = yield* findMixed(raster, tolerance);
  yield 0.5;
  const palette = findPalette(raster, mixed, tolerance, noisy);
  for (const colour of wanted) if (!palette.some((p) => isNear(p, colour, noisy))) palette.push(colour);
  const labels = new Uint8Array(raster.width * raster.height);
  if (palette.length === 0) return { labels, palette };
  yield 0.7;
  const open = assignSure(raster, mixed, palette, labels, noisy);
  yield 0.85;
  assignByNeighbours(raster, palette, labels, open);
  return { labels, palette };
}

/** The same at once. */
export const labelFlatArt = (raster: Raster, noisy: boolean, wanted: readonly Rgb[] = []): FlatLabels =>
  toEnd(flatArtSteps(raster, noisy, wanted));

/** Rows looked at before something else may have a turn. */
const ROWS_A_TURN = 300;

const OPPOSITE = [
  [1, 0],
  [0, 1],
  [1, 1],
  [1, -1],
] as const;

/** 1 where a pixel lies between two opposite neighbours in colour; 2 where it is bare. */
function* findMixed(raster: Raster, tolerance: Tolerance): Generator<number, Uint8Array> {
  const { width, height, data } = raster;
  const packed = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const mixed = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    if (y % ROWS_A_TURN === ROWS_A_TURN - 1) yield (0.5 * y) / height;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (data[i * 4 + 3] < BARE_ALPHA) {
        mixed[i] = 2;
        continue;
      }
      if (isUniform(packed, i, x, y, width, height)) continue;
      for (let reach = 1; reach <= tolerance.reach && !mixed[i]; reach++) {
        if (x < reach || y < reach || x >= width - reach || y >= height - reach) break;
        for (const [dx, dy] of OPPOSITE) {
          const step = (dy * width + dx) * reach;
          if (packed[i - step] === packed[i + step]) continue;
          if (isBetween(data, i * 4, (i - step) * 4, (i + step) * 4, tolerance)) {
            mixed[i] = 1;
            break;
          }
        }
      }
    }
  }
  return mixed;
}

/** Whether all eight neighbours have exactly the pixel's colour: most of flat art, and quickly told. */
function isUniform(packed: Uint32Array, i: number, x: number, y: number, width: number, height: number): boolean {
  if (x === 0 || y === 0 || x === width - 1 || y === height - 1) return false;
  const c = packed[i];
  return (
    packed[i - 1] === c &&
    packed[i + 1] === c &&
    packed[i - width] === c &&
    packed[i + width] === c &&
    packed[i - width - 1] === c &&
    packed[i - width + 1] === c &&
    packed[i + width - 1] === c &&
    packed[i + width + 1] === c
  );
}

function isBetween(data: Uint8ClampedArray, p: number, a: number, b: number, tolerance: Tolerance): boolean {
  if (data[a + 3] < BARE_ALPHA || data[b + 3] < BARE_ALPHA) return false;
  const dr = data[b] - data[a];
  const dg = data[b + 1] - data[a + 1];
  const db = data[b + 2] - data[a + 2];
  const square = dr * dr + dg * dg + db * db;
  if (square < tolerance.pair * tolerance.pair) return false;
  const pr = data[p] - data[a];
  const pg = data[p + 1] - data[a + 1];
  const pb = data[p + 2] - data[a + 2];
  const t = (pr * dr + pg * dg + pb * db) / square;
  if (t < 0.03 || t > 0.97) return false;
  const rest = pr * pr + pg * pg + pb * pb - t * t * square;
  const allowed = Math.max(tolerance.residual * tolerance.residual, tolerance.residualShare ** 2 * square);
  return rest < allowed;
}

/** Most frequent calm, unmixed shades first; a shade near an earlier one joins it. */
function findPalette(raster: Raster, mixed: Uint8Array, tolerance: Tolerance, noisy: boolean): Rgb[] {
  const { width, height, data } = raster;
  const packed = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const weight = new Uint32Array(1 << 15);
  const sums = new Float64Array((1 << 15) * 3);
  let total = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (mixed[i] === 2) continue;
      total++;
      if (mixed[i] === 1) continue;
      if (!isUniform(packed, i, x, y, width, height)) {
        if (likeNeighbours(data, x, y, width, height, tolerance.calm) < (noisy ? 7 : 5)) continue;
      }
      const at = i * 4;
      const cell = ((data[at] >> 3) << 10) | ((data[at + 1] >> 3) << 5) | (data[at + 2] >> 3);
      weight[cell]++;
      for (let j = 0; j < 3; j++) sums[cell * 3 + j] += data[at + j];
    }
  }
  const cells: number[] = [];
  for (let c = 0; c < weight.length; c++) if (weight[c] > 0) cells.push(c);
  cells.sort((a, b) => weight[b] - weight[a] || a - b);
  const found: { r: number; g: number; b: number; n: number }[] = [];
  const merge = (noisy ? MERGE_NOISY : MERGE) ** 2;
  for (const c of cells) {
    const n = weight[c];
    const [r, g, b] = [sums[c * 3] / n, sums[c * 3 + 1] / n, sums[c * 3 + 2] / n];
    const near = found.find((f) => (f.r - r) ** 2 + (f.g - g) ** 2 + (f.b - b) ** 2 <= merge);
    if (near) {
      const sum = near.n + n;
      near.r = (near.r * near.n + r * n) / sum;
      near.g = (near.g * near.n + g * n) / sum;
      near.b = (near.b * near.n + b * n) / sum;
      near.n = sum;
    } else if (found.length < MOST_COLOURS) found.push({ r, g, b, n });
  }
  const least = total * (noisy ? SMALLEST_SHARE_NOISY : SMALLEST_SHARE);
  const kept = found.filter((f) => f.n >= least);
  const chosen = kept.length > 0 ? kept : found.slice(0, 1);
  return chosen.map(({ r, g, b }) => ({ r: Math.round(r), g: Math.round(g), b: Math.round(b) }));
}

/** How many of the eight neighbours lie within a box around the pixel's colour. */
function likeNeighbours(
  data: Uint8ClampedArray,
  x: number,
  y: number,
  width: number,
  height: number,
  box: number,
): number {
  const at = (y * width + x) * 4;
  let like = 0;
  for (let dy = -1; dy <= 1; dy++) {
    const yy = y + dy;
    if (yy < 0 || yy >= height) continue;
    for (let dx = -1; dx <= 1; dx++) {
      const xx = x + dx;
      if ((dx === 0 && dy === 0) || xx < 0 || xx >= width) continue;
      const q = (yy * width + xx) * 4;
      if (
        Math.abs(data[q] - data[at]) <= box &&
        Math.abs(data[q + 1] - data[at + 1]) <= box &&
        Math.abs(data[q + 2] - data[at + 2]) <= box &&
        data[q + 3] >= BARE_ALPHA
      ) {
        like++;
      }
    }
  }
  return like;
}

/** Labels unmixed pixels, and mixed ones that plainly are a palette colour; returns the pixels left open. */
function assignSure(raster: Raster, mixed: Uint8Array, palette: Rgb[], labels: Uint8Array, noisy: boolean): Int32Array {
  const { width, height, data } = raster;
  const packed = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const open: number[] = [];
  let lastColour = -1;
  let last = 0;
  let lastGap = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (mixed[i] === 2) continue;
      if (packed[i] !== lastColour) {
        lastColour = packed[i];
        let best = Infinity;
        for (let c = 0; c < palette.length; c++) {
          const gap = gapTo(data, i * 4, palette[c]);
          if (gap < best) {
            best = gap;
            last = c + 1;
          }
        }
        lastGap = best;
      }
      if (mixed[i] === 0 || (!noisy && lastGap <= 16 && likeNeighbours(data, x, y, width, height, 6) >= 5)) {
        labels[i] = last;
      } else open.push(i);
    }
  }
  return Int32Array.from(open);
}

const gapTo = (data: Uint8ClampedArray, at: number, c: Rgb): number => {
  const dr = data[at] - c.r;
  const dg = data[at + 1] - c.g;
  const db = data[at + 2] - c.b;
  return dr * dr + dg * dg + db * db;
};

/** Gives each open pixel the closest label present within two pixels, from the sure ones outwards. */
function assignByNeighbours(raster: Raster, palette: Rgb[], labels: Uint8Array, start: Int32Array): void {
  const { width, height, data } = raster;
  let open = start;
  while (open.length > 0) {
    const rest: number[] = [];
    const found = new Uint8Array(open.length);
    for (let n = 0; n < open.length; n++) {
      const i = open[n];
      const x = i % width;
      const y = (i - x) / width;
      let best = Infinity;
      for (let dy = -2; dy <= 2; dy++) {
        const yy = y + dy;
        if (yy < 0 || yy >= height) continue;
        for (let dx = -2; dx <= 2; dx++) {
          const xx = x + dx;
          if (xx < 0 || xx >= width) continue;
          const label = labels[yy * width + xx];
          if (label === 0) continue;
          const gap = gapTo(data, i * 4, palette[label - 1]);
          if (gap < best) {
            best = gap;
            found[n] = label;
          }
        }
      }
      if (found[n] === 0) rest.push(i);
    }
    for (let n = 0; n < open.length; n++) if (found[n] > 0) labels[open[n]] = found[n];
    if (rest.length === open.length) {
      // Nothing sure within reach: an opaque speck in the open takes the nearest colour of all.
      for (const i of rest) {
        let best = Infinity;
        palette.forEach((c, at) => {
          const gap = gapTo(data, i * 4, c);
          if (gap < best) {
            best = gap;
            labels[i] = at + 1;
          }
        });
      }
      return;
    }
    open = Int32Array.from(rest);
  }
}
