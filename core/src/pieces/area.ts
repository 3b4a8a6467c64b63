import { curveThrough, flattenRing, type Curve } from '../geometry/curve.js';
import { areaWithin } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { AreaGradient } from './area-gradient.js';
import { FLATNESS_MM } from './piece.js';
import type { PieceKind, PieceOrigin, PieceRole, StitchChoices } from './sewn-as.js';
import type { Paint } from './paint.js';

/** Something that may become a piece, in mm around the hoop's centre. */
export interface Area {
  readonly origin: PieceOrigin;
  /** Object it is of, and its name among that one's pieces, where those have names. */
  readonly object: string;
  readonly part?: string;
  readonly role?: PieceRole;
  /** The machine waits for the operator before it. */
  readonly stopBefore?: boolean;
  readonly outline: readonly Curve[];
  readonly rings: readonly Points[];
  readonly areaMm2: number;
  /** Area of the shape it was found as, where what lies above has been cut out of it. */
  readonly shapeMm2?: number;
  readonly paint: Paint;
  /** Its colour before the light of the picture is changed. */
  readonly hex: string;
  readonly layer: number;
  /** The line it was drawn as. */
  readonly line?: { readonly paths: readonly Curve[]; readonly widthMm: number };
  /** Index among the faces of the trace, while it is exactly one of them. */
  readonly face?: number;
  /** Gradient it is filled with. */
  readonly fill?: AreaGradient;

  // What was said about it.
  readonly as?: PieceKind;
  readonly passes?: number;
  readonly choices?: StitchChoices;
  /** Sewn however small it is. */
  readonly keep?: boolean;
  /** Whether what lies above is cut out of it; by its size where nothing was said. */
  readonly cut?: boolean;
  readonly decisions: readonly number[];
}

/** Outline of straight lines through rings, with the figures that go with it. */
export function fromRings(rings: readonly Points[]): Pick<Area, 'outline' | 'rings' | 'areaMm2'> {
  const kept = rings.filter((ring) => ring.length >= 6);
  return {
    outline: kept.map((ring) => curveThrough([...ring, ring[0], ring[1]])),
    rings: kept,
    areaMm2: areaWithin(kept),
  };
}

/** Rings of an outline of curves. */
export function flattenOutline(outline: readonly Curve[]): Points[] {
  return outline.map((curve) => flattenRing(curve, FLATNESS_MM));
}

/** Outline of a line of some width, and its middle, as an area. */
export function lineArea(area: Area, run: Points, widthMm: number, rings: Points[]): Area {
  return { ...area, ...fromRings(rings), face: undefined, line: { paths: [curveThrough(run)], widthMm } };
}
