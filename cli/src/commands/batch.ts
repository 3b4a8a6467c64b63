import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { cpus } from 'node:os';
import { basename, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { CORE_VERSION, madeFrom, readArchive, reportOf, type Report } from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';
import { Piscina } from 'piscina';
import type { BatchTask, BatchOutcome } from '../batch-worker.js';
import { busyThreads } from '../busy-threads.js';
import { readInput, writeOutputs } from '../files.js';
import type { ConvertFlags } from '../options.js';

const WORKER = fileURLToPath(new URL('../batch-worker.js', import.meta.url));
const PICTURES = /\.(png|jpe?g|webp|gif|bmp|tiff?|svg)$/i;

export interface BatchFlags extends ConvertFlags {
  readonly out: string;
  readonly jobs?: number;
  /** Every N-th picture from the K-th on. */
  readonly part?: readonly [k: number, n: number];
}

/** What became of one picture. */
interface Entry {
  readonly file: string;
  readonly state: 'done' | 'kept' | 'failed';
  readonly error?: string;
  readonly figures?: Omit<Report, 'seconds'>;
}

/**
 * `open-kite batch`: every picture of a folder into project archives, on several threads. Pictures that fail are said, and the
 * others made; what is there already, from the same picture by the same settings, is kept.
 */
export async function batchCommand(folder: string, flags: BatchFlags): Promise<void> {
  const names = await readdir(folder).catch(() => {
    throw new UserError(422, `${folder}: this folder cannot be read`);
  });
  const pictures = names.filter((name) => PICTURES.test(name)).sort();
  if (pictures.length === 0) throw new UserError(422, `${folder}: there are no pictures in this folder`);
  const outputs = outputNames(pictures);
  const [k, n] = flags.part ?? [1, 1];
  const own = pictures.filter((_, i) => i % n === k - 1);
  const settings = await settingsKey(flags);
  const { jobs = cpus().length, out, report: reportFile, part, ...convertFlags } = flags;
  void part;
  const threads = Math.max(1, Math.min(jobs, own.length));
  const pool = new Piscina<BatchTask, BatchOutcome>({
    filename: WORKER,
    name: 'batchOne',
    minThreads: threads,
    maxThreads: threads,
    // Results are written as they come: a run that is ended loses no more than what is under way.
    concurrentTasksPerWorker: 1,
    resourceLimits: busyThreads(threads),
  });
  const entries: Entry[] = [];
  const tell = (entry: Entry): void => {
    entries.push(entry);
    if (entry.state === 'failed') process.stderr.write(`open-kite: ${entry.error ?? entry.file}\n`);
    else if (!flags.quiet) {
      const kept = entry.state === 'kept' ? ' (kept)' : '';
      process.stderr.write(`${entries.length}/${own.length} ${entry.file}${kept}\n`);
    }
  };
  const one = async (name: string): Promise<void> => {
    const file = join(folder, name);
    const to = join(out, outputs.get(name) ?? `${name}.kite`);
    try {
      const input = createHash('sha256')
        .update(await readInput(file))
        .digest('hex');
      const made = { input, settings };
      const kept = await keptFigures(to, made);
      if (kept) return tell({ file: name, state: 'kept', figures: kept });
      const outcome = await pool.run({ file, to, flags: { ...convertFlags, quiet: true }, made });
      if ('error' in outcome) tell({ file: name, state: 'failed', error: outcome.error });
      else {
        for (const note of outcome.notes) process.stderr.write(note);
        tell({ file: name, state: 'done', figures: outcome.figures });
      }
    } catch (error) {
      if (!(error instanceof UserError)) throw error;
      tell({ file: name, state: 'failed', error: error.message });
    }
  };
  try {
    await Promise.all(own.map(one));
  } finally {
    await pool.destroy();
  }
  // As the pictures are named, however the threads were done with them.
  const sorted = entries.sort((a, b) => (a.file < b.file ? -1 : 1));
  if (reportFile) await writeOutputs(new Map([[reportFile, JSON.stringify(sorted, null, 2) + '\n']]));
  const failed = sorted.filter(({ state }) => state === 'failed').length;
  if (failed > 0) throw new UserError(422, `${failed} of ${own.length} pictures could not be converted`);
}

/** A name for the archive of each picture; two pictures that differ in their endings alone keep those. */
function outputNames(pictures: readonly string[]): Map<string, string> {
  const bases = pictures.map((name) => basename(name, extname(name)));
  return new Map(
    pictures.map((name, i) => {
      const base = bases[i] ?? name;
      const alone = bases.filter((other) => other.toLowerCase() === base.toLowerCase()).length === 1;
      return [name, `${alone ? base : `${base}-${extname(name).slice(1).toLowerCase()}`}.kite`];
    }),
  );
}

/** Names the settings of a run: the same options and the same files behind them, the same name. */
async function settingsKey(flags: BatchFlags): Promise<string> {
  const { out, jobs, part, report, quiet, recipe, stash, ...rest } = flags;
  void [out, jobs, part, report, quiet];
  const files = await Promise.all(
    [recipe, stash].map(async (file) => (file ? (await readInput(file)).toString('utf8') : null)),
  );
  const hash = createHash('sha256').update(JSON.stringify([CORE_VERSION, rest, files]));
  return hash.digest('hex');
}

/** Figures of an archive that is there already and was made from just this; undefined where there is none. */
async function keptFigures(
  file: string,
  made: { readonly input: string; readonly settings: string },
): Promise<Omit<Report, 'seconds'> | undefined> {
  const bytes = await readFile(file).catch(() => undefined);
  if (!bytes) return undefined;
  try {
    const known = madeFrom(bytes);
    if (known?.input !== made.input || known.settings !== made.settings) return undefined;
    const { seconds, ...figures } = reportOf(readArchive(bytes).sewing, undefined, {});
    void seconds;
    return figures;
  } catch {
    // Damaged, or something else: it is made anew.
    return undefined;
  }
}
