import { basename } from 'node:path';
import {
  convert,
  likenessOf,
  parseRecipe,
  parseStash,
  pictureAlone,
  FIRST_PICTURE,
  pictureOfInput,
  preparedPicture,
  stashKeys,
  StepCache,
  reportOf,
  repairAll,
  STEPS,
  type ConvertInput,
  type Design,
  type Raster,
  type Recipe,
  type StepName,
} from '@open-kite/core';
import { decodePicture, firstRecipe, type DecodedPicture } from '@open-kite/server';
import { CHART_FOLDER, readCharts } from '@open-kite/server/charts';
import { archivedPicture, checkEndings, contentOf } from '../content.js';
import { about, readInput, writeOutputs } from '../files.js';
import { applyFlags, type ConvertFlags } from '../options.js';

interface Converted {
  readonly design: Design;
  readonly recipe: Recipe;
  readonly decoded: DecodedPicture;
  /** The picture as it was to be sewn; made only where it is asked for. */
  readonly prepared: () => Promise<Raster>;
  readonly seconds: Record<string, number>;
}

async function readRecipe(file: string): Promise<Recipe> {
  const text = (await readInput(file)).toString('utf8');
  try {
    return parseRecipe(JSON.parse(text));
  } catch (error) {
    throw about(file, error instanceof SyntaxError ? new Error('this is not JSON') : error);
  }
}

async function readStash(file: string): Promise<ReadonlySet<string>> {
  const { entries, bad } = parseStash((await readInput(file)).toString('utf8'));
  const [first] = bad;
  if (first) throw about(file, new Error(`line ${first.line}: ${first.message}`));
  return stashKeys(entries);
}

/** Decodes a picture and converts it, timing each step. */
export async function convertFile(
  file: string,
  flags: ConvertFlags,
  note: (line: string) => void = (line) => void process.stderr.write(line),
): Promise<Converted> {
  const bytes = await readInput(file);
  const decoded = await decodePicture(bytes).catch((error: unknown) => {
    throw about(file, error);
  });
  const { raster, artwork } = decoded;
  const base = flags.recipe ? await readRecipe(flags.recipe) : firstRecipe(decoded);
  const recipe = applyFlags(base, flags, (text) => {
    note(`open-kite: ${basename(file)}: ${text}\n`);
  });
  const stash = flags.stash ? await readStash(flags.stash) : undefined;
  const charts = readCharts(CHART_FOLDER);
  const seconds: Record<string, number> = { total: 0, ...Object.fromEntries(STEPS.map((step) => [step, 0])) };
  const progress = progressLine(flags.quiet !== true, basename(file));
  let step: string | undefined;
  let since = performance.now();
  const mark = (next?: string): void => {
    const now = performance.now();
    if (step) seconds[step] = (seconds[step] ?? 0) + (now - since) / 1000;
    step = next;
    since = now;
  };
  const cache = new StepCache();
  // Whatever pictures a recipe has: this is the one it is carried out on.
  const sources = recipe.objects.flatMap((object) => (object.kind === 'picture' ? [object.source] : []));
  const picture = { key: 'picture', raster, artwork };
  const pictures = Object.fromEntries([FIRST_PICTURE, ...sources].map((source) => [source, picture]));
  const input: ConvertInput = { pictures, recipe, charts, stash };
  const options = {
    cache,
    progress: (name: StepName, share: number): void => {
      if (name !== step) mark(name);
      progress(name, share);
    },
  };
  const first = await convert(input, options);
  const { design, recipe: mended } = await repairAll(first, recipe, flags.repair ?? 'none', (next) =>
    convert({ ...input, recipe: next }, options),
  );
  mark();
  progress.end();
  if (design.stitches.count <= 1) {
    const why = artwork
      ? artwork.problems.map(({ text }) => ` ${text}`).join('')
      : ' All of it is bare: transparent, a plain ground that is dropped (--ground keep sews it), or left bare by the recipe.';
    throw about(file, new Error(`there is nothing in this ${artwork ? 'artwork' : 'picture'} that can be sewn.${why}`));
  }
  const prepared = (): Promise<Raster> => preparedPicture(pictureOfInput(input), cache);
  return { design, recipe: mended, decoded, prepared, seconds };
}

/** `open-kite convert`: one picture into one or several files, and a report if asked for. */
export async function convertCommand(file: string, outputs: readonly string[], flags: ConvertFlags): Promise<void> {
  checkEndings(outputs);
  const made = await convertFile(file, flags);
  const files = new Map<string, Uint8Array | string>();
  const { design, recipe } = made;
  const pictures = [{ source: FIRST_PICTURE, ...(await archivedPicture(made.decoded)) }];
  for (const output of outputs) files.set(output, await contentOf(output, { design, recipe, pictures }));
  if (flags.report) files.set(flags.report, await reportText(made));
  await writeOutputs(files);
}

async function reportText({ design, recipe, prepared, seconds }: Converted): Promise<string> {
  const since = performance.now();
  const likeness = likenessOf(pictureAlone(design), await prepared());
  seconds['likeness'] = (performance.now() - since) / 1000;
  seconds['total'] = Object.entries(seconds).reduce((sum, [step, s]) => (step === 'total' ? sum : sum + s), 0);
  for (const step of Object.keys(seconds)) seconds[step] = Number((seconds[step] ?? 0).toFixed(3));
  return JSON.stringify(reportOf(design, likeness, seconds, { design, recipe }), null, 2) + '\n';
}

interface Progress {
  (step: string, share: number): void;
  end(): void;
}

/** One line on a terminal that is written over; nothing where output goes to a file. */
function progressLine(wanted: boolean, name: string): Progress {
  const shown = wanted && process.stderr.isTTY;
  const line = ((step: string, share: number) => {
    if (shown) process.stderr.write(`\r${name}: ${String(Math.round(share * 100)).padStart(3)} % ${step.padEnd(10)}`);
  }) as Progress;
  line.end = () => void (shown && process.stderr.write('\r'.padEnd(name.length + 22) + '\r'));
  return line;
}
