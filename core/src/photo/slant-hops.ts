import { distance, type Points } from '../geometry/vector.js';

/** Neither needle point of a stitch is moved farther than this along its line, in mm. */
const FARTHEST_MM = 0.3;

/**
 * Lengthens short stitches from a line to its neighbour by slanting them. Where the needle turns back one line ends a little
 * later and the other begins as much later, so that together they end where they did; where it goes on the same way both
 * leave or take up as much.
 * @param points x, y by turns, changed in place
 * @param leastMm shortest stitch that is left as it is
 */
export function slantHops(points: Points, leastMm: number): void {
  for (let i = 2; i + 5 < points.length; i += 2) {
    const dx = points[i + 2] - points[i];
    const dy = points[i + 3] - points[i + 1];
    const square = dx * dx + dy * dy;
    if (square >= leastMm * leastMm) continue;
    const before = distance(points[i - 2], points[i - 1], points[i], points[i + 1]);
    const after = distance(points[i + 2], points[i + 3], points[i + 4], points[i + 5]);
    // A line that is short itself keeps its ends.
    const first = before >= leastMm + FARTHEST_MM ? 1 / before : 0;
    const second = after >= leastMm + FARTHEST_MM ? 1 / after : 0;
    if (first === 0 && second === 0) continue;
    const ax = (points[i] - points[i - 2]) * first;
    const ay = (points[i + 1] - points[i - 1]) * first;
    const bx = (points[i + 4] - points[i + 2]) * second;
    const by = (points[i + 5] - points[i + 3]) * second;
    const turns = ax * bx + ay * by > 0 ? -1 : 1;
    // How the stitch changes with every millimetre: its end moves along the second line, its beginning along the first.
    const vx = bx - turns * ax;
    const vy = by - turns * ay;
    const vv = vx * vx + vy * vy;
    const dv = dx * vx + dy * vy;
    const root = Math.sqrt(dv * dv + vv * (leastMm * leastMm - square));
    const by1 = (root - dv) / vv;
    const by2 = (-root - dv) / vv;
    const wanted = Math.abs(by1) <= Math.abs(by2) ? by1 : by2;
    const move = Math.max(-FARTHEST_MM, Math.min(FARTHEST_MM, wanted));
    points[i] += ax * move * turns;
    points[i + 1] += ay * move * turns;
    points[i + 2] += bx * move;
    points[i + 3] += by * move;
  }
}
