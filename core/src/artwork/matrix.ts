import { compose, fromDefinition, fromTransformAttribute } from 'transformation-matrix';
import type { Curve } from '../geometry/curve.js';
import type { Points } from '../geometry/vector.js';

/** Affine map: x' = a x + c y + e, y' = b x + d y + f. */
export interface Matrix {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const IDENTITY: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** First `inner`, then `outer`. */
export function chain(outer: Matrix, inner: Matrix): Matrix {
  return {
    a: outer.a * inner.a + outer.c * inner.b,
    b: outer.b * inner.a + outer.d * inner.b,
    c: outer.a * inner.c + outer.c * inner.d,
    d: outer.b * inner.c + outer.d * inner.d,
    e: outer.a * inner.e + outer.c * inner.f + outer.e,
    f: outer.b * inner.e + outer.d * inner.f + outer.f,
  };
}

export function mapPoint(m: Matrix, x: number, y: number): [number, number] {
  return [m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f];
}

/** The map back. */
export function inverseOf({ a, b, c, d, e, f }: Matrix): Matrix {
  const k = 1 / (a * d - b * c);
  return { a: d * k, b: -b * k, c: -c * k, d: a * k, e: (c * f - d * e) * k, f: (b * e - a * f) * k };
}

export const isIdentity = ({ a, b, c, d, e, f }: Matrix): boolean =>
  a === 1 && b === 0 && c === 0 && d === 1 && e === 0 && f === 0;

/** A run of points under a map. */
export function mapRun(m: Matrix, run: Points): Points {
  const out: Points = new Array<number>(run.length);
  for (let i = 0; i < run.length; i += 2) {
    out[i] = m.a * run[i] + m.c * run[i + 1] + m.e;
    out[i + 1] = m.b * run[i] + m.d * run[i + 1] + m.f;
  }
  return out;
}

/** A curve under a map. */
export const mapCurve = ({ points, kinds }: Curve, m: Matrix): Curve => ({ points: mapRun(m, points), kinds });

/** How much a map enlarges lengths, as the root of what it does to areas. */
export function scaleOf({ a, b, c, d }: Matrix): number {
  return Math.sqrt(Math.abs(a * d - b * c));
}

const LONGEST_TRANSFORM = 20_000;

/** A `transform` attribute; undefined where it cannot be read. */
export function parseTransform(text: string | undefined): Matrix | undefined {
  if (!text?.trim()) return IDENTITY;
  if (text.length > LONGEST_TRANSFORM) return undefined;
  try {
    const m = compose(fromDefinition(fromTransformAttribute(text.trim())));
    return Object.values(m).every((v) => Number.isFinite(v)) ? m : undefined;
  } catch {
    return undefined;
  }
}

/**
 * Places a view box in a viewport the way `preserveAspectRatio` says.
 * @returns the map from the view box to the viewport
 */
export function viewBoxMap(box: readonly number[], width: number, height: number, aspect: string): Matrix {
  const [x, y, w, h] = box;
  let sx = width / w;
  let sy = height / h;
  const [align = 'xMidYMid', fit = 'meet'] = aspect.trim().split(/\s+/);
  let e = 0;
  let f = 0;
  if (align !== 'none') {
    sx = sy = fit === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy);
    const share = (name: string): number => (name === 'Min' ? 0 : name === 'Max' ? 1 : 0.5);
    e = (width - w * sx) * share(align.slice(1, 4));
    f = (height - h * sy) * share(align.slice(5, 8));
  }
  return { a: sx, b: 0, c: 0, d: sy, e: e - x * sx, f: f - y * sy };
}
