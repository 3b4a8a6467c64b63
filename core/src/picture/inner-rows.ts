import type { Points } from '../geometry/vector.js';
import type { Grid } from './paint-rings.js';

/**
 * Visits the cells of a grid whose middles lie inside some rings under the even-odd rule, in stretches along its rows.
 * @param visit first cell of a stretch, and the one after its last
 */
export function innerRows(
  rings: readonly Points[],
  { width, height, left, top, scale }: Omit<Grid, 'part'>,
  visit: (from: number, to: number) => void,
): void {
  const crossings: number[][] = [];
  let first = height;
  for (const ring of rings) {
    // Middles of cells lie on whole numbers then.
    let ax = (ring[ring.length - 2] - left) * scale - 0.5;
    let ay = (ring[ring.length - 1] - top) * scale - 0.5;
    for (let i = 0; i < ring.length; i += 2) {
      const bx = (ring[i] - left) * scale - 0.5;
      const by = (ring[i + 1] - top) * scale - 0.5;
      // A row is crossed by an edge that begins on or above it and ends below it.
      const from = Math.max(0, Math.ceil(Math.min(ay, by)));
      const to = Math.min(height, Math.ceil(Math.max(ay, by)));
      if (from < to) first = Math.min(first, from);
      for (let y = from; y < to; y++) (crossings[y] ??= []).push(ax + ((y - ay) / (by - ay)) * (bx - ax));
      [ax, ay] = [bx, by];
    }
  }
  for (let y = first; y < crossings.length; y++) {
    const xs = crossings.at(y)?.sort((a, b) => a - b) ?? [];
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const from = Math.max(0, Math.ceil(xs[k]));
      const to = Math.min(width, Math.ceil(xs[k + 1]));
      if (from < to) visit(y * width + from, y * width + to);
    }
  }
}
