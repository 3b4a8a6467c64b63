import { boundsOf, distanceToRings, distanceToSegment, isInside } from '../geometry/polyline.js';
import type { Rings } from '../geometry/polygons.js';
import type { Points } from '../geometry/vector.js';

/** How well runs of stitches cover a shape. */
export interface Coverage {
  /** Share of the shape's area under thread 0.4 mm wide. */
  readonly covered: number;
  /** How far the farthest needle point lies outside, in mm. */
  readonly outside: number;
}

const THREAD = 0.4;
const GRID = 0.1;

/** Lays thread over a grid of sample points and counts those inside the shape that it covers. */
export function coverageOf(rings: Rings, runs: readonly Points[]): Coverage {
  const box = boundsOf(rings);
  const columns = Math.ceil((box.right - box.left) / GRID) + 1;
  const rows = Math.ceil((box.bottom - box.top) / GRID) + 1;
  const covered = new Uint8Array(columns * rows);
  let outside = 0;
  for (const run of runs) {
    for (let i = 0; i < run.length; i += 2) {
      if (!isInside(rings, run[i], run[i + 1])) {
        outside = Math.max(outside, distanceToRings(rings, run[i], run[i + 1]));
      }
      if (i === 0) continue;
      const [ax, ay, bx, by] = [run[i - 2], run[i - 1], run[i], run[i + 1]];
      const c0 = Math.max(0, Math.floor((Math.min(ax, bx) - THREAD - box.left) / GRID));
      const c1 = Math.min(columns - 1, Math.ceil((Math.max(ax, bx) + THREAD - box.left) / GRID));
      const r0 = Math.max(0, Math.floor((Math.min(ay, by) - THREAD - box.top) / GRID));
      const r1 = Math.min(rows - 1, Math.ceil((Math.max(ay, by) + THREAD - box.top) / GRID));
      for (let r = r0; r <= r1; r++) {
        for (let c = c0; c <= c1; c++) {
          const x = box.left + (c + 0.5) * GRID;
          const y = box.top + (r + 0.5) * GRID;
          if (distanceToSegment(x, y, ax, ay, bx, by) <= THREAD / 2) covered[r * columns + c] = 1;
        }
      }
    }
  }
  let inside = 0;
  let hit = 0;
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      if (!isInside(rings, box.left + (c + 0.5) * GRID, box.top + (r + 0.5) * GRID)) continue;
      inside++;
      hit += covered[r * columns + c];
    }
  }
  return { covered: inside > 0 ? hit / inside : 1, outside };
}

/** Lengths of the stitches of runs. */
export function stitchLengths(runs: readonly Points[]): number[] {
  return runs.flatMap((run) => {
    const out: number[] = [];
    for (let i = 2; i < run.length; i += 2) {
      out.push(Math.sqrt((run[i] - run[i - 2]) ** 2 + (run[i + 1] - run[i - 1]) ** 2));
    }
    return out;
  });
}
