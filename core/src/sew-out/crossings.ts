import type { Points } from '../geometry/vector.js';

/**
 * Where a line crosses rings, as ways along it from its start, the least first.
 * @param ux direction of the line, a unit vector with uy
 */
export function crossings(rings: readonly Points[], x: number, y: number, ux: number, uy: number): number[] {
  const out: number[] = [];
  for (const ring of rings) {
    const n = ring.length;
    for (let i = 0; i < n; i += 2) {
      const j = (i + 2) % n;
      // Sides of the line: its normal is (-uy, ux).
      const a = (ring[i + 1] - y) * ux - (ring[i] - x) * uy;
      const b = (ring[j + 1] - y) * ux - (ring[j] - x) * uy;
      if (a > 0 === b > 0) continue;
      const t = a / (a - b);
      const px = ring[i] + (ring[j] - ring[i]) * t;
      const py = ring[i + 1] + (ring[j + 1] - ring[i + 1]) * t;
      out.push((px - x) * ux + (py - y) * uy);
    }
  }
  return out.sort((p, q) => p - q);
}
