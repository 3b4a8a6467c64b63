import { InvalidArgumentError, Option } from 'commander';
import {
  finishedSize,
  LIMITS,
  METHOD_IDS,
  pictureOf,
  renderMethodOf,
  parseRecipe,
  stretch,
  withinHoop,
  REPAIR_ASKS,
  TRIMS,
  type Trims,
  type LimitName,
  type RepairAsk,
  viewOf,
  withView,
  type PictureView,
  type DesignCloth,
  type Recipe,
} from '@open-kite/core';
import { clothNamed } from './cloth.js';

/** Options of convert and batch, as the user gave them. */
export interface ConvertFlags {
  readonly method?: string;
  readonly width?: number;
  readonly height?: number;
  readonly colours?: number | 'auto';
  readonly chart?: readonly string[];
  readonly fabric?: DesignCloth;
  readonly ground?: 'keep' | 'drop';
  readonly cell?: number;
  readonly budget?: number;
  readonly needles?: number;
  readonly recipe?: string;
  readonly report?: string;
  readonly quiet?: boolean;
  readonly stash?: string;
  readonly repair?: RepairAsk;
  readonly trims?: Trims;
}

export const limited =
  (name: LimitName, whole = false) =>
  (text: string): number => {
    const [least, most] = LIMITS[name];
    const value = Number(text);
    if (
      text.trim() === '' ||
      !Number.isFinite(value) ||
      value < least ||
      value > most ||
      (whole && !Number.isInteger(value))
    ) {
      const kind = whole ? 'a whole number' : 'a number';
      throw new InvalidArgumentError(`must be ${kind} from ${least} to ${most}, got "${text}"`);
    }
    return value;
  };

/** A length of the finished design; what is more than a hoop holds is scaled down later. */
const length =
  (name: 'widthMm' | 'heightMm') =>
  (text: string): number => {
    const value = Number(text);
    if (text.trim() !== '' && value > LIMITS[name][1] && value <= MOST_LENGTH) return value;
    return limited(name)(text);
  };

/** Longer than this a size is a slip of the finger. */
const MOST_LENGTH = 4000;

const wholeOver0 = (text: string): number => {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1)
    throw new InvalidArgumentError(`must be a whole number over 0, got "${text}"`);
  return value;
};

const colours = (text: string): number | 'auto' => (text === 'auto' ? 'auto' : limited('count', true)(text));

export const fabric = (text: string): DesignCloth => {
  try {
    return clothNamed(text);
  } catch (error) {
    throw new InvalidArgumentError((error as Error).message);
  }
};

const METHODS = ['auto', ...METHOD_IDS];

const method = (text: string): string => {
  if (!METHODS.includes(text)) {
    throw new InvalidArgumentError(`must be one of ${METHODS.join(', ')}, got "${text}"`);
  }
  return text;
};

const budget = (text: string): number => {
  const value = wholeOver0(text);
  const [least, most] = LIMITS.budget;
  if (value < least || value > most) throw new InvalidArgumentError(`must be from ${least} to ${most}, got "${text}"`);
  return value;
};

/** Size of a cell, within the limits of the method that has cells. */
const cell = (text: string): number => {
  const option = renderMethodOf('cross')?.options['cellMm'];
  const value = Number(text);
  if (option?.type !== 'number' || text.trim() === '' || !(value >= option.least && value <= option.most)) {
    const [least, most] = option?.type === 'number' ? [option.least, option.most] : [0, 0];
    throw new InvalidArgumentError(`must be a number from ${least} to ${most}, got "${text}"`);
  }
  return value;
};

export const colourOption = (): Option => new Option('--colours <n|auto>', 'threads at most').argParser(colours);
export const chartOption = (): Option =>
  new Option('--chart <id[,id]|none>', "match to charts, or keep the picture's colours").argParser((text: string) =>
    text === 'none' ? [] : text.split(',').map((id) => id.trim()),
  );

/** Options shared by convert and batch. */
export const CONVERT_OPTIONS: readonly (() => Option)[] = [
  () => new Option('--method <name>', 'how the picture is sewn; auto goes by what it is').argParser(method),
  () => new Option('--width <mm>', 'finished width; gives the height too').argParser(length('widthMm')),
  () => new Option('--height <mm>', 'finished height; gives the width too').argParser(length('heightMm')),
  colourOption,
  chartOption,
  () =>
    new Option('--fabric <id|file.json>', 'fabric, or one that was measured; quilting-cotton unless said').argParser(
      fabric,
    ),
  () => new Option('--ground <keep|drop>', 'plain ground: sew it or leave it bare').choices(['keep', 'drop']),
  () => new Option('--cell <mm>', 'counted cross: size of a cell').argParser(cell),
  () => new Option('--budget <stitches>', 'stay at or below this many stitches').argParser(budget),
  () => new Option('--needles <n>', '1 for few thread changes').argParser(limited('needles', true)),
  () => new Option('--recipe <file>', 'all settings as JSON; options on the line win'),
  () => new Option('--report <file>', 'write the figures as JSON'),
  () => new Option('--stash <file>', 'threads in the drawer (chart,code,spools), for a recipe that uses only those'),
  () =>
    new Option('--repair <none|safe|all>', 'carry out repairs of findings; safe: those that change no shape').choices([
      ...REPAIR_ASKS,
    ]),
  () =>
    new Option('--trims <never|beyond|always>', 'when threads are cut; beyond the trim distance unless said').choices(
      TRIMS,
    ),
  () => new Option('--quiet', 'no progress'),
];

const part = (text: string): readonly [number, number] => {
  const [k, n] = (/^(\d+)\/(\d+)$/.exec(text) ?? []).slice(1).map(Number);
  if (k === undefined || n === undefined || k < 1 || n < 1 || k > n || n > MOST_PARTS) {
    throw new InvalidArgumentError(`must be K/N with K from 1 to N, got "${text}"`);
  }
  return [k, n];
};
const MOST_PARTS = 100_000;

/** Options of batch alone. */
export const BATCH_OPTIONS: readonly (() => Option)[] = [
  () => new Option('--jobs <n>', 'worker threads; as many as processors unless said').argParser(wholeOver0),
  () =>
    new Option(
      '--part <K/N>',
      'every N-th picture from the K-th on: what an outside engine runs side by side',
    ).argParser(part),
];

const withCell = (rendering: PictureView['rendering'], cellMm: number): PictureView['rendering'] => ({
  ...rendering,
  values: { ...rendering.values, cross: { ...rendering.values['cross'], cellMm } },
});

/** A finished size in words. */
export const sizeText = ({ widthMm, heightMm }: { widthMm: number; heightMm: number }): string =>
  `${Number(widthMm.toFixed(1))} x ${Number(heightMm.toFixed(1))} mm`;

/** Lays the options given on the line over what is said of a recipe's lowest picture, and of the design. */
export function applyFlags(
  recipe: Recipe,
  flags: ConvertFlags,
  note: (text: string) => void = () => undefined,
): Recipe {
  const picture = pictureOf(recipe);
  if (!picture) throw new RangeError('recipe: there is no picture in it that could be converted');
  return parseRecipe(withView(recipe, flaggedView(viewOf(recipe, picture), flags, note)));
}

/**
 * Lays the options given on the line over a recipe. One of width and height gives the other.
 * @param note hears what was done differently from what was asked
 */
function flaggedView(base: PictureView, flags: ConvertFlags, note: (text: string) => void): PictureView {
  const before = finishedSize(base.picture);
  const { width, height } = flags;
  // The side that is not given follows the other, down to the least that can be sewn.
  const follow = (given: number, of: number, side: number): number => Math.max(LIMITS.widthMm[0], (given / of) * side);
  const factorX = (width ?? follow(height ?? 0, before.heightMm, before.widthMm)) / before.widthMm;
  const factorY = (height ?? follow(width ?? 0, before.widthMm, before.heightMm)) / before.heightMm;
  const wanted = width === undefined && height === undefined ? base.picture : stretch(base.picture, factorX, factorY);
  const fitted = withinHoop(wanted);
  if (fitted !== wanted) {
    note(`${sizeText(finishedSize(wanted))} is more than a hoop holds; made ${sizeText(finishedSize(fitted))}`);
  }
  const round = (mm: number): number => Number(mm.toFixed(2));
  const picture = { ...fitted, widthMm: round(fitted.widthMm), heightMm: round(fitted.heightMm) };
  return {
    ...base,
    picture: { ...picture, dropGround: flags.ground ? flags.ground === 'drop' : picture.dropGround },
    colours: {
      ...base.colours,
      count: flags.colours ?? base.colours.count,
      charts: flags.chart ?? base.colours.charts,
    },
    cloth: flags.fabric ?? base.cloth,
    order: {
      ...base.order,
      needles: flags.needles ?? base.order.needles,
      ...(flags.trims ? { trims: flags.trims } : {}),
    },
    method: flags.method === undefined || flags.method === 'auto' ? base.method : flags.method,
    rendering: flags.cell === undefined ? base.rendering : withCell(base.rendering, flags.cell),
    budget: flags.budget ?? base.budget,
  };
}
