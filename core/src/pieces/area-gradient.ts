import type { Paint } from './paint.js';

/** A stop whose thread is known. */
export interface PaintedStop {
  readonly at: number;
  /** Colour the gradient has there. */
  readonly hex: string;
  /** Undefined for bare cloth. */
  readonly paint: Paint | undefined;
}

/** A gradient on the cloth, in mm. */
export interface AreaGradient {
  readonly id: string;
  readonly shape: 'linear' | 'radial';
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly stops: readonly PaintedStop[];
  readonly layers: 'over' | 'beside';
}

/** A part of a gradient: what one of its threads sews. */
export interface GradientPart {
  readonly gradient: AreaGradient;
  readonly stop: number;
}
