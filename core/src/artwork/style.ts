import colours from 'color-string';
import { toHex } from '../colour/srgb.js';
import { readDeclarations, type Declaration } from './style-sheet.js';
import type { StyleRules } from './style-rules.js';
import type { SvgElement } from './svg-tree.js';

/** Properties that count here, and whether children take them over. */
const PROPERTIES: Readonly<Record<string, boolean>> = {
  fill: true,
  'fill-rule': true,
  'fill-opacity': true,
  stroke: true,
  'stroke-width': true,
  'stroke-opacity': true,
  'stroke-linecap': true,
  'stroke-linejoin': true,
  'stroke-miterlimit': true,
  'stroke-dasharray': true,
  color: true,
  visibility: true,
  'clip-rule': true,
  'font-family': true,
  'paint-order': true,
  marker: true,
  'marker-start': true,
  'marker-mid': true,
  'marker-end': true,
  opacity: false,
  display: false,
  'clip-path': false,
  mask: false,
  filter: false,
  'stop-color': false,
  'stop-opacity': false,
};

export type Style = Readonly<Record<string, string>>;

/** The style of an element: attributes, then style sheets by weight, then its own `style`; some of it inherited. */
export function styleOf(element: SvgElement, inherited: Style, rules: StyleRules): Style {
  const out: Record<string, string> = {};
  for (const [name, passesDown] of Object.entries(PROPERTIES)) {
    if (passesDown && inherited[name] !== undefined) out[name] = inherited[name];
  }
  const set = (name: string, value: string): void => {
    if (!(name in PROPERTIES)) return;
    if (value === 'inherit') {
      if (inherited[name] === undefined) delete out[name];
      else out[name] = inherited[name];
    } else out[name] = value;
  };
  for (const [name, value] of Object.entries(element.attributes)) set(name, value.trim());
  const declared: (Declaration & { weight: number })[] = [];
  for (const d of rules.declarationsFor(element)) declared.push({ ...d, weight: d.weight + (d.important ? 1e9 : 0) });
  const own = element.attributes['style'];
  if (own) for (const d of readDeclarations(own)) declared.push({ ...d, weight: d.important ? 2e9 : 1e8 });
  declared.sort((a, b) => a.weight - b.weight);
  for (const { property, value } of declared) set(property, value);
  return out;
}

/** No colour and no reference is longer. */
const LONGEST_PAINT = 1000;

/** Id that a `url(#id)` at the start of a value refers to, within quotes or without, and what stands behind it. */
export function referenceIn(value: string): { readonly id: string; readonly rest: string } | undefined {
  const text = value.slice(0, LONGEST_PAINT).trim();
  if (!/^url\(/i.test(text)) return undefined;
  const end = text.indexOf(')');
  if (end < 0) return undefined;
  const inside = text.slice(4, end).trim();
  const quoted = /^(['"])(.*)\1$/.exec(inside);
  const target = (quoted ? quoted[2] : inside).trim();
  return target.startsWith('#') && target.length > 1
    ? { id: target.slice(1), rest: text.slice(end + 1).trim() }
    : undefined;
}

/** What something is painted with. */
export type PaintValue =
  | { readonly kind: 'none' }
  | { readonly kind: 'colour'; readonly hex: string; readonly opacity: number }
  | { readonly kind: 'reference'; readonly id: string; readonly fallback?: PaintValue }
  | { readonly kind: 'unknown'; readonly text: string };

/** Reads a paint: `none`, a colour, or a reference with what is used where it leads nowhere. */
export function parsePaint(value: string | undefined, style: Style): PaintValue | undefined {
  if (value === undefined) return undefined;
  const text = value.slice(0, LONGEST_PAINT).trim();
  if (text === 'none' || text === 'transparent') return { kind: 'none' };
  if (/^currentcolor$/i.test(text)) return parsePaint(style['color'] ?? '#000000', {});
  const reference = referenceIn(text);
  if (reference) {
    const { id, rest } = reference;
    return { kind: 'reference', id, fallback: rest ? parsePaint(rest, style) : undefined };
  }
  const colour = parseColour(text);
  return colour ? { kind: 'colour', ...colour } : { kind: 'unknown', text: text.slice(0, 40) };
}

/** A colour of CSS and how solid it is. */
export function parseColour(text: string): { hex: string; opacity: number } | undefined {
  const found = colours.get(text);
  if (!found) return undefined;
  const [p, q, t, a] = found.value;
  const [r, g, b] = found.model === 'rgb' ? [p, q, t] : found.model === 'hsl' ? fromHsl(p, q, t) : fromHwb(p, q, t);
  if (![r, g, b].every((v) => Number.isFinite(v))) return undefined;
  const byte = (v: number): number => Math.max(0, Math.min(255, Math.round(v)));
  return { hex: toHex({ r: byte(r), g: byte(g), b: byte(b) }), opacity: Number.isFinite(a) ? a : 1 };
}

/** Red, green and blue, 0 to 255, of a hue in degrees, saturation and lightness in percent (CSS Color 4). */
function fromHsl(hue: number, saturation: number, lightness: number): [number, number, number] {
  const l = lightness / 100;
  const a = (saturation / 100) * Math.min(l, 1 - l);
  const part = (n: number): number => {
    const k = (n + hue / 30) % 12;
    return 255 * (l - a * Math.max(-1, Math.min(k - 3, 9 - k, 1)));
  };
  return [part(0), part(8), part(4)];
}

/** The same of a hue with so much white and black, in percent. */
function fromHwb(hue: number, white: number, black: number): [number, number, number] {
  const sum = Math.max(100, white + black);
  const [w, k] = [white / sum, black / sum];
  const pure = fromHsl(hue, 100, 50);
  return pure.map((v) => v * (1 - w - k) + 255 * w) as [number, number, number];
}

/** A share such as `0.5` or `50%`; 1 where there is none or it cannot be read. */
export function shareOf(text: string | undefined): number {
  const match = /^([-+]?[\d.]+(?:e[-+]?\d+)?)(%?)$/i.exec(text?.slice(0, 60).trim() ?? '');
  if (!match) return 1;
  const value = Number(match[1]) / (match[2] ? 100 : 1);
  return Number.isFinite(value) ? Math.max(0, Math.min(1, value)) : 1;
}
