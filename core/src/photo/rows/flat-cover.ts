import type { Points } from '../../geometry/vector.js';
import type { Plate } from '../plate.js';

/** How wide a thread lies on the cloth. */
export const THREAD_MM = 0.4;
/** Points along a side of a grid point that are looked at. */
const FINE = 2;

/**
 * What of each point of a plate is covered by thread, 0 to 1: stitches as flat lines of 0.4 mm with round ends.
 * @param runs needle points in mm on the cloth
 */
export function flatCover({ width, height, left, top, scale }: Plate, runs: readonly Points[]): Float32Array {
  const fine = scale * FINE;
  const w = width * FINE;
  const h = height * FINE;
  const hit = new Uint8Array(w * h);
  const half = (THREAD_MM / 2) * fine;
  for (const run of runs) {
    for (let i = 2; i < run.length; i += 2) {
      const ax = (run[i - 2] - left) * fine;
      const ay = (run[i - 1] - top) * fine;
      const dx = (run[i] - left) * fine - ax;
      const dy = (run[i + 1] - top) * fine - ay;
      const square = dx * dx + dy * dy;
      const length = Math.sqrt(square);
      const y0 = Math.max(0, Math.floor(Math.min(ay, ay + dy) - half));
      const y1 = Math.min(h - 1, Math.ceil(Math.max(ay, ay + dy) + half));
      const x0 = Math.max(0, Math.floor(Math.min(ax, ax + dx) - half));
      const x1 = Math.min(w - 1, Math.ceil(Math.max(ax, ax + dx) + half));
      for (let y = y0; y <= y1; y++) {
        const py = y + 0.5 - ay;
        let from = x0;
        let to = x1;
        if (length > half && Math.abs(dy) > 1e-6) {
          // The band of the line itself; its ends are within it as well.
          const mid = ax + (py * dx) / dy;
          const wide = (half * length) / Math.abs(dy) + 1;
          from = Math.max(from, Math.floor(mid - wide));
          to = Math.min(to, Math.ceil(mid + wide));
        }
        for (let x = from; x <= to; x++) {
          const px = x + 0.5 - ax;
          const t = square === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / square));
          const ex = px - t * dx;
          const ey = py - t * dy;
          if (ex * ex + ey * ey <= half * half) hit[y * w + x] = 1;
        }
      }
    }
  }
  const out = new Float32Array(width * height);
  for (let y = 0; y < h; y++) {
    const to = (y >> 1) * width;
    for (let x = 0; x < w; x++) out[to + (x >> 1)] += hit[y * w + x];
  }
  for (let i = 0; i < out.length; i++) out[i] /= FINE * FINE;
  return out;
}
