import { mapCurve, type Matrix } from '../artwork/matrix.js';
import { pathOutline } from '../artwork/outlines.js';
import { flatten, flattenRing, type Curve } from '../geometry/curve.js';
import { fillRings, thicken, unite } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import { direction, type Points } from '../geometry/vector.js';
import type { Stroke, StrokeAlphabet } from './alphabet.js';

/** A stroke of a glyph in mm. */
export interface GlyphStroke {
  readonly curve: Curve;
  readonly widthMm: number;
  /** Longer than it is wide: a column of satin; else a dot. */
  readonly isLine: boolean;
}

/** A glyph as it is set: in mm, the baseline at 0, y down. */
export interface Glyph {
  /** Its centre lines; none for a glyph that is an outline. */
  readonly strokes: readonly GlyphStroke[];
  /** Its outline as closed curves; none for strokes. */
  readonly outline: readonly Curve[];
  /** What it covers. */
  readonly rings: readonly Points[];
  /** Where the glyph begins, and where the next one does. */
  readonly leftMm: number;
  readonly rightMm: number;
}

/** Glyphs of a font that are outlines: paths as SVG has them, y upwards, capitals 100 high. */
export interface FontOutlines {
  readonly glyphs: Readonly<Record<string, { readonly d: string; readonly advance: number }>>;
  /** What is added between two glyphs, by both. */
  readonly kerning: Readonly<Record<string, number>>;
  /** Least height of capitals it is made for, in mm. */
  readonly leastMm: number;
}

const FLATNESS = 0.02;
const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;
/** Shorter than so many of its widths a stroke is a dot. */
const LEAST_LINE = 0.3;

/** Width of strokes at a height of capitals, in mm. */
export function strokeWidth({ weight }: StrokeAlphabet, heightMm: number, share: number | null): number {
  const { usual, least, most, leastMm } = weight;
  const wanted = Math.min(most, Math.max(least, share ?? usual)) * heightMm;
  return Math.min(heightMm / 3, Math.max(leastMm, wanted));
}

/** What a character is made of: a glyph, with the marks over or under it; undefined where the alphabet has not got it. */
export function partsOf(
  { glyphs, marks }: StrokeAlphabet,
  character: string,
): { base: string; marks: string[] } | undefined {
  if (Object.hasOwn(glyphs, character)) return { base: character, marks: [] };
  const [first, ...rest] = [...character.normalize('NFD')];
  const codes = rest.map((mark) => (mark.codePointAt(0) ?? 0).toString(16).padStart(4, '0'));
  // A mark takes the place of the dot.
  const above = codes.some((code) => marks[code]?.at === 'top');
  const base = above && first === 'i' && Object.hasOwn(glyphs, 'ı') ? 'ı' : first;
  if (first === undefined || !Object.hasOwn(glyphs, base) || codes.some((code) => !Object.hasOwn(marks, code))) {
    return undefined;
  }
  return { base, marks: codes };
}

/** A character of a stroke alphabet, or undefined where it has none. */
export function strokeGlyph(
  alphabet: StrokeAlphabet,
  character: string,
  heightMm: number,
  widthMm: number,
  slant: number,
): Glyph | undefined {
  const parts = partsOf(alphabet, character);
  if (!parts) return undefined;
  const glyph = alphabet.glyphs[parts.base];
  const scale = (heightMm - widthMm) / 100;
  const map = leaning({ a: scale, b: 0, c: 0, d: -scale, e: 0, f: -widthMm / 2 }, slant + (alphabet.slant ?? 0));
  const [topX, topY] = glyph.top;
  const strokes = [
    ...strokesOf(glyph.strokes, map, widthMm),
    ...parts.marks.flatMap((code) => {
      const mark = alphabet.marks[code];
      const at = mark.at === 'top' ? { x: topX, y: topY } : { x: (glyph.left + glyph.right) / 2, y: 0 };
      return strokesOf(mark.strokes, moved(map, at.x, at.y), widthMm);
    }),
  ];
  return {
    strokes,
    outline: [],
    rings: unite(
      strokes.flatMap(({ curve, widthMm: width }) => thicken([flatten(curve, FLATNESS)], width, false, ROUND)),
      [],
    ),
    leftMm: glyph.left * scale,
    rightMm: glyph.right * scale,
  };
}

function strokesOf(strokes: readonly Stroke[], map: Matrix, widthMm: number): GlyphStroke[] {
  return strokes.flatMap((stroke) => {
    const [d, factor] = typeof stroke === 'string' ? [stroke, 1] : stroke;
    return pathOutline(d).curves.map((path): GlyphStroke => {
      const curve = mapCurve(path, map);
      const width = widthMm * factor;
      const { left, right, top, bottom } = boundsOf([flatten(curve, FLATNESS)]);
      return { curve, widthMm: width, isLine: Math.max(right - left, bottom - top) > width * LEAST_LINE };
    });
  });
}

/** A character of a font of outlines, or undefined where it has none. */
export function outlineGlyph(
  font: FontOutlines,
  character: string,
  heightMm: number,
  slant: number,
): Glyph | undefined {
  if (!Object.hasOwn(font.glyphs, character)) return undefined;
  const { d, advance } = font.glyphs[character];
  const scale = heightMm / 100;
  const map = leaning({ a: scale, b: 0, c: 0, d: -scale, e: 0, f: 0 }, slant);
  const outline = pathOutline(d).curves.map((curve) => mapCurve(curve, map));
  const rings = fillRings(
    outline.map((curve) => flattenRing(curve, FLATNESS)).filter((ring) => ring.length >= 6),
    'nonzero',
  );
  return { strokes: [], outline, rings, leftMm: 0, rightMm: advance * scale };
}

/** A map, leaning to the right by degrees. */
function leaning(m: Matrix, degrees: number): Matrix {
  const { x, y } = direction(degrees);
  const lean = y / x;
  return { ...m, a: m.a - lean * m.b, c: m.c - lean * m.d, e: m.e - lean * m.f };
}

const moved = (m: Matrix, x: number, y: number): Matrix => ({
  ...m,
  e: m.e + m.a * x + m.c * y,
  f: m.f + m.b * x + m.d * y,
});
