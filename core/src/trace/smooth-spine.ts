import type { Points } from '../geometry/vector.js';
import { radiusAt, type AreaMask } from './area-mask.js';

/** Spread of the smoothing, in half-widths of the column. */
const SPREAD = 0.45;

/** Smooths a spine with a bell as wide as the column is there; the ends of an open one stay. */
export function smoothSpine(points: Points, closed: boolean, mask: AreaMask): Points {
  const n = closed ? points.length / 2 - 1 : points.length / 2;
  if (n < 5) return points;
  const out: Points = new Array<number>(n * 2);
  for (let i = 0; i < n; i++) {
    const sigma = Math.max(1, SPREAD * radiusAt(mask, points[i * 2], points[i * 2 + 1]));
    // Towards its ends an open run is smoothed less, so that they need not move.
    const most = Math.ceil(2.5 * sigma);
    const reach = closed ? Math.min(most, (n - 1) >> 1) : Math.min(most, i, n - 1 - i);
    let [x, y, sum] = [0, 0, 0];
    for (let k = -reach; k <= reach; k++) {
      const at = closed ? (i + k + n) % n : i + k;
      // Tukey's biweight is as smooth as a Gaussian, and the same number on every machine.
      const weight = (1 - (k / (most + 1)) ** 2) ** 2;
      x += points[at * 2] * weight;
      y += points[at * 2 + 1] * weight;
      sum += weight;
    }
    out[i * 2] = x / sum;
    out[i * 2 + 1] = y / sum;
  }
  if (closed) out.push(out[0], out[1]);
  return out;
}
