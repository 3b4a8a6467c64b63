import type { Points } from './vector.js';

/**
 * A path of straight lines and cubic curves.
 * `points` holds the start and then, for every entry of `kinds`, two numbers for a line (`L`: its end)
 * or six for a cubic (`C`: two handles and its end).
 */
export interface Curve {
  readonly points: Points;
  readonly kinds: readonly ('L' | 'C')[];
}

/** The straight-line curve through a run of points. */
export function curveThrough(points: Points): Curve {
  return { points: points.slice(), kinds: new Array<'L'>(Math.max(0, points.length / 2 - 1)).fill('L') };
}

/** A point of a path: place, handle towards the point before, handle towards the point after; handles are relative. */
export type CurveNode = readonly [x: number, y: number, inX: number, inY: number, outX: number, outY: number];

/**
 * The curve through some points; where neither side has a handle it is straight.
 * @param place where a place of the points lies on the curve
 */
export function curveThroughNodes(
  nodes: readonly CurveNode[],
  closed: boolean,
  place: (x: number, y: number) => readonly [number, number],
): Curve {
  const points: Points = [...place(nodes[0][0], nodes[0][1])];
  const kinds: ('L' | 'C')[] = [];
  const count = closed ? nodes.length : nodes.length - 1;
  for (let i = 0; i < count; i++) {
    const from = nodes[i];
    const to = nodes[(i + 1) % nodes.length];
    const straight = from[4] === 0 && from[5] === 0 && to[2] === 0 && to[3] === 0;
    if (!straight) points.push(...place(from[0] + from[4], from[1] + from[5]), ...place(to[0] + to[2], to[1] + to[3]));
    points.push(...place(to[0], to[1]));
    kinds.push(straight ? 'L' : 'C');
  }
  return { points, kinds };
}

/** Number of points a person would see when editing the curve: its start and one for each segment. */
export function nodeCount(curve: Curve): number {
  return curve.kinds.length + 1;
}

/** The same curve walked from its other end. */
export function reverseCurve(curve: Curve): Curve {
  const points: Points = [];
  for (let i = curve.points.length - 2; i >= 0; i -= 2) points.push(curve.points[i], curve.points[i + 1]);
  return { points, kinds: curve.kinds.slice().reverse() };
}

/** Joins curves that follow each other; each starts where the one before it ends. */
export function joinCurves(curves: readonly Curve[]): Curve {
  const points: Points = curves.length > 0 ? curves[0].points.slice(0, 2) : [];
  const kinds: ('L' | 'C')[] = [];
  for (const curve of curves) {
    for (let i = 2; i < curve.points.length; i++) points.push(curve.points[i]);
    kinds.push(...curve.kinds);
  }
  return { points, kinds };
}

/** Every coordinate multiplied by `scale` after adding the offset. */
export function placeCurve(curve: Curve, dx: number, dy: number, scale: number): Curve {
  return { points: curve.points.map((v, i) => (v + (i % 2 === 0 ? dx : dy)) * scale), kinds: curve.kinds };
}

/** Straight points along a curve, off it by about `tolerance` at most; start and end included. */
export function flatten(curve: Curve, tolerance: number): Points {
  const p = curve.points;
  const out: Points = [p[0], p[1]];
  let at = 2;
  let x0 = p[0];
  let y0 = p[1];
  for (const kind of curve.kinds) {
    if (kind === 'L') {
      out.push(p[at], p[at + 1]);
      x0 = p[at];
      y0 = p[at + 1];
      at += 2;
      continue;
    }
    const [x1, y1, x2, y2, x3, y3] = [p[at], p[at + 1], p[at + 2], p[at + 3], p[at + 4], p[at + 5]];
    // Second differences bound the distance between a cubic and its chords.
    const bend = Math.max(
      Math.abs(x0 - 2 * x1 + x2) + Math.abs(y0 - 2 * y1 + y2),
      Math.abs(x1 - 2 * x2 + x3) + Math.abs(y1 - 2 * y2 + y3),
    );
    const steps = Math.max(1, Math.min(200, Math.ceil(Math.sqrt((0.75 * bend) / tolerance))));
    for (let i = 1; i <= steps; i++) {
      const t = i / steps;
      const u = 1 - t;
      const a = u * u * u;
      const b = 3 * u * u * t;
      const c = 3 * u * t * t;
      const d = t * t * t;
      out.push(a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3);
    }
    x0 = x3;
    y0 = y3;
    at += 6;
  }
  return out;
}

/** A closed curve as a ring of points whose last point is not the first again. */
export function flattenRing(curve: Curve, tolerance: number): Points {
  const ring = flatten(curve, tolerance);
  const n = ring.length;
  if (n > 2 && ring[0] === ring[n - 2] && ring[1] === ring[n - 1]) ring.length = n - 2;
  return ring;
}

/** SVG path data with `digits` decimals. */
export function svgPath(curve: Curve, digits: number, closed: boolean): string {
  const p = curve.points;
  const unit = 10 ** digits;
  const n = (v: number): string => {
    const [sharp, round] = [v * unit, Math.round(v * unit)];
    // As `toFixed` rounds, which is slow: it is asked only where it is close.
    return String(Math.abs(sharp - round) < 0.499 ? round / unit : Number(v.toFixed(digits)));
  };
  let out = `M${n(p[0])} ${n(p[1])}`;
  let at = 2;
  for (const kind of curve.kinds) {
    const size = kind === 'L' ? 2 : 6;
    out += kind;
    for (let i = 0; i < size; i++) out += (i > 0 ? ' ' : '') + n(p[at + i]);
    at += size;
  }
  return closed ? out + 'Z' : out;
}
