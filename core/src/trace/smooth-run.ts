import type { Curve } from '../geometry/curve.js';
import { distance, type Points } from '../geometry/vector.js';
import { findCorners } from './corners.js';
import { fitCurve } from './fit.js';

/** Distance between the points a run drawn by hand is taken apart into, in pixels of the screen. */
const STEP = 2;
const SMOOTHINGS = 4;

/**
 * Smooths a run drawn freely by hand into few curves; its corners stay.
 * @param run in pixels of the screen
 * @param tolerance how far the curves may leave the smoothed run, in the same pixels
 */
export function smoothRun(run: Points, closed: boolean, tolerance: number): Curve {
  let points = evenly(run, STEP);
  for (let i = 0; i < SMOOTHINGS; i++) points = blur(points, closed);
  if (points.length < 8) return { points: [...run.slice(0, 2), ...run.slice(-2)], kinds: ['L'] };
  const corners = findCorners(points, closed, 0.8);
  return fitCurve(points, corners, closed, tolerance);
}

function evenly(run: Points, step: number): Points {
  const out: Points = run.slice(0, 2);
  for (let i = 2; i < run.length; i += 2) {
    const n = out.length;
    const gap = distance(out[n - 2], out[n - 1], run[i], run[i + 1]);
    const parts = Math.floor(gap / step);
    const [x, y] = [out[n - 2], out[n - 1]];
    for (let k = 1; k <= parts; k++) {
      out.push(x + ((run[i] - x) * k * step) / gap, y + ((run[i + 1] - y) * k * step) / gap);
    }
  }
  return out;
}

function blur(points: Points, closed: boolean): Points {
  const n = points.length / 2;
  const out = points.slice();
  for (let i = closed ? 0 : 1; i < (closed ? n : n - 1); i++) {
    const p = ((i + n - 1) % n) * 2;
    const q = ((i + 1) % n) * 2;
    out[i * 2] = (points[p] + 2 * points[i * 2] + points[q]) / 4;
    out[i * 2 + 1] = (points[p + 1] + 2 * points[i * 2 + 1] + points[q + 1]) / 4;
  }
  return out;
}
