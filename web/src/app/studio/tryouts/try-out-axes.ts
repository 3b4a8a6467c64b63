import {
  fabricOf,
  FABRICS,
  LIMITS,
  OFFSET_PATTERNS,
  PIECES_METHOD,
  RENDER_METHODS,
  renderMethodOf,
  renderValues,
  type LimitName,
  type PictureView,
  type RenderMethod,
} from '@open-kite/core';
import type { Draft } from '../../project/history';
import type { Choice } from '../../shared/choice-field';

/** A setting that try-outs can differ in by numbers. */
export interface NumberAxis {
  readonly kind: 'number';
  readonly id: string;
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly unit: string;
  readonly read: (recipe: PictureView) => number;
  readonly write: (recipe: Draft<PictureView>, value: number) => void;
}

/** A setting that is one of several things. */
export interface ChoiceAxis {
  readonly kind: 'choice';
  readonly id: string;
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly read: (recipe: PictureView) => string;
  readonly write: (recipe: Draft<PictureView>, id: string) => void;
}

/** A setting that try-outs can differ in. */
export type Axis = NumberAxis | ChoiceAxis;

/** What try-outs of a project can be made of, besides its recipe. */
export interface AtHand {
  readonly suggestedColours: number;
  readonly charts: readonly { readonly id: string; readonly name: string }[];
}

const limited = (
  id: LimitName,
  label: string,
  step: number,
  unit: string,
  read: NumberAxis['read'],
  write: NumberAxis['write'],
): NumberAxis => ({ kind: 'number', id, label, least: LIMITS[id][0], most: LIMITS[id][1], step, unit, read, write });

const COUNT = (usual: number): NumberAxis =>
  limited(
    'count',
    'Threads at most',
    1,
    '',
    ({ colours }) => (colours.count === 'auto' ? usual : colours.count),
    ({ colours }, value) => (colours.count = Math.round(value)),
  );

/** One option of a method. */
function optionAxis(method: RenderMethod, name: string, option: RenderMethod['options'][string]): Axis {
  const { label } = option;
  const read = (recipe: PictureView): unknown => renderValues(method, recipe.rendering.values[method.id] ?? {})[name];
  const write = (recipe: Draft<PictureView>, value: string | number): void => {
    const values = (recipe.rendering.values[method.id] ??= {});
    values[name] = value;
    // An option counts where another one has the value it stands under.
    if (option.when) values[option.when[0]] = option.when[1];
  };
  if (option.type === 'choice') {
    return { kind: 'choice', id: name, label, choices: option.choices, read: (recipe) => String(read(recipe)), write };
  }
  const { least, most, unit } = option;
  const step = Math.max(option.step, Number(((most - least) / 12).toPrecision(1)));
  return { kind: 'number', id: name, label, least, most, step, unit, read: (recipe) => Number(read(recipe)), write };
}

const METHOD: ChoiceAxis = {
  kind: 'choice',
  id: 'method',
  label: 'Method',
  // Traced pieces of a photograph take longest.
  choices: [...RENDER_METHODS.map(({ id, name }) => ({ id, name })), { id: PIECES_METHOD, name: 'Flat pieces' }],
  read: ({ method }) => method,
  write: (recipe, id) => (recipe.method = id),
};

const PATTERN: ChoiceAxis = {
  kind: 'choice',
  id: 'pattern',
  label: 'Stitch pattern',
  choices: OFFSET_PATTERNS.map(({ id, name }) => ({ id, name })),
  read: ({ stitches }) => stitches.pattern,
  write: ({ stitches }, id) => (stitches.pattern = id),
};

const CLOTH: ChoiceAxis = {
  kind: 'choice',
  id: 'cloth',
  label: 'Cloth',
  choices: FABRICS.map(({ id, name, hex }) => ({ id, name, hex })),
  read: ({ cloth }) => cloth.fabric,
  write: (recipe, id) => {
    // What was measured was measured on another cloth.
    recipe.cloth = { fabric: id, hex: fabricOf(id).hex };
  },
};

const WIDTH: NumberAxis = limited(
  'widthMm',
  'Width',
  20,
  'mm',
  ({ picture }) => picture.widthMm,
  ({ picture }, value) => {
    const { widthMm, heightMm } = picture;
    picture.heightMm = Math.max(LIMITS.heightMm[0], Number(((heightMm * value) / widthMm).toFixed(2)));
    picture.widthMm = value;
  },
);

/** Threads of one chart; no id is any colour there is. */
const chartAxis = (charts: AtHand['charts']): ChoiceAxis => ({
  kind: 'choice',
  id: 'chart',
  label: 'Thread chart',
  choices: [{ id: '', name: 'Any colour' }, ...charts.map(({ id, name }) => ({ id, name }))],
  read: ({ colours }) => colours.charts[0] ?? '',
  write: ({ colours }, id) => (colours.charts = id === '' ? [] : [id]),
});

/** Settings of a recipe's method that try-outs can be made of. */
export function axesOf(recipe: PictureView, { suggestedColours, charts }: AtHand): Axis[] {
  const method = recipe.method === PIECES_METHOD ? undefined : renderMethodOf(recipe.method);
  const whole = [WIDTH, CLOTH, ...(charts.length > 0 ? [chartAxis(charts)] : [])];
  if (!method) {
    return [
      COUNT(suggestedColours),
      limited(
        'spacingMm',
        'Row spacing',
        0.1,
        'mm',
        ({ stitches }) => stitches.spacingMm,
        ({ stitches }, v) => (stitches.spacingMm = v),
      ),
      limited(
        'angle',
        'Row angle',
        30,
        '°',
        ({ stitches }) => stitches.angle,
        ({ stitches }, v) => (stitches.angle = v),
      ),
      limited(
        'smallestMm2',
        'Smallest piece',
        1,
        'mm²',
        ({ pieces }) => pieces.smallestMm2,
        ({ pieces }, v) => (pieces.smallestMm2 = v),
      ),
      limited(
        'satinBelowMm',
        'Satin up to',
        1,
        'mm',
        ({ pieces }) => pieces.satinBelowMm,
        ({ pieces }, v) => (pieces.satinBelowMm = v),
      ),
      PATTERN,
      METHOD,
      ...whole,
    ];
  }
  const own = Object.entries(method.options).map(([name, option]): Axis => optionAxis(method, name, option));
  const { from } = method.threads;
  const count = from === 'mix' || from === 'colours' ? [COUNT(method.threads.usual)] : [];
  return [METHOD, ...count, ...own, ...whole];
}

/** What is tried first of a choice: all ways to sew; of other things what is now, and the two after it. */
export function firstChoices(axis: ChoiceAxis, recipe: PictureView): string[] {
  const ids = axis.choices.map(({ id }) => id);
  if (axis.id === 'method') return ids;
  const at = Math.max(0, ids.indexOf(axis.read(recipe)));
  return [...ids.slice(at), ...ids.slice(0, at)].slice(0, 3);
}

/** Three values around the present one, within the limits. */
export function valuesAround(axis: NumberAxis, recipe: PictureView): number[] {
  const now = axis.read(recipe);
  const from = Math.max(axis.least, Math.min(now - axis.step, axis.most - 2 * axis.step));
  return [0, 1, 2].map((k) => Number((from + k * axis.step).toFixed(3)));
}

/**
 * Reads a list of numbers as somebody types it.
 * @returns undefined where something in it is no number or out of the limits
 */
export function parseValues(text: string, axis: NumberAxis): number[] | undefined {
  const parts = text
    .split(/[;,\s]+/)
    .filter((part) => part !== '')
    .map(Number);
  const good = parts.every((value) => Number.isFinite(value) && value >= axis.least && value <= axis.most);
  return good && parts.length > 0 ? [...new Set(parts)] : undefined;
}
