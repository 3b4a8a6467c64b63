import type { Point } from '../geometry/vector.js';

/** A map from one plane to another as a camera sees it: three rows of three numbers. */
export type Overlay = readonly number[];

/**
 * The map that leads four places to four others.
 * @throws RangeError where three of the places lie on a line
 */
export function overlayOf(from: readonly Point[], to: readonly Point[]): Overlay {
  // Two equations a place: x' (g x + h y + 1) = a x + b y + c, and the same for y'.
  const rows: number[][] = [];
  for (let k = 0; k < 4; k++) {
    const [{ x, y }, { x: u, y: v }] = [from[k], to[k]];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  return [...solve(rows), 1];
}

/** Where a map leads a place. */
export function laidAt(m: Overlay, x: number, y: number): Point {
  const w = m[6] * x + m[7] * y + m[8];
  return { x: (m[0] * x + m[1] * y + m[2]) / w, y: (m[3] * x + m[4] * y + m[5]) / w };
}

/** Length in the other plane of one unit around a place, over all directions. */
export function scaleAt(m: Overlay, x: number, y: number): number {
  const [o, a, b] = [laidAt(m, x, y), laidAt(m, x + 1e-3, y), laidAt(m, x, y + 1e-3)];
  return Math.sqrt(Math.abs((a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x))) * 1e3;
}

/** Solves equations whose last column is the right side, by elimination with the largest pivot. */
export function solve(rows: number[][]): number[] {
  const n = rows.length;
  for (let k = 0; k < n; k++) {
    let best = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(rows[i][k]) > Math.abs(rows[best][k])) best = i;
    [rows[k], rows[best]] = [rows[best], rows[k]];
    const pivot = rows[k][k];
    if (Math.abs(pivot) < 1e-9) throw new RangeError('the places lie on one line');
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const by = rows[i][k] / pivot;
      for (let j = k; j <= n; j++) rows[i][j] -= by * rows[k][j];
    }
  }
  return rows.map((row, k) => row[n] / row[k]);
}
