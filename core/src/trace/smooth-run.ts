import type { Curve } from '../geometry/curve.js';
import { blur, evenly } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
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
