import { chain, IDENTITY, type Matrix } from '../artwork/matrix.js';
import { boundsOf } from '../geometry/polyline.js';
import { direction, distance, type Points } from '../geometry/vector.js';
import type { StrokeAlphabet } from './alphabet.js';
import { alphabetOf } from './alphabets/index.js';
import { outlineGlyph, partsOf, strokeGlyph, strokeWidth, type FontOutlines, type Glyph } from './glyph.js';
import { leastWay, optical, profileOf, type Profile } from './spacing.js';

/** Lines a text can stand on. */
export const BASELINES = ['straight', 'arc-up', 'arc-down', 'circle', 'path'] as const;
export type Baseline = (typeof BASELINES)[number];
export const ALIGNS = ['left', 'middle', 'right'] as const;
export type Align = (typeof ALIGNS)[number];

/** A text and how it is set; lengths in mm. */
export interface TextChoices {
  readonly text: string;
  /** Name of a stroke alphabet, or of a font whose outlines are given. */
  readonly font: string;
  readonly outlines: FontOutlines | null;
  /** Height of capitals. */
  readonly heightMm: number;
  /** Width of strokes as a share of the height; as the alphabet has it where it is null. */
  readonly weight: number | null;
  readonly line: Baseline;
  /** Of an arc or a circle, to the baseline. */
  readonly radiusMm: number;
  readonly align: Align;
  /** Added between letters. */
  readonly letterSpacingMm: number;
  /** What spaces and the way between lines are multiplied by. */
  readonly wordSpacing: number;
  readonly lineSpacing: number;
  /** Degrees to the right. */
  readonly slant: number;
  /** Letters stand as near as their shapes ask for; else all at one distance. */
  readonly kerning: boolean;
  /** Added before single letters, by their place in the text. */
  readonly pairs: Readonly<Record<string, number>>;
}

/** A letter where it stands. */
export interface LaidLetter {
  readonly character: string;
  /** Its place in the text, and the number of its word. */
  readonly place: number;
  readonly word: number;
  readonly glyph: Glyph;
  /** From the glyph to where it stands. */
  readonly at: Matrix;
}

export interface LaidText {
  readonly letters: readonly LaidLetter[];
  /** Width of strokes; 0 for a font of outlines. */
  readonly strokeMm: number;
  /** Characters that the font has not got. */
  readonly missing: readonly string[];
}

const LINE_STEP = 1.6;
/** Between the boxes of letters without kerning, as a share of their height. */
const PLAIN_ROOM = 0.18;
/** A circle is at least this much larger than the letters that stand in it. */
const INSIDE_MM = 1;

/** Glyphs that were cut lately, of each alphabet or font: a text is laid anew with every key. */
const CUT = new WeakMap<StrokeAlphabet | FontOutlines, Map<string, Glyph | undefined>>();
const MOST_CUT = 300;

/** Profiles of letters: a glyph has one height. */
const PROFILES = new WeakMap<Glyph, Profile>();

/** A letter on its line: where its origin lies, in mm from the beginning. */
interface Placed {
  readonly character: string;
  readonly place: number;
  readonly word: number;
  readonly glyph: Glyph;
  readonly x: number;
}

/** Sets a text: the origin is on the baseline of the first line, at its start, middle or end; y down. */
export function layText(choices: TextChoices, path: Points | null = null): LaidText {
  const alphabet = alphabetOf(choices.font);
  const strokeMm = alphabet ? strokeWidth(alphabet, choices.heightMm, choices.weight) : 0;
  const { heightMm, slant, outlines } = choices;
  const glyphOf = (character: string): Glyph | undefined => {
    const font = alphabet ?? outlines;
    if (!font) return undefined;
    const cut = CUT.get(font) ?? new Map<string, Glyph | undefined>();
    CUT.set(font, cut);
    const key = `${character} ${heightMm} ${strokeMm} ${slant}`;
    if (cut.has(key)) return cut.get(key);
    const glyph = alphabet
      ? strokeGlyph(alphabet, character, heightMm, strokeMm, slant)
      : outlineGlyph(font as FontOutlines, character, heightMm, slant);
    if (cut.size >= MOST_CUT) cut.clear();
    cut.set(key, glyph);
    return glyph;
  };
  const profile = (glyph: Glyph): Profile => {
    const known = PROFILES.get(glyph) ?? profileOf(glyph, choices.heightMm);
    PROFILES.set(glyph, known);
    return known;
  };
  const wayTo = (before: string, after: string, a: Glyph, b: Glyph): number => {
    if (alphabet?.joined) return a.rightMm - b.leftMm;
    if (!choices.kerning) return Math.max(boxRight(a) - boxLeft(b) + PLAIN_ROOM * choices.heightMm, 0);
    if (!alphabet) {
      const kern = ((choices.outlines?.kerning[before + after] ?? 0) * choices.heightMm) / 100;
      return Math.max(a.rightMm + kern, leastWay(profile(a), profile(b)));
    }
    return optical(profile(a), profile(b), choices.heightMm);
  };
  const spaceMm = spaceOf(choices, strokeMm);
  const missing = new Set<string>();
  const letters: LaidLetter[] = [];
  let place = 0;
  let word = 0;
  const lines = choices.text.split('\n');
  lines.forEach((line, row) => {
    const placed: Placed[] = [];
    let x = 0;
    let before: Placed | undefined;
    for (const character of line.normalize('NFC')) {
      const own = place++;
      if (/\s/.test(character)) {
        if (before) x = before.x + boxRight(before.glyph) + spaceMm;
        else x += spaceMm;
        before = undefined;
        word++;
        continue;
      }
      const glyph = glyphOf(character);
      if (!glyph) {
        missing.add(character);
        continue;
      }
      if (before) x = before.x + wayTo(before.character, character, before.glyph, glyph) + choices.letterSpacingMm;
      else if (placed.length > 0) x -= boxLeft(glyph);
      x += choices.pairs[String(own)] ?? 0;
      before = { character, place: own, word, glyph, x };
      placed.push(before);
    }
    // The end of the line counts as a place, so that places stay those of the text.
    place++;
    word++;
    const drop = row * LINE_STEP * choices.lineSpacing * choices.heightMm;
    const [first, last] = [placed.at(0), placed.at(-1)];
    // Around a circle the last letter is followed by the first.
    const around =
      first && last
        ? last.x - first.x + wayTo(last.character, first.character, last.glyph, first.glyph) + choices.letterSpacingMm
        : 0;
    letters.push(...setLine(placed, choices, path, drop, around));
  });
  return { letters, strokeMm, missing: [...missing] };
}

const boxLeft = ({ rings, leftMm }: Glyph): number => (rings.length > 0 ? boundsOf(rings).left : leftMm);
const boxRight = ({ rings, rightMm }: Glyph): number => (rings.length > 0 ? boundsOf(rings).right : rightMm);

function spaceOf({ font, outlines, heightMm, wordSpacing }: TextChoices, strokeMm: number): number {
  const alphabet = alphabetOf(font);
  const share = alphabet ? alphabet.space : (outlines?.glyphs[' ']?.advance ?? 40);
  return ((share * (heightMm - strokeMm)) / 100 + strokeMm) * wordSpacing;
}

/** Puts the letters of one line onto the baseline. @param aroundMm its length up to its own beginning, around a circle */
function setLine(
  placed: readonly Placed[],
  choices: TextChoices,
  path: Points | null,
  drop: number,
  aroundMm: number,
): LaidLetter[] {
  const first = placed.at(0);
  const last = placed.at(-1);
  if (!first || !last) return [];
  const start = first.x + boxLeft(first.glyph);
  const end = last.x + boxRight(last.glyph);
  const { align, line } = choices;
  const origin = align === 'left' ? start : align === 'right' ? end : (start + end) / 2;
  const placeOf = lineOf(choices, path, aroundMm, drop, placed.length);
  return placed.map(({ character, place, word, glyph, x }, i) => {
    const middle = (boxLeft(glyph) + boxRight(glyph)) / 2;
    // On a straight line a letter need not be turned around its middle.
    const at = line === 'straight' ? { ...IDENTITY, e: x - origin, f: drop } : placeOf(x + middle - origin, i);
    return {
      character,
      place,
      word,
      glyph,
      at: line === 'straight' ? at : chain(at, { ...IDENTITY, e: -middle }),
    };
  });
}

/** Where a letter stands whose middle lies so far along the line: a turn and a place. */
function lineOf(
  { line, radiusMm, heightMm, align }: TextChoices,
  path: Points | null,
  aroundMm: number,
  drop: number,
  count: number,
): (mm: number, index: number) => Matrix {
  if (line === 'path' && path && path.length >= 4) return alongPath(path, align, drop);
  const radius = Math.max(radiusMm, heightMm + INSIDE_MM);
  if (line === 'arc-down') {
    // Tops point inwards: letters come nearest at their height.
    const own = radius + drop;
    const near = Math.max(INSIDE_MM, own - heightMm);
    return (mm) => {
      const angle = mm / near;
      return turnedAt(own * Math.sin(angle), -radius + own * Math.cos(angle), -angle);
    };
  }
  const own = Math.max(heightMm * 0.5, radius - drop);
  // Letters of a whole circle stand all around it, the same room between the last and the first.
  const spread = line === 'circle' && count > 1 ? Math.max(0, 2 * Math.PI * own - aroundMm) / count : 0;
  return (mm, index) => {
    const more = spread * (index - (count - 1) / 2);
    const angle = (mm + more) / own;
    return turnedAt(own * Math.sin(angle), radius - own * Math.cos(angle), angle);
  };
}

/** Angles are rounded, so that sines are the same everywhere. */
function turnedAt(x: number, y: number, angle: number): Matrix {
  const { x: cos, y: sin } = direction((angle * 180) / Math.PI);
  const round = (v: number): number => Math.round(v * 1e6) / 1e6;
  return { a: cos, b: sin, c: -sin, d: cos, e: round(x), f: round(y) };
}

/** Letters along a drawn line; beyond its ends it goes on straight. */
function alongPath(path: Points, align: Align, drop: number): (mm: number) => Matrix {
  const n = path.length / 2;
  const lengths = [0];
  for (let i = 1; i < n; i++) {
    lengths.push(lengths[i - 1] + distance(path[i * 2 - 2], path[i * 2 - 1], path[i * 2], path[i * 2 + 1]));
  }
  const whole = lengths[n - 1];
  const from = align === 'left' ? 0 : align === 'right' ? whole : whole / 2;
  const placeAt = (mm: number): { x: number; y: number } => {
    let i = 1;
    while (i < n - 1 && lengths[i] < mm) i++;
    const step = lengths[i] - lengths[i - 1] || 1;
    const t = (mm - lengths[i - 1]) / step;
    const [x1, y1, x2, y2] = [path[i * 2 - 2], path[i * 2 - 1], path[i * 2], path[i * 2 + 1]];
    return { x: x1 + (x2 - x1) * t, y: y1 + (y2 - y1) * t };
  };
  return (mm) => {
    const at = placeAt(from + mm);
    // The direction over a little way: a corner does not turn a letter all at once.
    const [a, b] = [placeAt(from + mm - 1), placeAt(from + mm + 1)];
    const angle = Math.atan2(b.y - a.y, b.x - a.x);
    const { x: cos, y: sin } = direction((angle * 180) / Math.PI);
    return { a: cos, b: sin, c: -sin, d: cos, e: at.x - sin * drop, f: at.y + cos * drop };
  };
}

/** Characters of a text that its font has not got. */
export function missingCharacters(font: string, text: string, outlines: FontOutlines | null): string[] {
  const alphabet = alphabetOf(font);
  const has = (character: string): boolean =>
    alphabet ? partsOf(alphabet, character) !== undefined : Object.hasOwn(outlines?.glyphs ?? {}, character);
  const characters = new Set([...text.normalize('NFC')].filter((character) => !/\s/.test(character)));
  return [...characters].filter((character) => !has(character));
}
