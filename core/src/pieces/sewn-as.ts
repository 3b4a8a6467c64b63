import type { Point, Points } from '../geometry/vector.js';
import type { Ramp } from '../geometry/ramp.js';

/** Name of a stitch kind; `stitches/kinds` has them all. */
export type PieceKind = string;

/** What a stitch kind needs to know of a piece: its middle line, a ladder of rungs, or its area. */
export type KindFamily = 'line' | 'column' | 'area';

/** How a piece is sewn, beyond its kind, as the user said. */
export interface StitchChoices {
  /** Options of its kind, by name. */
  readonly values: Readonly<Record<string, number | string>>;
  /** Lines that rows follow, in mm. */
  readonly guides: readonly Points[];
  /** How much of its rows is sewn from place to place. */
  readonly ramp?: Ramp;
  readonly entry?: Point;
  readonly exit?: Point;
  /** What is said of the way to it. */
  readonly connect?: ConnectChoice;
  /** Its needle points, where they were set by hand. */
  readonly rows?: readonly HandRow[];
}

/** The way to a piece from what is sewn before it with the same thread. */
export interface ConnectChoice {
  /** Cut there, or not; or led along a line. */
  readonly how: 'cut' | 'keep' | 'lead';
  /** Places in mm, x and y in turn; of a way that is led. */
  readonly line: Points;
}

/** A needle point, or what the machine does between two; numbers of commands as in stitch lists. */
export type HandRow = readonly [x: number, y: number, command: number];

/** Where a piece comes from: the trace of a picture, the shapes of artwork, a shape of the user's own, or an outline. */
export type PieceOrigin = 'traced' | 'artwork' | 'drawn' | 'outline';

/** What a piece is for: most are simply sewn, the steps of an applique hold cloth. */
export type PieceRole = 'plain' | 'placement' | 'tack-down' | 'cover';

/** A piece of which nothing was said. */
export const NO_CHOICES: StitchChoices = { values: {}, guides: [] };

/** The place of a copy among those that are sewn one after the other; what they are copies of comes first, at 0. */
export interface CopyTurn {
  /** The object that makes them. */
  readonly of: string;
  readonly at: number;
}
