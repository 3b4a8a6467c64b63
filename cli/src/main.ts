import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import {
  likenessOf,
  renderDesign,
  reportOf,
  writePng,
  writeShapeSvg,
  convert,
  FIRST_PICTURE,
  parseRecipe,
  pictureOf,
  pictureOfInput,
  preparedPicture,
  viewOf,
  withoutPieces,
  withView,
  type ConvertInput,
  type PictureView,
  reducedPicture,
  type Look,
} from '@open-kite/core';
import { seedSamples } from '@open-kite/demo';
import {
  CHART_FOLDER,
  decodePicture,
  firstRecipe,
  readCharts,
  serve,
  UserError,
  type DecodedPicture,
} from '@open-kite/server';
import { batchCommand, convertCommand } from './convert-command.js';
import { about, openDesign, readInput, writeOutputs } from './files.js';
import { CONVERT_OPTIONS, chartOption, colourOption, type ConvertFlags } from './options.js';

const program = new Command('open-kite')
  .description('Turns pictures into stitch designs for embroidery machines')
  .exitOverride()
  .configureOutput({ writeErr: () => undefined });

const sub = (name: string): Command =>
  program
    .command(name)
    .exitOverride()
    .configureOutput({ writeErr: () => undefined });
const collect = (value: string, before: string[]): string[] => [...before, value];

const convertIt = sub('convert <picture>')
  .description('one picture into stitches')
  .addOption(
    new Option('--out <file>', 'output; its ending decides the format')
      .argParser(collect)
      .default([])
      .makeOptionMandatory(),
  )
  .action(async (picture: string, flags: ConvertFlags & { out: string[] }) => {
    if (flags.out.length === 0) throw new UserError(400, 'convert: --out is missing');
    await convertCommand(picture, flags.out, flags);
  });
const batch = sub('batch <folder>')
  .description('every picture of a folder')
  .requiredOption('--out <folder>', 'where the project archives go')
  .action((folder: string, flags: ConvertFlags & { out: string }) => batchCommand(folder, flags.out, flags));
for (const option of CONVERT_OPTIONS) {
  convertIt.addOption(option());
  batch.addOption(option());
}

sub('report <design>')
  .description('figures of a design')
  .option('--json', 'as JSON')
  .action(async (file: string, { json }: { json?: boolean }) => {
    const { sewing, pictures, recipe, outlines } = await openDesign(file);
    const charts = readCharts(CHART_FOLDER);
    const input = recipe && pictures && pictureOf(recipe) && { pictures, recipe, charts };
    const prepared = input && (await preparedPicture(pictureOfInput(input)));
    const alone = withoutPieces(sewing, new Set(outlines));
    const report = reportOf(sewing, prepared && likenessOf(alone, prepared), {});
    if (json) process.stdout.write(JSON.stringify(report, null, 2) + '\n');
    else process.stdout.write(reportLines(report).join('\n') + '\n');
  });

function reportLines(r: ReturnType<typeof reportOf>): string[] {
  const lines = [
    `size          ${r.widthMm} x ${r.heightMm} mm`,
    `stitches      ${r.stitches} (longest ${r.longestStitchMm} mm, ${(r.shortStitchShare * 100).toFixed(2)} % under 0.3 mm)`,
    `trims, jumps  ${r.trims}, ${r.jumps}`,
    `minutes       ${r.minutes.oneNeedle} on one needle, ${r.minutes.multiNeedle} on several`,
    `pieces        ${r.pieces}`,
    `findings      ${r.findings.problem} problems, ${r.findings.advice} advice`,
  ];
  if (r.likeness) lines.push(`likeness      difference ${r.likeness.deltaE}, similarity ${r.likeness.ssim}`);
  for (const t of r.threads) lines.push(`  ${t.hex} ${t.code} ${t.name}: ${t.stitches} stitches, ${t.lengthM} m`);
  return lines;
}

const numberOver0 = (text: string): number => {
  const value = Number(text);
  if (!(value > 0) || !Number.isFinite(value)) throw new InvalidArgumentError(`must be a number over 0, got "${text}"`);
  return value;
};

sub('render <design>')
  .description('a picture of a design')
  .requiredOption('--out <file>', 'a .png')
  .option('--px-per-mm <n>', 'scale', numberOver0, 10)
  .addOption(
    new Option('--look <look>', 'how it is drawn').choices(['sewn', 'line', 'density', 'forecast']).default('sewn'),
  )
  .action(async (file: string, { out, pxPerMm, look }: { out: string; pxPerMm: number; look: Look | 'forecast' }) => {
    if (look === 'forecast') throw new UserError(400, '--look: the pull forecast is planned and not built yet');
    if (!/\.png$/i.test(out)) throw new UserError(400, `${out}: a rendered picture ends in .png`);
    const { sewing } = await openDesign(file);
    await writeOutputs(new Map([[out, writePng(renderDesign(sewing, pxPerMm, look))]]));
  });

/** Decodes a picture. @throws UserError that names the file. */
async function openPicture(file: string): Promise<DecodedPicture> {
  return decodePicture(await readInput(file)).catch((error: unknown) => {
    throw about(file, error);
  });
}

/** A picture with a first recipe, changed. */
function inputWith(decoded: DecodedPicture, change: (view: PictureView) => PictureView): ConvertInput {
  const first = firstRecipe(decoded);
  const picture = pictureOf(first);
  const recipe = picture ? parseRecipe(withView(first, change(viewOf(first, picture)))) : first;
  const { raster, artwork } = decoded;
  const pictures = { [FIRST_PICTURE]: { key: 'picture', raster, artwork } };
  return { pictures, recipe, charts: readCharts(CHART_FOLDER) };
}

sub('trace <picture>')
  .description('shapes only, no stitches')
  .requiredOption('--out <file>', 'an .svg')
  .addOption(colourOption())
  .option('--strictness <mm>', 'how far an outline may leave the edge', numberOver0)
  .action(async (file: string, flags: { out: string; colours?: number | 'auto'; strictness?: number }) => {
    if (!/\.svg$/i.test(flags.out)) throw new UserError(400, `${flags.out}: traced shapes end in .svg`);
    const decoded = await openPicture(file);
    const input = inputWith(decoded, (base) => ({
      ...base,
      method: 'pieces',
      picture: { ...base.picture, dropGround: false },
      colours: { ...base.colours, count: flags.colours ?? 'auto', smallestSpotMm2: 0 },
      pieces: { ...base.pieces, strictnessMm: flags.strictness ?? base.pieces.strictnessMm, smallestMm2: 0 },
    }));
    const design = await convert(input);
    await writeOutputs(new Map([[flags.out, writeShapeSvg(design)]]));
  });

sub('reduce <picture>')
  .description('colours only')
  .requiredOption('--out <file>', 'a .png')
  .addOption(colourOption())
  .addOption(chartOption())
  .action(async (file: string, flags: { out: string; colours?: number | 'auto'; chart?: string[] }) => {
    if (!/\.png$/i.test(flags.out)) throw new UserError(400, `${flags.out}: a reduced picture ends in .png`);
    const decoded = await openPicture(file);
    const input = inputWith(decoded, (base) => ({
      ...base,
      method: 'pieces',
      colours: { ...base.colours, count: flags.colours ?? 'auto', charts: flags.chart ?? [], smallestSpotMm2: 0 },
      pieces: { ...base.pieces, smallestMm2: 0 },
    }));
    const reduced = await reducedPicture(pictureOfInput(input));
    await writeOutputs(new Map([[flags.out, writePng(reduced)]]));
  });

const port = (text: string): number => {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 0 || value > 65535) {
    throw new InvalidArgumentError(`must be a whole number from 0 to 65535, got "${text}"`);
  }
  return value;
};

sub('serve')
  .description('the application in a browser')
  .option('--port <n>', 'port on 127.0.0.1', port, 4780)
  .option('--data <folder>', 'where projects are kept', 'data')
  .option('--demo', 'fill an empty store with the sample projects')
  .action(async (flags: { port: number; data: string; demo?: boolean }) => {
    const started = Date.now();
    const seed = flags.demo ? seedSamples : undefined;
    const server = await serve({ port: flags.port, data: flags.data, seed }).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE') throw new UserError(400, `--port: ${flags.port} is already in use`);
      throw error;
    });
    process.stdout.write(
      `Open Kite is ready at ${server.address} (after ${((Date.now() - started) / 1000).toFixed(1)} s)\n`,
    );
    const stop = (): void => void server.close().then(() => process.exit(0));
    process.once('SIGINT', stop);
    process.once('SIGTERM', stop);
  });

/** What is wrong, on one line. */
function lineOf(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  return message
    .replace(/^error: /, '')
    .replace(
      /option '(--[\w-]+)[^']*' argument '[^']*' is invalid\. (Allowed choices are (.*?)\.?$)?/s,
      (_all, name: string, _c, list?: string) => (list ? `${name}: must be one of ${list}` : `${name} `),
    )
    .replace(/\s+/g, ' ')
    .trim();
}

try {
  if (process.argv.length <= 2) program.outputHelp();
  else await program.parseAsync(process.argv);
} catch (error) {
  if (error instanceof CommanderError) {
    if (error.exitCode === 0 || error.code === 'commander.help') process.exit(error.exitCode === 0 ? 0 : 2);
    process.stderr.write(`open-kite: ${lineOf(error)}\n`);
    process.exit(2);
  }
  if (error instanceof UserError || error instanceof RangeError) {
    process.stderr.write(`open-kite: ${lineOf(error)}\n`);
    process.exit(2);
  }
  process.stderr.write(`open-kite: something went wrong inside (${lineOf(error)})\n`);
  process.exit(1);
}
