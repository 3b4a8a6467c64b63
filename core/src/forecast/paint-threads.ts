import type { Grid } from '../picture/paint-rings.js';
import { STITCH, type StitchList } from '../sequence/stitch-list.js';

const HALF_THREAD_MM = 0.2;

/** Marks the cells of a grid that thread lies on, drawn flat from needle point to needle point. */
export function paintThreads(
  { x, y }: Pick<StitchList, 'x' | 'y'>,
  command: StitchList['command'],
  { left, top, scale, width, height }: Grid,
): Uint8Array {
  const covered = new Uint8Array(width * height);
  const r = HALF_THREAD_MM * scale;
  for (let i = 1; i < x.length; i++) {
    if (command[i] !== STITCH) continue;
    const [ax, ay] = [(x[i - 1] - left) * scale, (y[i - 1] - top) * scale];
    const [bx, by] = [(x[i] - left) * scale, (y[i] - top) * scale];
    const [dx, dy] = [bx - ax, by - ay];
    const square = dx * dx + dy * dy;
    const y0 = Math.max(0, Math.floor(Math.min(ay, by) - r));
    const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + r));
    const x0 = Math.max(0, Math.floor(Math.min(ax, bx) - r));
    const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + r));
    for (let py = y0; py <= y1; py++) {
      const v = py + 0.5 - ay;
      // Of a slanted stitch only the stretch of the row that its thread can reach.
      let [low, high] = [x0, x1];
      if (Math.abs(dy) > 1e-6) {
        const middle = ax + (v * dx) / dy;
        const reach = (r * Math.sqrt(square)) / Math.abs(dy) + 1;
        low = Math.max(low, Math.floor(middle - reach));
        high = Math.min(high, Math.ceil(middle + reach));
      }
      for (let px = low; px <= high; px++) {
        const u = px + 0.5 - ax;
        const t = square === 0 ? 0 : Math.min(1, Math.max(0, (u * dx + v * dy) / square));
        const ex = u - dx * t;
        const ey = v - dy * t;
        if (ex * ex + ey * ey <= r * r) covered[py * width + px] = 1;
      }
    }
  }
  return covered;
}
