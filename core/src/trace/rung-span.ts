import type { SegmentGrid } from '../geometry/segment-grid.js';

/** Mitred halves reach this far over the bisector. */
const MITRE_OVERLAP = 0.12;

/** The part of a line across that lies in the shape: around the spine or, where that has left the shape, beside it. */
export function spanAcross(
  grid: SegmentGrid,
  inside: (x: number, y: number) => boolean,
  x: number,
  y: number,
  nx: number,
  ny: number,
  reach: number,
): [number, number] | undefined {
  const cuts = grid.crossings(x, y, nx, ny, reach);
  if (inside(x, y)) {
    let from = -reach;
    let to = reach;
    for (const t of cuts) {
      if (t <= 0 && t > from) from = t;
      if (t > 0 && t < to) to = t;
    }
    // The mask is coarser than the outline: a place it holds for inside may lie just outside, at a thin tip.
    const isOpen = (t: number): boolean => Math.abs(t) === reach && !inside(x + nx * t, y + ny * t);
    if (!isOpen(from) && !isOpen(to)) return [from, to];
  }
  cuts.sort((a, b) => a - b);
  let best: [number, number] | undefined;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const middle = (cuts[i] + cuts[i + 1]) / 2;
    if (!inside(x + nx * middle, y + ny * middle)) continue;
    if (!best || Math.abs(middle) < Math.abs((best[0] + best[1]) / 2)) best = [cuts[i], cuts[i + 1]];
  }
  return best;
}

/** Keeps of a rung what lies on its side of a corner's bisector, and a little more. */
export function behindMitre(
  mitre: { x: number; y: number; nx: number; ny: number },
  x: number,
  y: number,
  nx: number,
  ny: number,
  from: number,
  to: number,
): [number, number] {
  const [bx, by] = [-mitre.nx, -mitre.ny];
  const base = (x - mitre.x) * bx + (y - mitre.y) * by;
  const slope = nx * bx + ny * by;
  // Kept where base + t * slope >= -overlap.
  if (Math.abs(slope) < 1e-6) return base >= -MITRE_OVERLAP ? [from, to] : [0, 0];
  const t = (-MITRE_OVERLAP - base) / slope;
  return slope > 0 ? [Math.max(from, t), to] : [from, Math.min(to, t)];
}
