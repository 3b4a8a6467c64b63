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

/** Colour that stands in for what lies beyond a picture. */
export interface Fill {
  readonly r: number;
  readonly g: number;
  readonly b: number;
}

/** A box of whole pixels; it may reach beyond the picture. */
export interface PixelWindow {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Resamples a part of a raster by averaging the area under each new pixel, weighted by alpha; a new pixel smaller than
 * an old one shows that one.
 * @param fill colour beyond the edges of the raster; bare without it
 */
export function shrinkWindow(source: Raster, window: PixelWindow, width: number, height: number, fill?: Fill): Raster {
  const out = createRaster(width, height);
  const scaleX = window.width / width;
  const scaleY = window.height / height;
  const ground = fill ? [fill.r, fill.g, fill.b, 1] : [0, 0, 0, 0];
  for (let y = 0; y < height; y++) {
    const fromY = window.top + y * scaleY;
    const toY = fromY + scaleY;
    for (let x = 0; x < width; x++) {
      const fromX = window.left + x * scaleX;
      const toX = fromX + scaleX;
      let r = 0;
      let g = 0;
      let b = 0;
      let a = 0;
      for (let py = Math.floor(fromY); py < toY; py++) {
        const high = Math.min(py + 1, toY) - Math.max(py, fromY);
        for (let px = Math.floor(fromX); px < toX; px++) {
          const share = high * (Math.min(px + 1, toX) - Math.max(px, fromX));
          if (px < 0 || py < 0 || px >= source.width || py >= source.height) {
            r += ground[0] * ground[3] * share;
            g += ground[1] * ground[3] * share;
            b += ground[2] * ground[3] * share;
            a += ground[3] * share;
            continue;
          }
          const at = (py * source.width + px) * 4;
          const alpha = (source.data[at + 3] / 255) * share;
          r += source.data[at] * alpha;
          g += source.data[at + 1] * alpha;
          b += source.data[at + 2] * alpha;
          a += alpha;
        }
      }
      if (a <= 0) continue;
      const at = (y * width + x) * 4;
      out.data[at] = r / a;
      out.data[at + 1] = g / a;
      out.data[at + 2] = b / a;
      out.data[at + 3] = Math.round((a / (scaleX * scaleY)) * 255);
    }
  }
  return out;
}

/** Pictures smaller than this a side are enlarged before they are traced, to this at least. */
const SMALL = 256;
const ENLARGED = 480;

/**
 * Enlarges a very small picture by a whole factor, so that its corners can be told from its curves. Every pixel
 * becomes a square: a picture that small is drawn pixel by pixel.
 */
export function enlargeSmall(source: Raster): Raster {
  const factor = enlargement(source);
  if (factor === 1) return source;
  const out = createRaster(source.width * factor, source.height * factor);
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, source.width * source.height);
  const to = new Uint32Array(out.data.buffer);
  for (let y = 0; y < out.height; y++) {
    const row = Math.floor(y / factor) * source.width;
    for (let x = 0; x < out.width; x++) to[y * out.width + x] = from[row + Math.floor(x / factor)];
  }
  return out;
}

/** The size `enlargeSmall` gives a picture. */
export function enlargedSize(source: { readonly width: number; readonly height: number }): {
  width: number;
  height: number;
} {
  const factor = enlargement(source);
  return { width: source.width * factor, height: source.height * factor };
}

function enlargement({ width, height }: { readonly width: number; readonly height: number }): number {
  const longest = Math.max(width, height);
  return longest >= SMALL ? 1 : Math.ceil(ENLARGED / longest);
}

/** The size a picture is worked on: its own, or smaller so that it holds at most `pixels`. */
export function workingSize(width: number, height: number, pixels: number): { width: number; height: number } {
  const scale = Math.min(1, Math.sqrt(pixels / (width * height)));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}
