import { cpus } from 'node:os';
import { basename, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { allFonts } from '@open-kite/server/fonts';
import { UserError } from '@open-kite/server/user-error';
import { csvParse } from 'd3-dsv';
import { Piscina } from 'piscina';
import { clothNamed } from '../cloth.js';
import { checkEndings } from '../content.js';
import { about, readInput, wrongWith } from '../files.js';
import { USUAL_RADIUS, type LetterFlags } from '../letter-options.js';
import { writeNames, writeText, type NameList, type WantedText } from '../sewn-text.js';

/** `open-kite fonts`: what letters can be set in. */
export async function fontsCommand(json: boolean): Promise<void> {
  const fonts = allFonts();
  const lines = fonts.map(({ id, name, leastMm, hint }) => `${id.padEnd(16)} ${name}, from ${leastMm} mm: ${hint}`);
  process.stdout.write(json ? JSON.stringify(fonts, null, 2) + '\n' : lines.join('\n') + '\n');
  return Promise.resolve();
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
  await writeText({ ...flags, text: text.replaceAll('\\n', '\n') }, flags.out);
}

/** Fewer names than this a thread are not worth its start. */
const NAMES_A_THREAD = 8;

/** One design a line of the list, on several threads where it is long; lines that fail are said, the others made. */
async function namesCommand(list: string, flags: LetterFlags & { readonly out: string }): Promise<void> {
  const rows = rowsOf(list, (await readInput(list)).toString('utf8'));
  const taken = new Set<string>();
  const faults = new Map<number, string>();
  const tasks: NameList['tasks'][number][] = [];
  rows.forEach((row, i) => {
    const file = join(flags.out, fileNameOf(row['file'] ?? row['text'] ?? '', taken));
    try {
      tasks.push({ row: i, wanted: wantedOf(row, flags), file });
    } catch (error) {
      faults.set(i, wrongWith(error));
    }
  });
  // This thread has all that is needed loaded already: it sews along.
  const helpers = Math.max(0, Math.min(cpus().length, Math.floor(tasks.length / NAMES_A_THREAD)) - 1);
  const names: NameList = { tasks, next: new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT)) };
  const pool =
    helpers > 0
      ? new Piscina<NameList, Awaited<ReturnType<typeof writeNames>>>({
          filename: fileURLToPath(new URL('../sewn-text.js', import.meta.url)),
          name: 'writeNames',
          minThreads: helpers,
          maxThreads: helpers,
        })
      : undefined;
  try {
    const shares = pool ? Array.from({ length: helpers }, () => pool.run(names)) : [];
    for (const share of await Promise.all([...shares, writeNames(names)]))
      for (const [row, fault] of share) faults.set(row, fault);
    for (const [i, fault] of [...faults].sort(([a], [b]) => a - b))
      process.stderr.write(`open-kite: ${basename(list)}: line ${i + 2}: ${fault}\n`);
    if (faults.size > 0) throw new UserError(422, `${faults.size} of ${rows.length} names could not be made`);
  } finally {
    await pool?.destroy();
  }
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
function wantedOf(row: Row, flags: LetterFlags): WantedText {
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
