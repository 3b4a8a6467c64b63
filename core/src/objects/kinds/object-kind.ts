import type { Schema } from 'yup';
import type { Matrix } from '../../artwork/matrix.js';
import type { Points } from '../../geometry/vector.js';
import type { Area } from '../../pieces/area.js';
import type { Paint } from '../../pieces/paint.js';
import type { ToHoop } from '../../pieces/find-again.js';
import type { PieceRef, ThreadChoice } from '../../pieces/piece-ref.js';
import type { Corners } from '../../trace/spine-stretches.js';
import type { DesignObject } from '../design-object.js';

/** What an object sees of the design when it becomes areas. */
export interface ObjectPlace {
  /** Its own frame on the cloth. */
  readonly toHoop: ToHoop;
  /** Millimetres a unit of its frame is wide there. */
  readonly unitMm: number;
  /** Areas lie over those of a lower layer; one object has the layers from here to below the next whole million. */
  readonly layer: number;
  /** Paint of a choice, and its colour before the light is changed. */
  readonly paintOf: (choice: ThreadChoice) => { readonly paint: Paint; readonly hex: string };
  /** Outline of an object on the cloth, or of everything below where it is null; undefined where there is none. */
  readonly ringsOf: (object: string | null) => readonly Points[] | undefined;
  /** What the design does at sharp corners of satin. */
  readonly corners: Corners;
  /** Outlines of single pieces of what lies below. */
  readonly ringsOfPieces: (pieces: readonly PieceRef[]) => readonly Points[];
  /** Outlines of all that lies below, one by one, but for an object, or for single pieces where there are some. */
  readonly ringsBeside: (object: string | null, pieces: readonly PieceRef[]) => readonly (readonly Points[])[];
}

/** What an object adds to the areas below it. */
export interface ObjectAreas {
  readonly areas: readonly Area[];
  /** Rings cut out of everything below. */
  readonly hole?: readonly Points[];
  /** A found piece it takes the place of. */
  readonly replaces?: PieceRef;
}

/**
 * A kind of object a design may have. Objects that are drawn become areas, which are cut, measured and sewn like any
 * other; pictures have a pipeline of their own.
 */
export interface ObjectKind<O extends DesignObject = DesignObject> {
  readonly id: O['kind'];
  /** What one is called. */
  readonly name: string;
  /** One line for somebody who does not know it. */
  readonly hint: string;
  /** What it must be when it is read from outside. */
  readonly schema: Schema<O>;
  /** Other objects it cannot be without. */
  readonly needs: (object: O) => readonly string[];
  readonly areas?: (object: O, place: ObjectPlace) => ObjectAreas;
  /**
   * The object lying elsewhere, larger or turned, by a map of the frame that it lies in; undefined where it would be too
   * small or too large. Kinds without it follow other objects.
   */
  readonly placed?: (object: O, by: Matrix) => O | undefined;
}

/** Describes a kind of object. */
export const objectKind = <O extends DesignObject>(kind: ObjectKind<O>): ObjectKind => kind as unknown as ObjectKind;
