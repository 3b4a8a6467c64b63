import type { Curve } from '../geometry/curve.js';
import { distance, distanceToLine, type Points } from '../geometry/vector.js';

const REPARAMETRISATIONS = 5;

/**
 * Fits straight lines and cubic curves through a run of points, off by at most `tolerance` (Schneider 1990):
 * a line where one is enough, else a least-squares cubic, else two parts that share a tangent.
 * The run is fitted between `breaks` (indices of corners), which stay sharp; `closed` runs end where they start.
 */
export function fitCurve(points: Points, breaks: readonly number[], closed: boolean, tolerance: number): Curve {
  const n = points.length / 2;
  const out: Builder = { points: [], kinds: [] };
  if (!closed) {
    out.points.push(points[0], points[1]);
    const stops = [0, ...breaks.filter((i) => i > 0 && i < n - 1), n - 1];
    for (let s = 1; s < stops.length; s++) fitPart(points, stops[s - 1], stops[s], tolerance, out);
    return out;
  }
  // A closed run starts at a corner if it has one; with fewer than two it is halved so that no part closes on itself.
  const start = breaks[0] ?? 0;
  const turned: Points = [];
  for (let i = 0; i <= n; i++) {
    const at = ((start + i) % n) * 2;
    turned.push(points[at], points[at + 1]);
  }
  const inner = breaks.slice(1).map((i) => i - start);
  const smooth = breaks.length === 0;
  const stops = [0, ...(inner.length > 0 ? inner : [Math.floor(n / 2)]), n];
  out.points.push(turned[0], turned[1]);
  for (let s = 1; s < stops.length; s++) {
    const from = stops[s - 1];
    const to = stops[s];
    const halved = inner.length === 0;
    const before =
      smooth && from === 0 ? tangentAcross(turned, n, 0) : halved && from > 0 ? tangentAt(turned, from) : undefined;
    const after =
      smooth && to === n
        ? negate(tangentAcross(turned, n, 0))
        : halved && to < n
          ? negate(tangentAt(turned, to))
          : undefined;
    fitPart(turned, from, to, tolerance, out, before, after);
  }
  // The first point again, exactly: rounding in the fit must not leave the ring open.
  out.points[out.points.length - 2] = out.points[0];
  out.points[out.points.length - 1] = out.points[1];
  return out;
}

interface Builder {
  points: number[];
  kinds: ('L' | 'C')[];
}

type Vector = readonly [number, number];

const negate = (v: Vector): Vector => [-v[0], -v[1]];

function unit(x: number, y: number): Vector {
  const length = Math.sqrt(x * x + y * y);
  return length === 0 ? [1, 0] : [x / length, y / length];
}

/** Direction from a point to those a little further on (`side` 1) or back (-1). */
function endTangent(points: Points, at: number, side: 1 | -1, limit: number): Vector {
  const reach = Math.min(3, Math.abs(limit - at));
  const k = at + side * Math.max(1, reach);
  return unit(points[k * 2] - points[at * 2], points[k * 2 + 1] - points[at * 2 + 1]);
}

function tangentAt(points: Points, at: number): Vector {
  const last = points.length / 2 - 1;
  const a = Math.max(0, at - 2);
  const b = Math.min(last, at + 2);
  return unit(points[b * 2] - points[a * 2], points[b * 2 + 1] - points[a * 2 + 1]);
}

function tangentAcross(points: Points, n: number, at: number): Vector {
  const a = (at - 2 + n) % n;
  const b = (at + 2) % n;
  return unit(points[b * 2] - points[a * 2], points[b * 2 + 1] - points[a * 2 + 1]);
}

function fitPart(
  points: Points,
  from: number,
  to: number,
  tolerance: number,
  out: Builder,
  startTangent?: Vector,
  endTangentGiven?: Vector,
): void {
  if (to <= from) return;
  if (isStraight(points, from, to, tolerance)) {
    out.points.push(points[to * 2], points[to * 2 + 1]);
    out.kinds.push('L');
    return;
  }
  const t0 = startTangent ?? endTangent(points, from, 1, to);
  const t1 = endTangentGiven ?? endTangent(points, to, -1, from);
  let u = chordLengths(points, from, to);
  let cubic = leastSquares(points, from, to, u, t0, t1);
  let worst = worstGap(points, from, to, u, cubic);
  for (let i = 0; i < REPARAMETRISATIONS && worst.gap > tolerance && worst.gap < tolerance * 4; i++) {
    u = reparametrise(points, from, u, cubic);
    cubic = leastSquares(points, from, to, u, t0, t1);
    worst = worstGap(points, from, to, u, cubic);
  }
  if (worst.gap <= tolerance || to - from < 3) {
    out.points.push(...cubic.slice(2));
    out.kinds.push('C');
    return;
  }
  const split = Math.min(to - 1, Math.max(from + 1, worst.at));
  const tangent = tangentAt(points, split);
  fitPart(points, from, split, tolerance, out, t0, negate(tangent));
  fitPart(points, split, to, tolerance, out, tangent, t1);
}

function isStraight(points: Points, from: number, to: number, tolerance: number): boolean {
  for (let i = from + 1; i < to; i++) {
    const gap = distanceToLine(
      points[i * 2],
      points[i * 2 + 1],
      points[from * 2],
      points[from * 2 + 1],
      points[to * 2],
      points[to * 2 + 1],
    );
    if (gap > tolerance) return false;
  }
  return true;
}

function chordLengths(points: Points, from: number, to: number): Float64Array {
  const u = new Float64Array(to - from + 1);
  for (let i = from + 1; i <= to; i++) {
    u[i - from] = u[i - from - 1] + distance(points[i * 2 - 2], points[i * 2 - 1], points[i * 2], points[i * 2 + 1]);
  }
  const total = u[to - from] || 1;
  for (let i = 0; i < u.length; i++) u[i] /= total;
  return u;
}

function leastSquares(points: Points, from: number, to: number, u: Float64Array, t0: Vector, t1: Vector): number[] {
  const [x0, y0, x3, y3] = [points[from * 2], points[from * 2 + 1], points[to * 2], points[to * 2 + 1]];
  let c00 = 0;
  let c01 = 0;
  let c11 = 0;
  let r0 = 0;
  let r1 = 0;
  for (let i = 0; i < u.length; i++) {
    const t = u[i];
    const s = 1 - t;
    const b0 = s * s * s;
    const b1 = 3 * s * s * t;
    const b2 = 3 * s * t * t;
    const b3 = t * t * t;
    const ax = t0[0] * b1;
    const ay = t0[1] * b1;
    const bx = t1[0] * b2;
    const by = t1[1] * b2;
    c00 += ax * ax + ay * ay;
    c01 += ax * bx + ay * by;
    c11 += bx * bx + by * by;
    const dx = points[(from + i) * 2] - (x0 * (b0 + b1) + x3 * (b2 + b3));
    const dy = points[(from + i) * 2 + 1] - (y0 * (b0 + b1) + y3 * (b2 + b3));
    r0 += ax * dx + ay * dy;
    r1 += bx * dx + by * dy;
  }
  const det = c00 * c11 - c01 * c01;
  const chord = distance(x0, y0, x3, y3);
  let a = det > 1e-9 ? (r0 * c11 - r1 * c01) / det : 0;
  let b = det > 1e-9 ? (c00 * r1 - c01 * r0) / det : 0;
  // Handles that point backwards or far out make loops; a third of the chord is safe.
  const run = chord > 0 ? chord : 1;
  if (a < run * 0.02 || a > run * 3) a = run / 3;
  if (b < run * 0.02 || b > run * 3) b = run / 3;
  return [x0, y0, x0 + t0[0] * a, y0 + t0[1] * a, x3 + t1[0] * b, y3 + t1[1] * b, x3, y3];
}

function pointOn(c: number[], t: number): Vector {
  const s = 1 - t;
  const b0 = s * s * s;
  const b1 = 3 * s * s * t;
  const b2 = 3 * s * t * t;
  const b3 = t * t * t;
  return [b0 * c[0] + b1 * c[2] + b2 * c[4] + b3 * c[6], b0 * c[1] + b1 * c[3] + b2 * c[5] + b3 * c[7]];
}

function worstGap(
  points: Points,
  from: number,
  to: number,
  u: Float64Array,
  cubic: number[],
): { gap: number; at: number } {
  let square = 0;
  let at = (from + to) >> 1;
  for (let i = from + 1; i < to; i++) {
    const [x, y] = pointOn(cubic, u[i - from]);
    const d = (x - points[i * 2]) ** 2 + (y - points[i * 2 + 1]) ** 2;
    if (d > square) {
      square = d;
      at = i;
    }
  }
  return { gap: Math.sqrt(square), at };
}

/** One Newton step per point towards its nearest place on the curve. */
function reparametrise(points: Points, from: number, u: Float64Array, c: number[]): Float64Array {
  const out = new Float64Array(u.length);
  for (let i = 0; i < u.length; i++) {
    const t = u[i];
    const s = 1 - t;
    const [x, y] = pointOn(c, t);
    const d1x = 3 * (s * s * (c[2] - c[0]) + 2 * s * t * (c[4] - c[2]) + t * t * (c[6] - c[4]));
    const d1y = 3 * (s * s * (c[3] - c[1]) + 2 * s * t * (c[5] - c[3]) + t * t * (c[7] - c[5]));
    const d2x = 6 * (s * (c[4] - 2 * c[2] + c[0]) + t * (c[6] - 2 * c[4] + c[2]));
    const d2y = 6 * (s * (c[5] - 2 * c[3] + c[1]) + t * (c[7] - 2 * c[5] + c[3]));
    const ex = x - points[(from + i) * 2];
    const ey = y - points[(from + i) * 2 + 1];
    const bottom = d1x * d1x + d1y * d1y + ex * d2x + ey * d2y;
    const next = Math.abs(bottom) < 1e-9 ? t : t - (ex * d1x + ey * d1y) / bottom;
    out[i] = next < 0 ? 0 : next > 1 ? 1 : next;
  }
  return out;
}
