import { fromHex, LINEAR, toByte, toHex } from '../colour/srgb.js';
import type { Gradient, GradientStop } from './artwork.js';
import { lengthIn } from './lengths.js';
import { chain, mapPoint, parseTransform, type Matrix } from './matrix.js';
import { parseColour, shareOf, styleOf } from './style.js';
import type { StyleRules } from './style-rules.js';
import type { SvgElement } from './svg-tree.js';

/** A box in user units: left, top, width, height. */
export type Box = readonly [number, number, number, number];

/** Gradients that refer to each other are followed this far. */
const MOST_LINKS = 8;

/**
 * Reads a gradient, with what it takes over from the gradients it refers to.
 * @param box what is filled, for gradients given in shares of it
 * @param toArtwork from the user units of what is filled to the artwork's millimetres
 * @returns undefined for a gradient without stops
 */
export function readGradient(
  element: SvgElement,
  ids: ReadonlyMap<string, SvgElement>,
  rules: StyleRules,
  box: Box,
  toArtwork: Matrix,
): Gradient | undefined {
  const chainOf: SvgElement[] = [];
  for (let at: SvgElement | undefined = element; at && chainOf.length < MOST_LINKS;) {
    if (chainOf.includes(at)) break;
    chainOf.push(at);
    at = ids.get((at.attributes['href'] ?? '').replace(/^#/, ''));
  }
  const own = (name: string): string | undefined =>
    chainOf.find((e) => e.attributes[name] !== undefined)?.attributes[name];
  const stops = stopsOf(
    chainOf.find((e) => e.children.some((c) => c.name === 'stop')),
    rules,
  );
  if (stops.length === 0) return undefined;
  const byBox = own('gradientUnits') !== 'userSpaceOnUse';
  const [left, top, width, height] = box;
  const at = (name: string, fallback: number, whole: number): number =>
    lengthIn(own(name), byBox ? 1 : whole) ?? (byBox ? fallback : fallback * whole);
  const unit: Matrix = byBox ? { a: width, b: 0, c: 0, d: height, e: left, f: top } : IDENTITY_MAP;
  const map = chain(toArtwork, chain(unit, parseTransform(own('gradientTransform')) ?? IDENTITY_MAP));
  if (element.name === 'linearGradient') {
    const [x1, y1] = mapPoint(map, at('x1', 0, width), at('y1', 0, height));
    const [x2, y2] = mapPoint(map, at('x2', 1, width), at('y2', 0, height));
    return { kind: 'linear', x1, y1, x2, y2, stops };
  }
  const [cx, cy, r] = [at('cx', 0.5, width), at('cy', 0.5, height), at('r', 0.5, width)];
  const [x1, y1] = mapPoint(map, cx, cy);
  const [x2, y2] = mapPoint(map, cx + r, cy);
  return { kind: 'radial', x1, y1, x2, y2, stops };
}

const IDENTITY_MAP: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

function stopsOf(element: SvgElement | undefined, rules: StyleRules): GradientStop[] {
  let last = 0;
  return (element?.children ?? [])
    .filter((child) => child.name === 'stop')
    .map((child) => {
      const style = styleOf(child, {}, rules);
      const colour = parseColour(style['stop-color'] ?? '#000000') ?? { hex: '#000000', opacity: 1 };
      // Offsets never go back.
      last = Math.max(last, child.attributes['offset'] === undefined ? 0 : shareOf(child.attributes['offset']));
      return { at: last, hex: colour.hex, opacity: colour.opacity * shareOf(style['stop-opacity']) };
    });
}

/** Mean colour of a gradient along its way, in linear light, and its mean opacity. */
export function meanOfGradient({ stops }: Gradient): { hex: string; opacity: number } {
  const sum = [0, 0, 0, 0];
  const add = (stop: GradientStop, weight: number): void => {
    const { r, g, b } = fromHex(stop.hex);
    sum[0] += LINEAR[r] * weight;
    sum[1] += LINEAR[g] * weight;
    sum[2] += LINEAR[b] * weight;
    sum[3] += stop.opacity * weight;
  };
  add(stops[0], stops[0].at);
  for (let i = 1; i < stops.length; i++) {
    const half = (stops[i].at - stops[i - 1].at) / 2;
    add(stops[i - 1], half);
    add(stops[i], half);
  }
  const last = stops[stops.length - 1];
  add(last, 1 - last.at);
  return { hex: toHex({ r: toByte(sum[0]), g: toByte(sum[1]), b: toByte(sum[2]) }), opacity: sum[3] };
}
