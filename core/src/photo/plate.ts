import { LINEAR } from '../colour/srgb.js';
import type { Raster } from '../picture/raster.js';
import type { PictureBox } from '../picture/frame.js';

/** A picture in linear light on a fine grid over the cloth: what renderings look at. */
export interface Plate {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
  /** Grid points a millimetre. */
  readonly scale: number;
  /** r, g, b and what of the place is to be sewn (0 to 1), four numbers a point. */
  readonly data: Float32Array;
}

const SCALE = 5;
/** Places of which less is to be sewn stay bare. */
export const SEWN_SHARE = 0.5;

/**
 * Averages a prepared picture over the squares of a plate.
 * @param bare whether nothing is sewn at a pixel, beside what is transparent
 */
export function plateOf(picture: Raster, box: PictureBox, bare?: (pixel: number) => boolean): Plate {
  const width = Math.max(2, Math.round(box.width * SCALE));
  const height = Math.max(2, Math.round(box.height * SCALE));
  const data = new Float32Array(width * height * 4);
  const columns = edgesOf(picture.width, width);
  const rows = edgesOf(picture.height, height);
  const { data: bytes } = picture;
  for (let y = 0; y < height; y++) {
    const y0 = rows[y];
    const y1 = Math.max(y0 + 1, rows[y + 1]);
    for (let x = 0; x < width; x++) {
      const x0 = columns[x];
      const x1 = Math.max(x0 + 1, columns[x + 1]);
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      for (let py = y0; py < y1; py++) {
        for (let px = x0; px < x1; px++) {
          const i = py * picture.width + px;
          const share = bare?.(i) ? 0 : bytes[i * 4 + 3] / 255;
          r += LINEAR[bytes[i * 4]] * share;
          g += LINEAR[bytes[i * 4 + 1]] * share;
          b += LINEAR[bytes[i * 4 + 2]] * share;
          a += share;
        }
      }
      const at = (y * width + x) * 4;
      if (a > 0) {
        data[at] = r / a;
        data[at + 1] = g / a;
        data[at + 2] = b / a;
      }
      data[at + 3] = a / ((x1 - x0) * (y1 - y0));
    }
  }
  return { width, height, left: box.left, top: box.top, scale: SCALE, data };
}

/** First pixel of each of so many points along a side, and where the last one ends. */
const edgesOf = (pixels: number, points: number): Int32Array =>
  Int32Array.from({ length: points + 1 }, (_, k) => Math.floor((k * pixels) / points));

/**
 * The colour of a plate around a place, the mean over about 0.4 mm.
 * @param out r, g, b and the share to be sewn; all 0 beyond the plate
 */
export function samplePlate(plate: Plate, x: number, y: number, out: Float32Array): void {
  const u = (x - plate.left) * plate.scale - 0.5;
  const v = (y - plate.top) * plate.scale - 0.5;
  out.fill(0);
  if (u < -0.5 || v < -0.5 || u > plate.width - 0.5 || v > plate.height - 0.5) return;
  // Two grid points wide, with soft ends: three points each way.
  const ix = Math.round(u);
  const iy = Math.round(v);
  let sum = 0;
  for (let dy = -1; dy <= 1; dy++) {
    const py = Math.min(plate.height - 1, Math.max(0, iy + dy));
    const wy = 1.25 - Math.abs(iy + dy - v);
    for (let dx = -1; dx <= 1; dx++) {
      const px = Math.min(plate.width - 1, Math.max(0, ix + dx));
      const w = Math.max(0, wy) * Math.max(0, 1.25 - Math.abs(ix + dx - u));
      const at = (py * plate.width + px) * 4;
      const a = plate.data[at + 3];
      out[0] += plate.data[at] * a * w;
      out[1] += plate.data[at + 1] * a * w;
      out[2] += plate.data[at + 2] * a * w;
      out[3] += a * w;
      sum += w;
    }
  }
  if (out[3] > 0) for (let j = 0; j < 3; j++) out[j] /= out[3];
  out[3] /= sum;
}

/** Mean linear colour of what is to be sewn. */
export function linearMean({ data }: Plate): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  let n = 0;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < SEWN_SHARE) continue;
    for (let j = 0; j < 3; j++) sum[j] += data[i + j];
    n++;
  }
  return n > 0 ? [sum[0] / n, sum[1] / n, sum[2] / n] : sum;
}
