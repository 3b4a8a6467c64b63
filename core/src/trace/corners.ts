import type { Points } from '../geometry/vector.js';

const SUPPORT = 5;
const TURN = 38;
const SHARP_TURN = 75;
const KEPT_AT_HALF = 0.6;

/**
 * Finds the corners of a run of points about one pixel apart and moves each onto the crossing of the lines fitted
 * to both its sides. Changes `points`; returns the indices of the corners, ends of an open run not counted.
 * @param sharpness 1 is normal; larger finds more corners, smaller fewer.
 */
export function findCorners(points: Points, closed: boolean, sharpness: number): number[] {
  const n = points.length / 2;
  const least = TURN / Math.max(0.05, sharpness);
  if (n < (closed ? 8 : 5)) return [];
  const turns = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const reach = closed ? Math.min(SUPPORT, Math.floor(n / 4)) : Math.min(SUPPORT, i, n - 1 - i);
    if (reach < 2) continue;
    const wide = turnAt(points, n, i, reach);
    if (wide < least) continue;
    const narrow = turnAt(points, n, i, Math.max(1, Math.floor(reach / 2)));
    if (narrow >= KEPT_AT_HALF * wide || wide >= SHARP_TURN) turns[i] = wide;
  }
  const corners: number[] = [];
  for (let i = 0; i < n; i++) {
    if (turns[i] === 0) continue;
    let highest = true;
    for (let d = 1; d <= SUPPORT && highest; d++) {
      const before = closed ? turns[(i - d + n) % n] : i - d >= 0 ? turns[i - d] : 0;
      const after = closed ? turns[(i + d) % n] : i + d < n ? turns[i + d] : 0;
      // Of equal neighbours the earlier one stays.
      if (before >= turns[i] || after > turns[i]) highest = false;
    }
    if (highest) corners.push(i);
  }
  const moved = corners.map((i) => crossing(points, n, i, closed));
  moved.forEach((place, k) => {
    if (!place) return;
    points[corners[k] * 2] = place[0];
    points[corners[k] * 2 + 1] = place[1];
  });
  return corners;
}

function turnAt(points: Points, n: number, i: number, reach: number): number {
  const a = ((i - reach + n) % n) * 2;
  const b = ((i + reach) % n) * 2;
  const ux = points[i * 2] - points[a];
  const uy = points[i * 2 + 1] - points[a + 1];
  const vx = points[b] - points[i * 2];
  const vy = points[b + 1] - points[i * 2 + 1];
  const angle = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
  return Math.abs(Math.fround((angle * 180) / Math.PI));
}

/** Where the lines through the points on both sides meet, if that is near the corner. */
function crossing(points: Points, n: number, i: number, closed: boolean): [number, number] | undefined {
  const before = sideLine(points, n, i, -1, closed);
  const after = sideLine(points, n, i, 1, closed);
  if (!before || !after) return undefined;
  const cross = before.dx * after.dy - before.dy * after.dx;
  if (Math.abs(cross) < 0.2) return undefined;
  const t = ((after.x - before.x) * after.dy - (after.y - before.y) * after.dx) / cross;
  const x = before.x + t * before.dx;
  const y = before.y + t * before.dy;
  const gap = (x - points[i * 2]) ** 2 + (y - points[i * 2 + 1]) ** 2;
  return gap <= 4 ? [x, y] : undefined;
}

interface Line {
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/** Total least-squares line through the second to sixth point on one side. */
function sideLine(points: Points, n: number, i: number, side: 1 | -1, closed: boolean): Line | undefined {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let d = 2; d <= 6; d++) {
    const k = i + side * d;
    if (!closed && (k < 0 || k >= n)) break;
    const at = ((k + n) % n) * 2;
    xs.push(points[at]);
    ys.push(points[at + 1]);
  }
  if (xs.length < 3) return undefined;
  const mx = xs.reduce((s, v) => s + v, 0) / xs.length;
  const my = ys.reduce((s, v) => s + v, 0) / ys.length;
  let sxx = 0;
  let sxy = 0;
  let syy = 0;
  for (let k = 0; k < xs.length; k++) {
    sxx += (xs[k] - mx) ** 2;
    sxy += (xs[k] - mx) * (ys[k] - my);
    syy += (ys[k] - my) ** 2;
  }
  // The larger eigenvector of a symmetric 2 x 2 matrix, without trigonometry.
  const half = (sxx - syy) / 2;
  const root = Math.sqrt(half * half + sxy * sxy);
  let dx = half + root;
  let dy = sxy;
  if (dx * dx + dy * dy < 1e-12) {
    dx = sxx >= syy ? 1 : 0;
    dy = sxx >= syy ? 0 : 1;
  }
  const length = Math.sqrt(dx * dx + dy * dy);
  return { x: mx, y: my, dx: dx / length, dy: dy / length };
}
