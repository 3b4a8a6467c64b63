import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { BARE_ALPHA, type Raster } from '../picture/raster.js';

/**
 * Everything that hangs together with a pixel and is of nearly its colour: four neighbours count, bare cloth never.
 * @param tolerance how far colours may be from that of the pixel, as CIEDE2000
 * @returns 1 for every pixel that belongs to it; undefined where the pixel is bare or outside
 */
export function flood(
  { width, height, data }: Raster,
  x: number,
  y: number,
  tolerance: number,
): Uint8Array | undefined {
  if (x < 0 || y < 0 || x >= width || y >= height) return undefined;
  const start = y * width + x;
  if (data[start * 4 + 3] < BARE_ALPHA) return undefined;
  const lab = rgbToLab({ r: data[start * 4], g: data[start * 4 + 1], b: data[start * 4 + 2] });
  // A photograph has far fewer colours than pixels: each is compared once.
  const known = new Map<number, boolean>();
  const belongs = (i: number): boolean => {
    if (data[i * 4 + 3] < BARE_ALPHA) return false;
    const [r, g, b] = data.subarray(i * 4, i * 4 + 3);
    const key = (r << 16) | (g << 8) | b;
    const before = known.get(key);
    if (before !== undefined) return before;
    const near = ciede2000(lab, rgbToLab({ r, g, b })) <= tolerance;
    known.set(key, near);
    return near;
  };
  const inside = new Uint8Array(width * height);
  const waiting = new Int32Array(width * height);
  inside[start] = 1;
  waiting[0] = start;
  let count = 1;
  const reach = (i: number): void => {
    if (inside[i] || !belongs(i)) return;
    inside[i] = 1;
    waiting[count++] = i;
  };
  for (let done = 0; done < count; done++) {
    const i = waiting[done];
    const column = i % width;
    if (column > 0) reach(i - 1);
    if (column < width - 1) reach(i + 1);
    if (i >= width) reach(i - width);
    if (i < width * (height - 1)) reach(i + width);
  }
  return inside;
}
