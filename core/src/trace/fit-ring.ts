import type { Curve } from '../geometry/curve.js';
import type { Points } from '../geometry/vector.js';
import { fitCurve } from './fit.js';

/** A ring that turns by more than this at a point has a corner there: the cosine of 25 degrees. */
const CORNER_COSINE = 0.906;
const TOLERANCE_MM = 0.03;

/** A closed curve of few points through a ring of many, its corners kept. */
export function fitRing(ring: Points, tolerance = TOLERANCE_MM): Curve {
  const n = ring.length / 2;
  const corners: number[] = [];
  for (let i = 0; i < n; i++) {
    const [x0, y0] = [ring[((i + n - 1) % n) * 2], ring[((i + n - 1) % n) * 2 + 1]];
    const [x1, y1] = [ring[i * 2], ring[i * 2 + 1]];
    const [x2, y2] = [ring[((i + 1) % n) * 2], ring[((i + 1) % n) * 2 + 1]];
    const [ax, ay, bx, by] = [x1 - x0, y1 - y0, x2 - x1, y2 - y1];
    const lengths = Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
    if (lengths > 0 && (ax * bx + ay * by) / lengths < CORNER_COSINE) corners.push(i);
  }
  return fitCurve(ring, corners, true, tolerance);
}
