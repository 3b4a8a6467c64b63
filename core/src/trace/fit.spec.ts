import { flatten, nodeCount } from '../geometry/curve.js';
import { distanceToSegment } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { seededRandom } from '../geometry/chance.js';
import { findCorners } from './corners.js';
import { fitCurve } from './fit.js';
import { fitRing } from './fit-ring.js';

/** Largest distance from the points of a run to a polyline. */
function farthest(points: Points, line: Points): number {
  let worst = 0;
  for (let i = 0; i < points.length; i += 2) {
    let best = Infinity;
    for (let k = 2; k < line.length; k += 2) {
      best = Math.min(
        best,
        distanceToSegment(points[i], points[i + 1], line[k - 2], line[k - 1], line[k], line[k + 1]),
      );
    }
    worst = Math.max(worst, best);
  }
  return worst;
}

function wave(n: number, size: number): Points {
  const points: Points = [];
  for (let i = 0; i < n; i++) points.push(i, size * Math.sin(i / 12));
  return points;
}

function ring(n: number, radius: number): Points {
  const points: Points = [];
  for (let i = 0; i < n; i++) {
    points.push(radius * Math.cos((i / n) * 2 * Math.PI), radius * Math.sin((i / n) * 2 * Math.PI));
  }
  return points;
}

describe('fitCurve', () => {
  it('makes one line of a straight run', () => {
    const points: Points = [];
    for (let i = 0; i <= 50; i++) points.push(i * 0.8, i * 0.3);
    expect(fitCurve(points, [], false, 0.3)).toEqual({ points: [0, 0, 40, 15], kinds: ['L'] });
  });

  it('stays within the tolerance with few pieces', () => {
    const points = wave(150, 20);
    for (const tolerance of [0.2, 0.5, 1.5]) {
      const curve = fitCurve(points, [], false, tolerance);
      expect(farthest(points, flatten(curve, 0.01))).toBeLessThan(tolerance * 1.3);
      expect(nodeCount(curve)).toBeLessThan(18);
    }
    expect(nodeCount(fitCurve(points, [], false, 1.5))).toBeLessThanOrEqual(
      nodeCount(fitCurve(points, [], false, 0.2)),
    );
  });

  it('closes rings exactly and without a kink', () => {
    const points = ring(200, 40);
    const curve = fitCurve(points, [], true, 0.3);
    expect(curve.points.slice(0, 2)).toEqual(curve.points.slice(-2));
    expect(farthest(points, flatten(curve, 0.01))).toBeLessThan(0.4);
    const [x0, y0, x1, y1] = curve.points;
    const [x2, y2] = curve.points.slice(-4, -2);
    // The handles on both sides of the closing point lie on one line.
    const cross = (x1 - x0) * (y0 - y2) - (y1 - y0) * (x0 - x2);
    expect(Math.abs(cross)).toBeLessThan(0.05 * Math.hypot(x1 - x0, y1 - y0) * Math.hypot(x0 - x2, y0 - y2));
  });

  it('keeps corners where it is told to', () => {
    const points: Points = [];
    for (let i = 0; i <= 20; i++) points.push(i, 0);
    for (let i = 1; i <= 20; i++) points.push(20, i);
    const curve = fitCurve(points, [20], false, 0.5);
    expect(curve).toEqual({ points: [0, 0, 20, 0, 20, 20], kinds: ['L', 'L'] });
  });

  it('survives whatever runs come', () => {
    const random = seededRandom(99);
    for (let round = 0; round < 200; round++) {
      const n = 2 + Math.floor(random() * 40);
      const points: Points = [];
      let [x, y] = [0, 0];
      for (let i = 0; i < n; i++) {
        points.push(x, y);
        x += random() * 2 - 0.7;
        y += random() * 2 - 1;
      }
      const closed = n > 5 && random() < 0.5;
      const curve = fitCurve(points, findCorners(points, closed, 1), closed, 0.2 + random());
      expect(curve.points.every(Number.isFinite)).toBeTrue();
      expect(curve.kinds.length).toBeGreaterThan(0);
      expect(curve.points.length).toBe(2 + curve.kinds.reduce((sum, kind) => sum + (kind === 'L' ? 2 : 6), 0));
    }
  });
});

describe('findCorners', () => {
  it('finds the corners of a square and none on a circle', () => {
    const square: Points = [];
    for (let i = 0; i < 30; i++) square.push(i, 0);
    for (let i = 0; i < 30; i++) square.push(30, i);
    for (let i = 0; i < 30; i++) square.push(30 - i, 30);
    for (let i = 0; i < 30; i++) square.push(0, 30 - i);
    expect(findCorners(square, true, 1).length).toBe(4);
    expect(findCorners(ring(150, 24), true, 1)).toEqual([]);
  });

  it('finds fewer when corners are wanted softer', () => {
    const bend: Points = [];
    for (let i = 0; i < 20; i++) bend.push(i, 0);
    for (let i = 0; i < 20; i++) bend.push(20 + i * 0.7, i * 0.7);
    expect(findCorners(bend, false, 1).length).toBe(1);
    expect(findCorners(bend, false, 0.5).length).toBe(0);
  });
});

describe('fitRing', () => {
  it('keeps corners and rounds, in few points', () => {
    const ring: Points = [0, 0, 20, 0, 20, 10];
    // A half circle back to the beginning.
    for (let i = 1; i < 60; i++) {
      const t = (Math.PI * i) / 60;
      ring.push(10 + 10 * Math.cos(t), 10 + 10 * Math.sin(t));
    }
    ring.push(0, 10);
    const curve = fitRing(ring);
    expect(curve.kinds.length).toBeLessThan(12);
    const flat = flatten(curve, 0.01);
    const near = (x: number, y: number): boolean =>
      flat.some((_, i) => i % 2 === 0 && Math.abs(flat[i] - x) + Math.abs(flat[i + 1] - y) < 0.05);
    for (const [x, y] of [
      [0, 0],
      [20, 0],
      [20, 10],
    ]) {
      expect(near(x, y)).toBe(true);
    }
    for (let i = 0; i < flat.length; i += 2) {
      const inRound = flat[i + 1] > 10.2;
      if (inRound) expect(Math.hypot(flat[i] - 10, flat[i + 1] - 10)).toBeCloseTo(10, 1);
    }
  });
});
