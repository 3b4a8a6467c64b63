import type { Matrix } from '../artwork/matrix.js';
import { flatten, flattenRing, type Curve } from '../geometry/curve.js';
import type { Bounds } from '../geometry/polyline.js';
import type { Point, Points } from '../geometry/vector.js';
import type { GradientPart } from './area-gradient.js';
import type { Column } from '../trace/column.js';
import type { LaidCloth } from './laid-cloth.js';
import type { CopyTurn, PieceKind, KindFamily, StitchChoices, PieceOrigin, PieceRole } from './sewn-as.js';

/** Another piece that shares a boundary, and how long that boundary is in mm. */
export interface Neighbour {
  readonly piece: number;
  readonly borderMm: number;
}

/** One area of the design that is sewn by itself, in mm around the hoop's centre. */
export interface Piece {
  readonly id: string;
  readonly origin: PieceOrigin;
  /** Object it is of, and its name among that one's pieces, where those have names. */
  readonly object: string;
  readonly part?: string;
  readonly role: PieceRole;
  /** The machine waits for the operator before it. */
  readonly stopBefore: boolean;
  /** The cloth it holds, as a step of an applique. */
  readonly cloth?: LaidCloth;
  /** Index into the design's threads. */
  readonly thread: number;
  /** Index into the design's colours: what it is of in the picture; -1 for a colour of its own. */
  readonly colour: number;
  readonly kind: PieceKind;
  readonly family: KindFamily;
  /** Whether the user chose the kind. */
  readonly chosen: boolean;
  /** Outer rings first, each before its holes; closed curves. */
  readonly outline: readonly Curve[];
  /** Centre lines; only lines have them. */
  readonly paths: readonly Curve[];
  /** Ladders of rungs; only satin has them. */
  readonly columns: readonly Column[];
  readonly choices: StitchChoices;
  /** Passes of a running line; 0 takes as many as its width needs. */
  readonly passes: number;
  /** Mean width in mm of what is long, widest place of what is not. */
  readonly widthMm: number;
  readonly areaMm2: number;
  /** Area of the shape it was found as, before what lies above was cut out of it: decisions know it by that. */
  readonly shapeMm2: number;
  readonly bounds: Bounds;
  /** How it was moved from where it was found, by which decisions know it. */
  readonly moved?: Matrix;
  /** A point well inside. */
  readonly anchor: Point;
  readonly neighbours: readonly Neighbour[];
  /** Number of the word it is a letter of, where it is one. */
  readonly word?: number;
  /** Its place in a text: letters are sewn in the order they are read. */
  readonly reading?: number;
  /** Which of some copies it is of, where they are sewn one after the other. */
  readonly turn?: CopyTurn;
  /** Pieces lie over those of a lower layer; traced pieces lie beside each other on layer 0. */
  readonly layer: number;
  /** Decisions that hold for it, by their place in the recipe. */
  readonly decisions: readonly number[];
  /** What it is of a gradient: its thread is that of one of the stops. */
  readonly gradient?: GradientPart;
  /** The first piece of the same gradient and shape; decisions hold on to that one. */
  readonly partOf: number;
}

/** A piece that a decision leaves bare. */
export interface BarePiece {
  readonly object: string;
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
