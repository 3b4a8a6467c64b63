import type { Points } from './vector.js';

/** Middle of some places, and the direction along which they lie farthest apart, as a unit vector. */
export function principalAxis(places: Points): { x: number; y: number; dx: number; dy: number } {
  const n = Math.max(1, places.length / 2);
  let [sx, sy] = [0, 0];
  for (let i = 0; i < places.length; i += 2) {
    sx += places[i];
    sy += places[i + 1];
  }
  const [x, y] = [sx / n, sy / n];
  let [xx, xy, yy] = [0, 0, 0];
  for (let i = 0; i < places.length; i += 2) {
    xx += (places[i] - x) ** 2;
    xy += (places[i] - x) * (places[i + 1] - y);
    yy += (places[i + 1] - y) ** 2;
  }
  // The axis of the larger of the two moments.
  const half = (xx - yy) / 2;
  let dx = half + Math.sqrt(half * half + xy * xy);
  let dy = xy;
  if (Math.abs(dx) + Math.abs(dy) < 1e-9) [dx, dy] = half >= 0 ? [1, 0] : [0, 1];
  const length = Math.sqrt(dx * dx + dy * dy);
  return { x, y, dx: dx / length, dy: dy / length };
}
