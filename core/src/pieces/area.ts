import { curveThrough, flattenRing, type Curve } from '../geometry/curve.js';
import { areaWithin } from '../geometry/polyline.js';
import { chain, mapCurve, mapPoint, mapRun, scaleOf, type Matrix } from '../artwork/matrix.js';
import type { Points } from '../geometry/vector.js';
import type { AreaGradient } from './area-gradient.js';
import { FLATNESS_MM } from './piece.js';
import type { LaidCloth } from './laid-cloth.js';
import type { CopyTurn, PieceKind, PieceOrigin, PieceRole, StitchChoices } from './sewn-as.js';
import type { Paint } from './paint.js';

/** Where a letter stands in its text: the number of its word, and its own place. */
export interface TextPlace {
  readonly word: number;
  readonly place: number;
}

/** Something that may become a piece, in mm around the hoop's centre. */
export interface Area {
  readonly origin: PieceOrigin;
  /** Object it is of, and its name among that one's pieces, where those have names. */
  readonly object: string;
  readonly part?: string;
  readonly role?: PieceRole;
  /** The machine waits for the operator before it. */
  readonly stopBefore?: boolean;
  /** The cloth it holds, as a step of an applique. */
  readonly cloth?: LaidCloth;
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
  /** Its word and its place, where it is a letter of a text. */
  readonly inText?: TextPlace;
  /** Which of some copies it is of, where they are sewn one after the other. */
  readonly turn?: CopyTurn;
  /** How it was moved from where it was found. */
  readonly moved?: Matrix;
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

/** An area under a map of the cloth: what it was drawn as, and what is laid over it, go with it. */
export function mappedArea(area: Area, m: Matrix): Area {
  const scale = scaleOf(m);
  const { line, fill, shapeMm2, cloth } = area;
  const end = (x: number, y: number): [number, number] => mapPoint(m, x, y);
  const [x1, y1] = fill ? end(fill.x1, fill.y1) : [0, 0];
  const [x2, y2] = fill ? end(fill.x2, fill.y2) : [0, 0];
  return {
    ...area,
    outline: area.outline.map((curve) => mapCurve(curve, m)),
    rings: area.rings.map((ring) => mapRun(m, ring)),
    areaMm2: area.areaMm2 * scale * scale,
    shapeMm2: shapeMm2 === undefined ? undefined : shapeMm2 * scale * scale,
    line: line && { paths: line.paths.map((path) => mapCurve(path, m)), widthMm: line.widthMm * scale },
    fill: fill && { ...fill, x1, y1, x2, y2 },
    cloth: cloth && { ...cloth, rings: cloth.rings.map((ring) => mapRun(m, ring)) },
    face: undefined,
  };
}

/** Rings of areas that were moved, by those they were before: what is measured of them is remembered by the rings. */
const MOVED = new WeakMap<readonly Points[], { readonly by: Matrix; readonly rings: readonly Points[] }>();

/** An area that somebody moved: it is still known by where it was found. */
export function movedArea(area: Area, m: Matrix): Area {
  const made = mappedArea(area, m);
  const known = MOVED.get(area.rings);
  const { a, b, c, d, e, f } = m;
  const by = known?.by;
  const isSame = by && by.a === a && by.b === b && by.c === c && by.d === d && by.e === e && by.f === f;
  if (!isSame) MOVED.set(area.rings, { by: m, rings: made.rings });
  return { ...made, rings: isSame ? known.rings : made.rings, moved: area.moved ? chain(m, area.moved) : m };
}
