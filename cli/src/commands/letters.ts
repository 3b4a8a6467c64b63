import { basename, extname, join } from 'node:path';
import {
  convert,
  emptyRecipe,
  newLetters,
  parseRecipe,
  StepCache,
  type Baseline,
  type Design,
  type Recipe,
} from '@open-kite/core';
import { allFonts, outlinesFor } from '@open-kite/server/fonts';
import { UserError } from '@open-kite/server/user-error';
import { csvParse } from 'd3-dsv';
import { clothNamed } from '../cloth.js';
import { contentOf } from '../content.js';
import { about, readInput, writeOutputs } from '../files.js';
import { USUAL_RADIUS, type LetterFlags } from '../letter-options.js';
import { checkEndings } from './convert.js';

/** `open-kite fonts`: what letters can be set in. */
export async function fontsCommand(json: boolean): Promise<void> {
  const fonts = allFonts();
  const lines = fonts.map(({ id, name, leastMm, hint }) => `${id.padEnd(16)} ${name}, from ${leastMm} mm: ${hint}`);
  process.stdout.write(json ? JSON.stringify(fonts, null, 2) + '\n' : lines.join('\n') + '\n');
  return Promise.resolve();
}

/** What one design of a text is made from. */
interface Wanted extends LetterFlags {
  readonly text: string;
}

/** `open-kite letters`: one text into a file, or a list of names into a folder. */
export async function lettersCommand(
  text: string | undefined,
  flags: LetterFlags & { readonly out: string; readonly names?: string },
): Promise<void> {
  const known = allFonts().find(({ id }) => id === flags.font);
  if (!known) {
    const ids = allFonts().map(({ id }) => id);
    throw new UserError(400, `letters: there is no font "${flags.font}"; known are ${ids.join(', ')}`);
  }
  if (flags.names !== undefined) {
    if (text !== undefined) throw new UserError(400, 'letters: a text or --names, not both');
    await namesCommand(flags.names, flags);
    return;
  }
  if (text === undefined || text.trim() === '') throw new UserError(400, 'letters: there is no text');
  checkEndings([flags.out]);
  const made = await sewn({ ...flags, text: text.replaceAll('\\n', '\n') }, new StepCache());
  await writeOutputs(new Map([[flags.out, await contentOf(flags.out, made)]]));
}

/** One design a line of the list; lines that fail are said, the others made. */
async function namesCommand(list: string, flags: LetterFlags & { readonly out: string }): Promise<void> {
  const rows = rowsOf(list, (await readInput(list)).toString('utf8'));
  const cache = new StepCache();
  const taken = new Set<string>();
  let failed = 0;
  for (const [i, row] of rows.entries()) {
    try {
      const made = await sewn(wantedOf(row, flags), cache);
      const file = join(flags.out, fileNameOf(row['file'] ?? row['text'] ?? '', taken));
      await writeOutputs(new Map([[file, await contentOf(file, made)]]));
    } catch (error) {
      if (!(error instanceof UserError) && !(error instanceof RangeError)) throw error;
      failed++;
      process.stderr.write(`open-kite: ${basename(list)}: line ${i + 2}: ${error.message}\n`);
    }
  }
  if (failed > 0) throw new UserError(422, `${failed} of ${rows.length} names could not be made`);
}

type Row = Readonly<Record<string, string | undefined>>;

function rowsOf(file: string, text: string): Row[] {
  const rows = csvParse(text.replace(/^\uFEFF/, ''));
  if (!rows.columns.includes('text')) throw about(file, new Error('it has no column "text"'));
  const named = rows.filter(({ text: name }) => (name ?? '').trim() !== '');
  if (named.length === 0) throw about(file, new Error('there are no names in it'));
  return named;
}

/** What a line says, else what the options say. */
function wantedOf(row: Row, flags: LetterFlags): Wanted {
  const number = (name: string, otherwise: number): number => {
    const text = row[name]?.trim();
    if (!text) return otherwise;
    if (!Number.isFinite(Number(text))) throw new UserError(422, `${name} must be a number, got "${text}"`);
    return Number(text);
  };
  return {
    ...flags,
    text: (row['text'] ?? '').trim().replaceAll('\\n', '\n'),
    font: row['font']?.trim() || flags.font,
    hex: row['hex']?.trim() || flags.hex,
    fabric: row['fabric']?.trim() ? clothNamed(row['fabric'].trim()) : flags.fabric,
    height: number('height', flags.height),
    spacing: number('spacing', flags.spacing),
    radius: number('radius', flags.radius ?? USUAL_RADIUS),
  };
}

const MOST_NAME = 80;

/** A name for a file, with a number where there is one of it already. */
function fileNameOf(text: string, taken: Set<string>): string {
  const plain = text
    .replace(/[^\p{L}\p{N}.-]+/gu, '-')
    .replace(/^[-.]+|[-.]+$/g, '')
    .slice(0, MOST_NAME);
  const ending = extname(plain).toLowerCase();
  const base = ['.kite', '.csv', '.json'].includes(ending) ? plain.slice(0, -ending.length) : plain || 'name';
  let name = base;
  for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${base}-${n}`;
  taken.add(name.toLowerCase());
  return `${name}${['.csv', '.json'].includes(ending) ? ending : '.kite'}`;
}

/** Sews a text. @throws UserError where the font lacks a character, or nothing is left to sew */
async function sewn(
  { text, font, height, line, radius, spacing, hex, fabric }: Wanted,
  cache: StepCache,
): Promise<{ design: Design; recipe: Recipe; pictures: readonly never[] }> {
  const outlines = outlinesFor(font, text);
  const choices = {
    text,
    font,
    outlines,
    heightMm: height,
    line: line === 'arc' ? ('arc-up' as Baseline) : line,
    radiusMm: radius ?? USUAL_RADIUS,
    letterSpacingMm: spacing,
  };
  const cloth = fabric ?? emptyRecipe().cloth;
  const recipe = parseRecipe({ ...emptyRecipe(), cloth, objects: [newLetters('letters-1', choices, { hex })] });
  const design = await convert({ pictures: {}, recipe, charts: [] }, { cache });
  if (design.pieces.length === 0) throw new UserError(422, 'there is nothing in this text that can be sewn');
  return { design, recipe, pictures: [] };
}
