import type { Lattice } from './lattice.js';

/** Range of L* along a row, on both sides of a cell, from which on there is detail. */
const DETAIL = 4;
/** Cells on either side that are looked at, and how far apart. */
const AROUND = 10;
const EVERY = 5;

/**
 * How many cells of a row a line has at least. Where a picture is even along the row, long lines mix as well as short ones,
 * and a thread that is seen here and there lies straight instead of winding from one short line to the next. What changes from
 * row to row takes nothing from a line.
 * @param soft the picture as the eye mixes it, linear r, g, b of every cell
 * @param fine cells where there is detail
 * @param even cells where there is none
 */
export function leastLines({ cols, rows }: Lattice, soft: Float32Array, fine: number, even: number): Uint8Array {
  const out = new Uint8Array(cols * rows).fill(fine);
  if (even <= fine) return out;
  const light = Float32Array.from(
    out,
    (_, i) => 116 * Math.cbrt(0.2126 * soft[i * 3] + 0.7152 * soft[i * 3 + 1] + 0.0722 * soft[i * 3 + 2]),
  );
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      let [low, high] = [Infinity, -Infinity];
      for (let dx = -AROUND; dx <= AROUND; dx += EVERY) {
        const l = light[r * cols + Math.min(cols - 1, Math.max(0, c + dx))];
        if (l < low) low = l;
        if (l > high) high = l;
      }
      out[r * cols + c] = Math.round(fine + (even - fine) * Math.max(0, 1 - (high - low) / DETAIL));
    }
  }
  return out;
}

/** By how much of a line the first one of a row is longer than the shortest, row by row: bricks of quarters. */
const BRICKS = [0, 0.5, 0.25, 0.75];

/** Cells of the first line of a row, between the fewest a line has anywhere and those it has here. */
export function firstLine(row: number, fewest: number, least: number): number {
  return fewest + Math.round((least - fewest) * BRICKS[row % BRICKS.length]);
}
