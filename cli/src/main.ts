import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import type { Look } from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';
import type { LearnFlags } from './commands/card.js';
import type { ServeFlags } from './commands/serve.js';
import type { BatchFlags } from './commands/batch.js';
import { BATCH_OPTIONS, CONVERT_OPTIONS, chartOption, colourOption, type ConvertFlags } from './options.js';
import { LETTER_OPTIONS, type LetterFlags } from './letter-options.js';

// What a command needs is loaded when it runs: help and wrong words are answered at once.

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
    const { convertCommand } = await import('./commands/convert.js');
    await convertCommand(picture, flags.out, flags);
  });
const batch = sub('batch <folder>')
  .description('every picture of a folder')
  .requiredOption('--out <folder>', 'where the project archives go')
  .action(async (folder: string, flags: BatchFlags) => {
    const { batchCommand } = await import('./commands/batch.js');
    await batchCommand(folder, flags);
  });
for (const option of BATCH_OPTIONS) batch.addOption(option());
for (const option of CONVERT_OPTIONS) {
  convertIt.addOption(option());
  batch.addOption(option());
}

sub('export <design>')
  .description('a design into other formats')
  .addOption(
    new Option('--out <file>', 'output; its ending decides the format')
      .argParser(collect)
      .default([])
      .makeOptionMandatory(),
  )
  .action(async (file: string, { out }: { out: string[] }) => {
    if (out.length === 0) throw new UserError(400, 'export: --out is missing');
    const { exportCommand } = await import('./commands/export.js');
    await exportCommand(file, out);
  });

sub('card')
  .description('the test card of a fabric, to be sewn and measured')
  .addOption(
    new Option('--out <file>', 'output; its ending decides the format')
      .argParser(collect)
      .default([])
      .makeOptionMandatory(),
  )
  .option('--fabric <id>', 'fabric it is sewn on', 'quilting-cotton')
  .action(async ({ fabric, out }: { fabric: string; out: string[] }) => {
    if (out.length === 0) throw new UserError(400, 'card: --out is missing');
    const { cardCommand } = await import('./commands/card.js');
    await cardCommand(fabric, out);
  });

sub('learn <photo>')
  .description('a photograph of a sewn test card, or of any sewn design, into a fabric of your own')
  .requiredOption('--out <file.json>', 'the measured fabric; convert takes it as --fabric')
  .requiredOption('--name <name>', 'what the fabric is called')
  .option('--fabric <id>', 'fabric the card was made for', 'quilting-cotton')
  .option('--design <file>', 'the design that was sewn, where it was not the test card')
  .option(
    '--at <x,y...>',
    'where its four corner marks are on the photograph, in pixels, clockwise from the upper left',
  )
  .action(async (photo: string, flags: LearnFlags) => {
    const { learnCommand } = await import('./commands/card.js');
    await learnCommand(photo, flags);
  });

sub('sew <design>')
  .description('sends a design to a practice machine, and waits until it is sewn')
  .requiredOption('--machine <url>', 'address of the machine, as serve prints it')
  .option('--hoop <id>', 'hoop to put in')
  .option('--quiet', 'no progress')
  .action(async (file: string, flags: { machine: string; hoop?: string; quiet?: boolean }) => {
    const { sewCommand } = await import('./commands/sew.js');
    await sewCommand(file, flags);
  });

sub('fonts')
  .description('fonts that letters can be set in')
  .option('--json', 'as JSON')
  .action(async ({ json }: { json?: boolean }) => {
    const { fontsCommand } = await import('./commands/letters.js');
    await fontsCommand(json === true);
  });

const letters = sub('letters [text]')
  .description('a text, or a list of names, into stitches')
  .requiredOption('--font <id>', 'see open-kite fonts')
  .option('--names <file>', 'a .csv with a column text: one design a line')
  .addOption(new Option('--out <file>', 'output, or folder for a list of names').makeOptionMandatory());
for (const option of LETTER_OPTIONS) letters.addOption(option());
letters.action(async (text: string | undefined, flags: LetterFlags & { out: string; names?: string }) => {
  const { lettersCommand } = await import('./commands/letters.js');
  await lettersCommand(text, flags);
});

sub('report <design>')
  .description('figures of a design')
  .option('--json', 'as JSON')
  .action(async (file: string, { json }: { json?: boolean }) => {
    const { reportCommand } = await import('./commands/report.js');
    await reportCommand(file, json === true);
  });

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
  .action(async (file: string, flags: { out: string; pxPerMm: number; look: Look | 'forecast' }) => {
    const { renderCommand } = await import('./commands/render.js');
    await renderCommand(file, flags);
  });

sub('trace <picture>')
  .description('shapes only, no stitches')
  .requiredOption('--out <file>', 'an .svg')
  .addOption(colourOption())
  .option('--strictness <mm>', 'how far an outline may leave the edge', numberOver0)
  .action(async (file: string, flags: { out: string; colours?: number | 'auto'; strictness?: number }) => {
    const { traceCommand } = await import('./commands/trace-reduce.js');
    await traceCommand(file, flags);
  });

sub('reduce <picture>')
  .description('colours only')
  .requiredOption('--out <file>', 'a .png')
  .addOption(colourOption())
  .addOption(chartOption())
  .action(async (file: string, flags: { out: string; colours?: number | 'auto'; chart?: string[] }) => {
    const { reduceCommand } = await import('./commands/trace-reduce.js');
    await reduceCommand(file, flags);
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
  .option('--port <n>', 'port', port, 4780)
  .option('--host <address>', 'address other machines reach it under; 127.0.0.1 where it is not given')
  .option('--passcode-file <file>', 'file with the passcode others are asked for')
  .option('--data <folder>', 'where projects are kept', 'data')
  .option('--demo', 'fill an empty store with the sample projects')
  .action(async (flags: ServeFlags) => {
    const { serveCommand } = await import('./commands/serve.js');
    await serveCommand(flags);
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
