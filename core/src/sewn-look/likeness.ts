import { ciede2000, linearToLab } from '../colour/ciede2000.js';
import { fromHex, LINEAR } from '../colour/srgb.js';
import type { Sewing } from '../sequence/sewing.js';
import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { toEnd } from '../geometry/pauses.js';
import { drawScene, sceneOf } from './render.js';
import { similaritySteps } from './similarity.js';

/** How close the sewn look comes to the picture, seen from a normal distance. */
export interface Likeness {
  /** Mean CIEDE2000. */
  readonly deltaE: number;
  /** Structural similarity of L* (Wang et al. 2004), 1 is the same. */
  readonly ssim: number;
}

const SCALE = 10;
/** Figures are taken on a grid of 0.4 mm: the blur leaves nothing finer. */
const STEP = 4;
const SIGMA_MM = 0.5;
/** What is left to blur after averaging over the grid's squares, which blurs a little by itself. */
const SIGMA = Math.sqrt((SIGMA_MM * SCALE) ** 2 - STEP ** 2 / 12) / STEP;

interface Light {
  readonly width: number;
  readonly height: number;
  /** Linear r, g, b planes. */
  readonly planes: readonly Float32Array[];
}

/**
 * Compares a design with its prepared picture, both blurred with sigma 0.5 mm in linear light. Bare places of the
 * picture show the cloth.
 * @param picture the prepared picture; covers `design.picture` whatever its resolution
 */
export function likenessOf(design: Sewing, picture: Raster): Likeness | undefined {
  return toEnd(likenessSteps(design, picture));
}

/** Rows of the grid that are drawn, or looked at, in one step: few enough for whoever wants to do something else in between. */
const ROWS_A_STEP = 16;

/** The same in steps of some milliseconds; tells the share done. */
export function* likenessSteps(design: Sewing, picture: Raster): Generator<number, Likeness | undefined> {
  const box = design.picture;
  if (!box) return undefined;
  const width = Math.max(8, Math.floor(Math.round(box.width * SCALE) / STEP));
  const height = Math.max(8, Math.floor(Math.round(box.height * SCALE) / STEP));
  const scene = sceneOf(design);
  const planes = emptyPlanes(width * height);
  yield 0.1;
  for (let row = 0; row < height; row += ROWS_A_STEP) {
    const rows = Math.min(ROWS_A_STEP, height - row);
    const window = { width: width * STEP, height: rows * STEP, scale: SCALE, left: box.left * SCALE };
    const drawn = drawScene(scene, { ...window, top: box.top * SCALE + row * STEP }, 'sewn');
    addLight(planes, drawn, width, rows, row);
    yield 0.1 + (0.4 * row) / height;
  }
  const sewn = yield* blur({ width, height, planes });
  yield 0.6;
  const picked = yield* lightOfPicture(picture, width, height, design.fabric.hex);
  const wanted = yield* blur(picked);
  return yield* compare(sewn, wanted);
}

/**
 * Compares two pictures in the same way; each pixel of the first is a square of 0.4 mm.
 * @param clothHex what shows where they are bare
 */
export function likenessOfPictures(drawn: Raster, picture: Raster, clothHex: string): Likeness {
  const { width, height } = drawn;
  const steps = [drawn, picture].map((raster) => blur(toEnd(lightOfPicture(raster, width, height, clothHex))));
  const [a, b] = steps.map((each) => toEnd(each));
  return toEnd(compare(a, b));
}

const emptyPlanes = (count: number): Float32Array[] => [0, 1, 2].map(() => new Float32Array(count));

/** Averages drawn pixels over the grid's squares, from a row of the grid on. */
function addLight(planes: readonly Float32Array[], pixels: Int32Array, w: number, rows: number, row: number): void {
  const stride = w * STEP;
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < w; x++) {
      const at = (row + y) * w + x;
      for (let dy = 0; dy < STEP; dy++) {
        for (let dx = 0; dx < STEP; dx++) {
          const p = pixels[(y * STEP + dy) * stride + x * STEP + dx];
          planes[0][at] += LINEAR[p & 255] / (STEP * STEP);
          planes[1][at] += LINEAR[(p >> 8) & 255] / (STEP * STEP);
          planes[2][at] += LINEAR[(p >> 16) & 255] / (STEP * STEP);
        }
      }
    }
  }
}

function* lightOfPicture(picture: Raster, width: number, height: number, clothHex: string): Generator<number, Light> {
  const cloth = fromHex(clothHex);
  const ground = [LINEAR[cloth.r], LINEAR[cloth.g], LINEAR[cloth.b]];
  const planes = emptyPlanes(width * height);
  const sx = picture.width / width;
  const sy = picture.height / height;
  for (let y = 0; y < height; y++) {
    if (y % ROWS_A_STEP === 0) yield 0.6;
    const y0 = Math.floor(y * sy);
    const y1 = Math.max(y0 + 1, Math.floor((y + 1) * sy));
    for (let x = 0; x < width; x++) {
      const x0 = Math.floor(x * sx);
      const x1 = Math.max(x0 + 1, Math.floor((x + 1) * sx));
      const n = (y1 - y0) * (x1 - x0);
      for (let yy = y0; yy < y1; yy++) {
        for (let xx = x0; xx < x1; xx++) {
          const at = (yy * picture.width + xx) * 4;
          const bare = picture.data[at + 3] < BARE_ALPHA;
          for (let j = 0; j < 3; j++) planes[j][y * width + x] += (bare ? ground[j] : LINEAR[picture.data[at + j]]) / n;
        }
      }
    }
  }
  return { width, height, planes };
}

/** Gaussian blur as two passes of a sampled kernel; edges repeat. */
function* blur(light: Light): Generator<number, Light> {
  const reach = Math.ceil(SIGMA * 3);
  const kernel = Float64Array.from({ length: reach * 2 + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * SIGMA ** 2)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  const { width, height } = light;
  const planes: Float32Array[] = [];
  const row = new Float32Array(width + 2 * reach);
  for (const plane of light.planes) {
    const rows = new Float32Array(plane.length);
    for (let y = 0; y < height; y++) {
      if (y % BLURRED === 0) yield 0.6;
      const line = plane.subarray(y * width, (y + 1) * width);
      row.fill(line[0], 0, reach).set(line, reach);
      row.fill(line[width - 1], reach + width);
      for (let x = 0; x < width; x++) {
        let v = 0;
        for (let k = 0; k <= 2 * reach; k++) v += kernel[k] * row[x + k];
        rows[y * width + x] = v / sum;
      }
    }
    const out = new Float32Array(plane.length);
    for (let y = 0; y < height; y++) {
      if (y % BLURRED === 0) yield 0.6;
      for (let k = -reach; k <= reach; k++) {
        const yy = y + k < 0 ? 0 : y + k >= height ? height - 1 : y + k;
        const w = kernel[k + reach] / sum;
        for (let x = 0; x < width; x++) out[y * width + x] += w * rows[yy * width + x];
      }
    }
    planes.push(out);
  }
  return { width, height, planes };
}

/** Rows blurred in one step. */
const BLURRED = 64;

function* compare(a: Light, b: Light): Generator<number, Likeness> {
  const { width, height } = a;
  const la = new Float32Array(width * height);
  const lb = new Float32Array(width * height);
  let sum = 0;
  let count = 0;
  for (let y = 0; y < height; y++) {
    if (y % ROWS_A_STEP === 0) yield 0.7 + (0.3 * y) / height;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const p = linearToLab(a.planes[0][i], a.planes[1][i], a.planes[2][i]);
      const q = linearToLab(b.planes[0][i], b.planes[1][i], b.planes[2][i]);
      la[i] = p.l;
      lb[i] = q.l;
      sum += ciede2000(p, q);
      count++;
    }
  }
  return {
    deltaE: Number((sum / count).toFixed(2)),
    ssim: Number((yield* similarityOf(la, lb, width, height)).toFixed(4)),
  };
}

function* similarityOf(a: Float32Array, b: Float32Array, width: number, height: number): Generator<number, number> {
  const steps = similaritySteps(a, b, width, height);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield 0.95;
  }
}
