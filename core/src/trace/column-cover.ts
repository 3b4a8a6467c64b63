import { distance } from '../geometry/vector.js';
import type { AreaMask } from './area-mask.js';
import type { Column } from './column.js';

/** Area between the rungs of a column. */
export function ladderArea({ rungs, closed }: Column): number {
  const n = rungs.length / 4;
  let sum = 0;
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const p = i * 4;
    const q = ((i + 1) % n) * 4;
    const [ax, ay, bx, by] = [rungs[p], rungs[p + 1], rungs[p + 2], rungs[p + 3]];
    const [cx, cy, dx, dy] = [rungs[q], rungs[q + 1], rungs[q + 2], rungs[q + 3]];
    // Half the cross product of the diagonals.
    sum += Math.abs((dx - ax) * (cy - by) - (dy - ay) * (cx - bx)) / 2;
  }
  return sum;
}

/** Pixels of the mask that lie between neighbouring rungs of some column, or beside them by less than a thread. */
export function coveredBy(mask: AreaMask, columns: readonly Column[]): Uint8Array {
  const { width, height, inside, left, top, scale } = mask;
  const done = new Uint8Array(inside.length);
  const mark = (x: number, y: number): void => {
    const px = Math.floor((x - left) * scale);
    const py = Math.floor((y - top) * scale);
    if (px < 0 || py < 0 || px >= width || py >= height) return;
    done[py * width + px] = 1;
  };
  for (const { rungs, closed } of columns) {
    const n = rungs.length / 4;
    for (let i = 0; i < (closed ? n : n - 1); i++) {
      const p = i * 4;
      const q = ((i + 1) % n) * 4;
      const gap = Math.max(
        distance(rungs[p], rungs[p + 1], rungs[q], rungs[q + 1]),
        distance(rungs[p + 2], rungs[p + 3], rungs[q + 2], rungs[q + 3]),
      );
      const steps = Math.max(1, Math.ceil(gap * scale * 1.5));
      for (let k = 0; k < steps; k++) {
        const t = k / steps;
        const ax = rungs[p] + (rungs[q] - rungs[p]) * t;
        const ay = rungs[p + 1] + (rungs[q + 1] - rungs[p + 1]) * t;
        const bx = rungs[p + 2] + (rungs[q + 2] - rungs[p + 2]) * t;
        const by = rungs[p + 3] + (rungs[q + 3] - rungs[p + 3]) * t;
        const marks = Math.max(1, Math.ceil(distance(ax, ay, bx, by) * scale * 1.5));
        for (let m = 0; m <= marks; m++) mark(ax + ((bx - ax) * m) / marks, ay + ((by - ay) * m) / marks);
      }
    }
  }
  const out = new Uint8Array(inside.length);
  for (let i = 0; i < inside.length; i++) {
    if (inside[i] && (done[i] || done[i - 1] || done[i + 1] || done[i - width] || done[i + width])) out[i] = 1;
  }
  return out;
}

/** Share of the mask's pixels that are covered. */
export function shareOf(mask: AreaMask, covered: Uint8Array): number {
  let hit = 0;
  for (const pixel of covered) hit += pixel;
  return mask.area > 0 ? hit / mask.area : 0;
}
