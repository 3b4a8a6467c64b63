import { EndType, FillRule, JoinType, area as pathArea, difference, inflatePaths, intersect, union } from 'clipper2-ts';
import type { Path64, Paths64 } from 'clipper2-ts';
import { isInside, signedArea } from './polyline.js';
import type { Points } from './vector.js';

/** Rings of a shape; outer rings and holes in any order, read by the non-zero or even-odd rule. */
export type Rings = Points[];

const SCALE = 1000;
/** How far round corners of an offset may leave a true arc, in mm. */
const ARC_TOLERANCE = 0.01;

const toPaths = (rings: readonly Points[]): Paths64 =>
  rings.map((ring) => {
    const path: Path64 = [];
    for (let i = 0; i < ring.length; i += 2) {
      path.push({ x: Math.round(ring[i] * SCALE), y: Math.round(ring[i + 1] * SCALE) });
    }
    return path;
  });

const toRings = (paths: Paths64): Rings =>
  paths.map((path) => {
    const ring: Points = [];
    for (const point of path) ring.push(point.x / SCALE, point.y / SCALE);
    return ring;
  });

/** What lies inside rings under one of the fill rules; the result does not cross itself, holes run the other way. */
export function fillRings(rings: readonly Points[], rule: 'nonzero' | 'evenodd'): Rings {
  return toRings(union(toPaths(rings), rule === 'nonzero' ? FillRule.NonZero : FillRule.EvenOdd));
}

/** Union of rings under the even-odd rule: the result does not cross itself. */
export const tidyRings = (rings: readonly Points[]): Rings => fillRings(rings, 'evenodd');

/** What lies in either shape. */
export function unite(a: readonly Points[], b: readonly Points[]): Rings {
  return toRings(union(toPaths(a), toPaths(b), FillRule.NonZero));
}

/** What lies in both shapes. */
export function common(a: readonly Points[], b: readonly Points[]): Rings {
  return toRings(intersect(toPaths(a), toPaths(b), FillRule.NonZero));
}

/** What lies in the first shape and not in the second. */
export function subtract(a: readonly Points[], b: readonly Points[]): Rings {
  return toRings(difference(toPaths(a), toPaths(b), FillRule.NonZero));
}

/** Grows (mm over 0) or shrinks (mm under 0) a shape, with round corners. */
export function offset(
  rings: readonly Points[],
  mm: number,
  { join, miterLimit }: Pick<LineStyle, 'join' | 'miterLimit'> = { join: 'round', miterLimit: 2 },
): Rings {
  const clean = union(toPaths(rings), FillRule.EvenOdd);
  return toRings(inflatePaths(clean, mm * SCALE, JOINS[join], EndType.Polygon, miterLimit, ARC_TOLERANCE * SCALE));
}

/** Area in mm2, holes taken off. */
export function areaOf(rings: readonly Points[]): number {
  let sum = 0;
  for (const path of union(toPaths(rings), FillRule.EvenOdd)) sum += pathArea(path);
  return Math.abs(sum) / (SCALE * SCALE);
}

/** Ends and corners of a line drawn with a width. */
export interface LineStyle {
  readonly cap: 'butt' | 'round' | 'square';
  readonly join: 'miter' | 'round' | 'bevel';
  readonly miterLimit: number;
}

const JOINS = { miter: JoinType.Miter, round: JoinType.Round, bevel: JoinType.Bevel } as const;

/** Outline of lines drawn with a width in mm. */
export function thicken(runs: readonly Points[], width: number, closed: boolean, style: LineStyle): Rings {
  const join = JOINS[style.join];
  const cap = { butt: EndType.Butt, round: EndType.Round, square: EndType.Square }[style.cap];
  const paths = inflatePaths(toPaths(runs), (width * SCALE) / 2, join, closed ? EndType.Joined : cap, style.miterLimit);
  return toRings(union(paths, FillRule.NonZero));
}

/** Sorts rings into shapes: each an outer ring with the holes that lie in it. */
export function groupRings(rings: readonly Points[]): Rings[] {
  const clean = tidyRings(rings).filter((ring) => ring.length >= 6);
  const outers = clean.filter((ring) => signedArea(ring) > 0).map((ring): Rings => [ring]);
  for (const hole of clean) {
    if (signedArea(hole) > 0) continue;
    let owner: Rings | undefined;
    for (const shape of outers) {
      if (!isInside([shape[0]], hole[0], hole[1])) continue;
      if (!owner || signedArea(shape[0]) < signedArea(owner[0])) owner = shape;
    }
    owner?.push(hole);
  }
  return outers;
}
