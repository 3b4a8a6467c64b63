import { flatten, flattenRing, type Curve } from '../geometry/curve.js';
import type { Bounds } from '../geometry/polyline.js';
import type { Point, Points } from '../geometry/vector.js';

/** How a piece is sewn. */
export type PieceKind = 'running' | 'tatami';

/** Another piece that shares a boundary, and how long that boundary is in mm. */
export interface Neighbour {
  readonly piece: number;
  readonly borderMm: number;
}

/** One area of the design that is sewn by itself, in mm around the hoop's centre. */
export interface Piece {
  readonly id: string;
  readonly origin: 'traced';
  /** Index into the design's threads. */
  readonly thread: number;
  /** Index into the design's colours: what it is of in the picture. */
  readonly colour: number;
  readonly kind: PieceKind;
  /** Outer ring first, then holes; closed curves. */
  readonly outline: readonly Curve[];
  /** Centre lines; only lines have them. */
  readonly paths: readonly Curve[];
  /** Widest place in mm; of a line, its mean width. */
  readonly widthMm: number;
  readonly areaMm2: number;
  readonly bounds: Bounds;
  /** A point well inside. */
  readonly anchor: Point;
  readonly neighbours: readonly Neighbour[];
}

/** A piece that a decision leaves bare. */
export interface BarePiece {
  readonly outline: readonly Curve[];
  readonly bounds: Bounds;
  readonly areaMm2: number;
  /** Index into the design's colours. */
  readonly colour: number;
  /** Index of the decision among those of the recipe. */
  readonly decision: number;
}

/** Tolerance for turning curves into points: well under what a needle can follow. */
export const FLATNESS_MM = 0.02;

/** Outline as rings of points. */
export function ringsOf(piece: Piece): Points[] {
  return piece.outline.map((curve) => flattenRing(curve, FLATNESS_MM));
}

/** Centre lines as runs of points. */
export function runsOf(piece: Piece): Points[] {
  return piece.paths.map((curve) => flatten(curve, FLATNESS_MM));
}
