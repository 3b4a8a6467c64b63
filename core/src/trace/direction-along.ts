import type { Points } from '../geometry/vector.js';

/** Direction from a point of a run to where the run is `reach` away; undefined where it ends before. */
export function directionAt(
  points: Points,
  i: number,
  step: 1 | -1,
  reach: number,
  closed: boolean,
): { dx: number; dy: number } | undefined {
  const n = points.length / 2;
  let at = i;
  for (let k = 0; k < n; k++) {
    at += step;
    if (at < 0 || at >= n) {
      if (!closed) return undefined;
      at = (at + n) % n;
    }
    const dx = points[at * 2] - points[i * 2];
    const dy = points[at * 2 + 1] - points[i * 2 + 1];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length >= reach) return { dx: dx / length, dy: dy / length };
  }
  return undefined;
}
