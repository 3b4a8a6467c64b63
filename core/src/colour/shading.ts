import { BARE_ALPHA, type Raster } from '../picture/raster.js';

/** How a picture is laid. */
export interface Shading {
  /** Shares of what is not bare that are of one colour around, and that are shaded from place to place. */
  readonly plain: number;
  readonly shaded: number;
  /** Colours of what is plain, those hardly seen left out. */
  readonly colours: number;
}

/** Half of the box that noise is evened out in, and how far apart places are compared, in pixels. */
const HALF = 2;
const APART = 12;
const PART = 4;
/** Sums of three channels of 0 to 255: less is noise, and a step that is mostly in one part is an edge. */
const NOISE = 7;
const EDGE = 0.62;

/**
 * Measures shading: colours that change little by little over a distance, as light does and a printed area does not. Grain
 * and losses of saving are evened out first, and edges change all at once, however smooth they are drawn.
 */
export function shadingOf({ width, height, data }: Raster): Shading {
  const sums = integral(data, width, height);
  let [plain, shaded, all] = [0, 0, 0];
  const margin = APART + HALF;
  const at = new Float64Array(4 * 3);
  const found: Patch[] = [];
  for (let y = margin; y < height - margin; y += 2) {
    for (let x = margin; x < width - margin; x += 2) {
      if (data[(y * width + x) * 4 + 3] < BARE_ALPHA) continue;
      all++;
      let most = 0;
      let even = false;
      for (const [dx, dy] of WAYS) {
        for (let k = 0; k < 4; k++) {
          const along = (k - 1.5) * PART;
          boxMean(sums, width, Math.round(x + dx * along), Math.round(y + dy * along), at, k * 3);
        }
        const total = stepBetween(at, 0, 9);
        if (total <= most) continue;
        most = total;
        even = Math.max(stepBetween(at, 0, 3), stepBetween(at, 3, 6), stepBetween(at, 6, 9)) <= EDGE * total;
      }
      if (most <= NOISE) {
        plain++;
        addTo(found, at);
      } else if (even) shaded++;
    }
  }
  const colours = found.filter(({ places }) => places > LEAST * plain).length;
  return all === 0 ? { plain: 1, shaded: 0, colours } : { plain: plain / all, shaded: shaded / all, colours };
}

/** A colour of plain places, and how many are of it. */
interface Patch {
  readonly of: readonly number[];
  places: number;
}
/** Sums of channels that two colours differ by at least, the share below which one does not count, and how many are told apart. */
const OTHER_COLOUR = 60;
const LEAST = 0.004;
const MOST_COLOURS = 60;

function addTo(found: Patch[], at: Float64Array): void {
  const patch = found.find(
    ({ of }) => Math.abs(of[0] - at[0]) + Math.abs(of[1] - at[1]) + Math.abs(of[2] - at[2]) < OTHER_COLOUR,
  );
  if (patch) patch.places++;
  else if (found.length < MOST_COLOURS) found.push({ of: [at[0], at[1], at[2]], places: 1 });
}

const WAYS = [
  [1, 0],
  [0, 1],
  [0.7, 0.7],
  [0.7, -0.7],
] as const;

/** Sums of each channel and of what is not bare, over everything left of and above a pixel. */
function integral(data: Uint8ClampedArray, width: number, height: number): Float64Array {
  const wide = width + 1;
  const sums = new Float64Array(wide * (height + 1) * 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + x) * 4;
      const to = ((y + 1) * wide + x + 1) * 4;
      const sewn = data[from + 3] >= BARE_ALPHA ? 1 : 0;
      for (let j = 0; j < 4; j++) {
        const v = j < 3 ? data[from + j] * sewn : sewn;
        sums[to + j] = v + sums[to - 4 + j] + sums[to - wide * 4 + j] - sums[to - wide * 4 - 4 + j];
      }
    }
  }
  return sums;
}

function boxMean(sums: Float64Array, width: number, x: number, y: number, out: Float64Array, to: number): void {
  const wide = (width + 1) * 4;
  const [a, b] = [(y - HALF) * wide + (x - HALF) * 4, (y - HALF) * wide + (x + HALF + 1) * 4];
  const [c, d] = [a + (2 * HALF + 1) * wide, b + (2 * HALF + 1) * wide];
  const sewn = Math.max(1, sums[d + 3] - sums[b + 3] - sums[c + 3] + sums[a + 3]);
  for (let j = 0; j < 3; j++) out[to + j] = (sums[d + j] - sums[b + j] - sums[c + j] + sums[a + j]) / sewn;
}

const stepBetween = (at: Float64Array, a: number, b: number): number =>
  Math.abs(at[a] - at[b]) + Math.abs(at[a + 1] - at[b + 1]) + Math.abs(at[a + 2] - at[b + 2]);
