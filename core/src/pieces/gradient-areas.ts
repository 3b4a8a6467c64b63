import { linearToLab } from '../colour/ciede2000.js';
import { linearOf } from '../colour/srgb.js';
import type { Area, Paint } from './area.js';
import type { ThreadChoice } from './piece-decisions.js';

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

/** Layers between two pieces that the threads of one gradient are on. */
const LAYER_STEP = 1 / 16;

/** A part of a gradient: what one of its threads sews. */
export interface GradientPart {
  readonly gradient: AreaGradient;
  readonly stop: number;
}

/**
 * How many of a gradient's threads lie below each of its stops. Whole rows are sewn the darker over the lighter: single
 * light rows on a dark thread stand out, dark ones on a light thread hardly do, and a dark thread does not shine through from
 * below. Cut rows, and rows of one layer, have no others below; their threads follow each other along the way.
 */
export function levelsOf({ shape, layers, stops }: Pick<AreaGradient, 'shape' | 'layers' | 'stops'>): number[] {
  const depth = stops.map(({ hex }) =>
    shape === 'linear' && layers === 'over' ? -linearToLab(...linearOf(hex)).l : 0,
  );
  const isUnder = (a: number, b: number): boolean => depth[a] < depth[b] || (depth[a] === depth[b] && a < b);
  return stops.map((_, i) => stops.filter((stop, j) => stop.paint && isUnder(j, i)).length);
}

/**
 * Areas with gradients as one area for each of their threads, each a little above the last.
 * @returns the areas, and for each the index of the area it was
 */
export function expandGradients(areas: readonly Area[]): {
  readonly areas: readonly (Area & { readonly gradient?: GradientPart })[];
  readonly from: readonly number[];
} {
  const out: (Area & { gradient?: GradientPart })[] = [];
  const from: number[] = [];
  areas.forEach((area, i) => {
    const { fill } = area;
    const stops = fill ? fill.stops.flatMap(({ paint }, stop) => (paint ? [{ paint, stop }] : [])) : [];
    if (!fill || stops.length === 0) {
      out.push(area);
      from.push(i);
      return;
    }
    const levels = levelsOf(fill);
    stops.forEach(({ paint, stop }) => {
      out.push({
        ...area,
        paint,
        as: 'gradient',
        line: undefined,
        face: undefined,
        layer: area.layer + levels[stop] * LAYER_STEP,
        gradient: { gradient: fill, stop },
      });
      from.push(i);
    });
  });
  return { areas: out, from };
}
