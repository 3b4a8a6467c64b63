import { boundsOf, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { ringCoverage } from './coverage.js';

/** A grid of square cells over a part of the plane. */
export interface Grid {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
  /** Cells for one unit. */
  readonly scale: number;
  /** All that is asked for: cells outside it are not visited, those on its edge are; the whole where nothing is said. */
  readonly part?: Bounds;
}

/** Visits the cells of a grid that lie at least partly inside some rings, with their coverage of 1 to 255. */
export function paintRings(
  rings: readonly Points[],
  grid: Grid,
  visit: (cell: number, coverage: number) => void,
): void {
  const { left, top, scale, part } = grid;
  const box = part ?? boundsOf(rings);
  const x0 = Math.max(0, Math.floor((box.left - left) * scale));
  const y0 = Math.max(0, Math.floor((box.top - top) * scale));
  const width = Math.min(grid.width, Math.ceil((box.right - left) * scale) + 1) - x0;
  const height = Math.min(grid.height, Math.ceil((box.bottom - top) * scale) + 1) - y0;
  if (width <= 0 || height <= 0) return;
  const placed = rings.map((ring) =>
    ring.map((v, k) => (k % 2 === 0 ? (v - left) * scale - x0 : (v - top) * scale - y0)),
  );
  const coverage = ringCoverage(placed, width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const covered = coverage[y * width + x];
      if (covered > 0) visit((y + y0) * grid.width + x + x0, covered);
    }
  }
}
