import type { Stroke, StrokeAlphabet, StrokeGlyph } from '../alphabet.js';
import { ROUND_SANS } from './round-sans.js';

/** Half length of a slab, and of one that stands at the side of a letter. */
const SLAB = 15;
/** Heights at which upright strokes end in slabs. */
const LINES = [0, 70, 100];
/** Letters whose upright strokes end without slabs: bowls and hooks lie there. */
const PLAIN = new Set([
  '.',
  ',',
  '-',
  "'",
  '!',
  '?',
  '&',
  '+',
  '0',
  '2',
  '3',
  '5',
  '6',
  '8',
  '9',
  'e',
  'o',
  'c',
  's',
  'a',
  't',
  'G',
  'C',
  'S',
  'O',
  'Q',
  'ß',
  'æ',
  'ø',
  'Ø',
  'W',
  'w',
  'M',
]);

const pathOf = (stroke: Stroke): string => (typeof stroke === 'string' ? stroke : stroke[0]);

/** Ends of the straight upright strokes of a glyph, on one of the lines letters stand on. */
function uprightEnds(strokes: readonly Stroke[]): [x: number, y: number][] {
  return strokes.flatMap((stroke): [number, number][] => {
    const match = /^M(-?[\d.]+) (-?[\d.]+)L(-?[\d.]+) (-?[\d.]+)$/.exec(pathOf(stroke));
    if (!match) return [];
    const [x1, y1, x2, y2] = match.slice(1).map(Number);
    if (Math.abs(x2 - x1) > 0.75 * Math.abs(y2 - y1) || Math.abs(y2 - y1) < 40) return [];
    return [
      [x1, y1],
      [x2, y2],
    ];
  });
}

/** Whether another stroke comes to the same place: then there is no free end. */
function isMet(strokes: readonly Stroke[], x: number, y: number): boolean {
  const at = (stroke: Stroke): boolean => {
    const numbers = (pathOf(stroke).match(/-?[\d.]+/g) ?? []).map(Number);
    const n = numbers.length;
    const near = (u: number, v: number): boolean => Math.abs(u - x) + Math.abs(v - y) < 3;
    return near(numbers[0], numbers[1]) || near(numbers[n - 2], numbers[n - 1]);
  };
  return strokes.filter(at).length > 1;
}

/** A glyph with a short level stroke across each free end of an upright one. */
function withSlabs(name: string, glyph: StrokeGlyph): StrokeGlyph {
  if (PLAIN.has(name)) return glyph;
  const slabs: string[] = [];
  let { left, right } = glyph;
  for (const [x, y] of uprightEnds(glyph.strokes)) {
    if (!LINES.includes(y) || isMet(glyph.strokes, x, y)) continue;
    // Small letters have a slab to the left alone at their top, as pens make it.
    const half = name >= 'a' && name <= 'z' && y > 0;
    const to = half ? x : x + SLAB;
    slabs.push(`M${x - SLAB} ${y}L${to} ${y}`);
    left = Math.min(left, x - SLAB);
    right = Math.max(right, to);
  }
  return { ...glyph, strokes: [...glyph.strokes, ...slabs], left, right };
}

/** The round sans with slabs at the ends of its upright strokes. */
export const ROPE_SLAB: StrokeAlphabet = {
  ...ROUND_SANS,
  id: 'rope-slab',
  name: 'Rope slab',
  hint: 'upright strokes that end in slabs: sturdy, from 8 mm',
  weight: { usual: 0.15, least: 0.12, most: 0.18, leastMm: 1 },
  leastMm: 8,
  smallLettersFromMm: 10,
  glyphs: Object.fromEntries(Object.entries(ROUND_SANS.glyphs).map(([name, glyph]) => [name, withSlabs(name, glyph)])),
};
