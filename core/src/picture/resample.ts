import { createRaster, type Raster } from './raster.js';

/**
 * Shrinks a raster by averaging the area under each new pixel, weighted by alpha.
 *
 * The mean is taken on sRGB values: a smooth edge stays a straight mix of its two sides there,
 * which is what the recognition of edge shades looks for.
 * @throws RangeError if the new size is larger than the old one.
 */
export function shrink(source: Raster, width: number, height: number): Raster {
  if (width > source.width || height > source.height) {
    throw new RangeError(`shrink: ${width} x ${height} is larger than ${source.width} x ${source.height}`);
  }
  if (width === source.width && height === source.height) return source;
  const out = createRaster(width, height);
  const scaleX = source.width / width;
  const scaleY = source.height / height;
  const row = new Float64Array(source.width * 4);
  for (let y = 0; y < height; y++) {
    sumRows(source, y * scaleY, (y + 1) * scaleY, row);
    for (let x = 0; x < width; x++) {
      const from = x * scaleX;
      const to = Math.min(source.width, (x + 1) * scaleX);
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      let area = 0;
      for (let i = Math.floor(from); i < to; i++) {
        const share = Math.min(i + 1, to) - Math.max(i, from);
        r += row[i * 4] * share;
        g += row[i * 4 + 1] * share;
        b += row[i * 4 + 2] * share;
        a += row[i * 4 + 3] * share;
        area += share;
      }
      const at = (y * width + x) * 4;
      if (a > 0) {
        out.data[at] = r / a;
        out.data[at + 1] = g / a;
        out.data[at + 2] = b / a;
        out.data[at + 3] = (a / area / scaleY) * 255;
      }
    }
  }
  return out;
}

/** Adds up source rows between two heights into premultiplied sums, alpha counted from 0 to 1. */
function sumRows(source: Raster, from: number, to: number, row: Float64Array): void {
  row.fill(0);
  const end = Math.min(source.height, to);
  for (let y = Math.floor(from); y < end; y++) {
    const share = Math.min(y + 1, end) - Math.max(y, from);
    let at = y * source.width * 4;
    for (let i = 0; i < row.length; i += 4, at += 4) {
      const alpha = (source.data[at + 3] / 255) * share;
      row[i] += source.data[at] * alpha;
      row[i + 1] += source.data[at + 1] * alpha;
      row[i + 2] += source.data[at + 2] * alpha;
      row[i + 3] += alpha;
    }
  }
}

/** Pictures smaller than this a side are enlarged before they are traced, to this at least. */
const SMALL = 256;
const ENLARGED = 480;

/**
 * Enlarges a very small picture by a whole factor, so that its corners can be told from its curves. Every pixel
 * becomes a square: a picture that small is drawn pixel by pixel.
 */
export function enlargeSmall(source: Raster): Raster {
  const longest = Math.max(source.width, source.height);
  if (longest >= SMALL) return source;
  const factor = Math.ceil(ENLARGED / longest);
  const out = createRaster(source.width * factor, source.height * factor);
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, source.width * source.height);
  const to = new Uint32Array(out.data.buffer);
  for (let y = 0; y < out.height; y++) {
    const row = Math.floor(y / factor) * source.width;
    for (let x = 0; x < out.width; x++) to[y * out.width + x] = from[row + Math.floor(x / factor)];
  }
  return out;
}

/** The size a picture is worked on: its own, or smaller so that it holds at most `pixels`. */
export function workingSize(width: number, height: number, pixels: number): { width: number; height: number } {
  const scale = Math.min(1, Math.sqrt(pixels / (width * height)));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}
