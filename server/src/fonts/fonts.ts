import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font, type Glyph } from 'fontkit';
import { alphabetOf, ALPHABETS, missingCharacters, MOST_CHARACTERS, type FontOutlines } from '@open-kite/core';
import type { FontInfo } from '@open-kite/contract';
import { UserError } from '../user-error.js';

/** A font of outlines that ships with the application, and which of its files are read. */
interface ShippedFont extends FontInfo {
  /** Package and weight. */
  readonly pack: string;
  readonly weight: number;
  /** Whether letters of more languages stand in a second file. */
  readonly extended: boolean;
}

/** Least heights: where the median stroke is a millimetre wide. */
export const FONTS: readonly ShippedFont[] = [
  font('varela-round', 'Varela Round', 400, 8.1, 'upright, with round ends'),
  font('comfortaa', 'Comfortaa', 700, 8.1, 'wide and round'),
  font('rubik', 'Rubik', 500, 5.5, 'sturdy, with soft corners'),
  font('dosis', 'Dosis', 600, 7.2, 'narrow, for long names'),
  font('zilla-slab', 'Zilla Slab', 500, 7.9, 'with slabs, as in print'),
  font('graduate', 'Graduate', 400, 8.5, 'capitals as on team jackets', false),
  font('pacifico', 'Pacifico', 400, 7.5, 'a joined brush'),
  font('kaushan-script', 'Kaushan Script', 400, 15, 'a quick brush, from 15 mm'),
];

function font(id: string, name: string, weight: number, leastMm: number, hint: string, extended = true): ShippedFont {
  return { id, name, leastMm, hint, kind: 'outlines', pack: `@fontsource/${id}`, weight, extended };
}

/** All fonts: our own strokes first. */
export const allFonts = (): FontInfo[] => [
  ...ALPHABETS.map(({ id, name, hint, leastMm }): FontInfo => ({ id, name, hint, leastMm, kind: 'strokes' })),
  ...FONTS.map(({ id, name, hint, leastMm, kind }): FontInfo => ({ id, name, hint, leastMm, kind })),
];

const require = createRequire(import.meta.url);
const opened = new Map<string, readonly Font[]>();

/** The files of a font, opened once: the second one has the letters that the first lacks. */
function filesOf({ id, pack, weight, extended }: ShippedFont): readonly Font[] {
  const known = opened.get(id);
  if (known) return known;
  const parts = extended ? ['latin', 'latin-ext'] : ['latin'];
  const files = parts.map(
    (part) => create(readFileSync(require.resolve(`${pack}/files/${id}-${part}-${weight}-normal.woff2`))) as Font,
  );
  opened.set(id, files);
  return files;
}

/** Ligatures would take letters together: each is sewn by itself. */
const FEATURES = { liga: false, clig: false, dlig: false, calt: false };
const round = (v: number): number => Math.round(v * 100) / 100;

/**
 * What letters need to be set in a font: outlines where it is one of outlines, nothing for a stroke alphabet.
 * @throws UserError 404 for a font there is none of, 422 where it lacks a character
 */
export function outlinesFor(font: string, text: string): FontOutlines | null {
  const outlines = alphabetOf(font) ? null : fontOutlines(font, text);
  const missing = missingCharacters(font, text, outlines);
  if (missing.length > 0)
    throw new UserError(422, `the font ${font} has no ${missing.map((c) => `"${c}"`).join(', ')}`);
  return outlines;
}

/**
 * Outlines of the characters of a text, and the kerning of its pairs; capitals are 100 high.
 * @throws UserError for a font there is none of
 */
export function fontOutlines(id: string, text: string): FontOutlines {
  const own = FONTS.find((known) => known.id === id);
  if (!own) throw new UserError(404, `there is no font "${id.slice(0, 40)}"`);
  const files = filesOf(own);
  const [main] = files;
  if (!main) throw new UserError(503, `the font ${id} has no files`);
  const scale = 100 / capitalHeight(main);
  const characters = new Set([...text.normalize('NFC'), ' '].slice(0, MOST_CHARACTERS).filter((c) => c !== '\n'));
  const glyphs: Record<string, { d: string; advance: number }> = {};
  for (const character of characters) {
    const code = character.codePointAt(0) ?? 0;
    const file = files.find((each) => each.hasGlyphForCodePoint(code));
    if (!file) continue;
    const glyph = file.glyphForCodePoint(code);
    glyphs[character] = { d: pathOf(glyph, scale), advance: round(glyph.advanceWidth * scale) };
  }
  const kerning: Record<string, number> = {};
  const list = [...text.normalize('NFC')];
  list.slice(1).forEach((after, i) => {
    const before = list[i] ?? '';
    const pair = before + after;
    if (!glyphs[before] || !glyphs[after] || pair in kerning) return;
    const { glyphs: shaped, positions } = main.layout(pair, FEATURES);
    const [first] = shaped;
    const by = first && positions[0] && shaped.length === 2 ? positions[0].xAdvance - first.advanceWidth : 0;
    if (by !== 0) kerning[pair] = Math.max(-200, Math.min(200, round(by * scale)));
  });
  return { glyphs, kerning, leastMm: own.leastMm };
}

/** Height of capitals by the outline of one that is flat at its top. */
const capitalHeight = (file: Font): number => file.glyphForCodePoint('H'.charCodeAt(0)).bbox.maxY || file.capHeight;

/** A glyph's outline as path data, y upwards. */
function pathOf({ path }: Glyph, scale: number): string {
  const LETTER: Readonly<Record<string, string>> = {
    moveTo: 'M',
    lineTo: 'L',
    quadraticCurveTo: 'Q',
    bezierCurveTo: 'C',
    closePath: 'Z',
  };
  return path.commands
    .map(({ command, args }) => (LETTER[command] ?? '') + args.map((v) => round(v * scale)).join(' '))
    .join('');
}
