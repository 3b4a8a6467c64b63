import type { LineStyle } from '../geometry/polygons.js';
import type { Curve } from '../geometry/curve.js';

/** A colour stop of a gradient. */
export interface GradientStop {
  /** Place along the gradient, 0 to 1. */
  readonly at: number;
  readonly hex: string;
  readonly opacity: number;
}

/** A gradient as the artwork has it, in the artwork's millimetres. */
export interface Gradient {
  readonly kind: 'linear' | 'radial';
  /** Of a linear one start and end; of a radial one the middle, and a point where it ends. */
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly stops: readonly GradientStop[];
}

/** Stops that thread can follow, at least and at most. */
export const GRADIENT_STOPS = [2, 6] as const;

/** A stop that is hardly seen is bare cloth. */
export const isBareStop = (opacity: number): boolean => opacity < 0.5;

/** A region that cuts what is drawn. */
export interface ClipRegion {
  readonly curves: readonly Curve[];
  readonly rule: 'nonzero' | 'evenodd';
}

/** One fill or one line of the artwork, in the order it is painted, in the artwork's millimetres. */
export interface ArtShape {
  /** Its id in the file, or what it is. */
  readonly name: string;
  readonly curves: readonly Curve[];
  /** Whether each of the curves is closed. */
  readonly closed: readonly boolean[];
  readonly rule: 'nonzero' | 'evenodd';
  /** Width and ends of a line; a fill has none. */
  readonly stroke?: LineStyle & { readonly width: number };
  /** Colour; of a gradient its mean. */
  readonly hex: string;
  /** 1 is solid. */
  readonly opacity: number;
  readonly gradient?: Gradient;
  readonly clips: readonly ClipRegion[];
}

/** Something about the artwork the user should know, and where it is. */
export interface ArtProblem {
  readonly text: string;
  /** Place in the artwork's millimetres, where it has one. */
  readonly x?: number;
  readonly y?: number;
}

/** Vector artwork as shapes. */
export interface Artwork {
  readonly widthMm: number;
  readonly heightMm: number;
  /** Whether the file gives its size as one on paper rather than in units of its own. */
  readonly sized: boolean;
  readonly shapes: readonly ArtShape[];
  readonly problems: readonly ArtProblem[];
}
