import { linearToLab } from '../colour/ciede2000.js';
import { linearOf } from '../colour/srgb.js';
import type { Area } from './area.js';
import type { AreaGradient, GradientPart } from './area-gradient.js';

/** Layers between two pieces that the threads of one gradient are on. */
const LAYER_STEP = 1 / 16;

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
