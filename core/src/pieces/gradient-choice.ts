import type { ThreadChoice } from './piece-ref.js';

/** One stop of a gradient as somebody chose it: a thread, or bare cloth. */
export interface GradientStopChoice {
  /** Place along the way, 0 to 1. */
  readonly at: number;
  readonly paint: Exclude<ThreadChoice, { readonly like: unknown }> | { readonly bare: true };
}

/** A gradient laid over a piece, or over several as one. */
export interface GradientChoice {
  /** Pieces whose gradients have the same name are changed together. */
  readonly id: string;
  readonly shape: 'linear' | 'radial';
  /** Start and end, or middle and edge, as shares of the picture's sides: u, v, u, v. */
  readonly way: readonly [number, number, number, number];
  readonly stops: readonly GradientStopChoice[];
  /** Threads lie over a solid one, or row beside row in one layer. */
  readonly layers: 'over' | 'beside';
}
