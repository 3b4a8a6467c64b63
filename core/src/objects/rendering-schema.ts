import { array, lazy, mixed, object, string, type ObjectSchema, type Schema } from 'yup';
import type { GridEdits } from '../cross/grid-edits.js';
import { METHOD_IDS, RENDER_METHODS } from '../photo/methods/index.js';
import { hex, namedThread, numbers, oneOf } from '../settings/fields.js';
import { isAllowed, type OptionValues } from '../stitches/stitch-kind.js';
import { gridEditsSchema } from './grid-edits-schema.js';
import type { LineDecision, MixDecision, NamedThread } from './design-object.js';

const MOST_STROKE_NUMBERS = 400;
const REACH = 20;
const UNKNOWN = 'rendering: not known: ${unknown}';

const places = (least: number) =>
  numbers(
    'rendering: a line',
    REACH,
    (n) => n % 2 === 0 && n <= MOST_STROKE_NUMBERS && (n >= least || (n === 0 && least === 6)),
    'pairs of numbers',
  );

/** What each kind of decision on a thread of a mix is made of. */
const MIX: Readonly<Record<MixDecision['kind'], ObjectSchema<object>>> = {
  drop: object({ kind: string().required(), hex: hex('rendering: a thread') }).noUnknown(UNKNOWN),
  first: object({ kind: string().required(), hex: hex('rendering: a thread') }).noUnknown(UNKNOWN),
  last: object({ kind: string().required(), hex: hex('rendering: a thread') }).noUnknown(UNKNOWN),
  swap: object({ kind: string().required(), hex: hex('rendering: a thread'), to: namedThread() }).noUnknown(UNKNOWN),
  keep: object({ kind: string().required(), thread: namedThread() }).noUnknown(UNKNOWN),
};
const NO_KIND = object({ kind: oneOf('rendering: a decision', Object.keys(MIX)) });

const lineShape = (to: boolean) =>
  object({
    kind: oneOf('rendering: a change of lines', ['delete', 'thin', 'recolour', 'favour']),
    threads: array(hex('rendering: a thread')).required().max(60),
    area: places(6),
    ...(to ? { to: namedThread() } : {}),
  }).noUnknown(UNKNOWN);

const kindOf = (value: unknown): unknown => (value as { kind?: unknown } | null)?.kind;

/** Options of renderings, each within its limits. */
const values = object(
  Object.fromEntries(
    RENDER_METHODS.map(({ id, options }) => [
      id,
      object(
        Object.fromEntries(
          Object.entries(options).map(([name, option]) => [
            name,
            mixed<number | string>().test(
              'option',
              `rendering: ${name} of ${id} is not within its limits`,
              (value) => value === undefined || isAllowed(option, value),
            ),
          ]),
        ),
      )
        .noUnknown('rendering: an option is not known: ${unknown}')
        .default(undefined),
    ]),
  ),
).noUnknown('rendering: a method is not known: ${unknown}');

/** What was said of the renderings of a picture. */
export const renderingSchema = object({
  values: values.required() as unknown as ObjectSchema<Record<string, OptionValues>>,
  threads: object(
    Object.fromEntries(METHOD_IDS.map((id) => [id, array(namedThread()).max(6).optional().default(undefined)])),
  )
    .noUnknown('rendering: a method is not known: ${unknown}')
    .required() as unknown as ObjectSchema<Record<string, NamedThread[]>>,
  mix: array(
    lazy((value: unknown) => {
      const kind = kindOf(value);
      return (
        typeof kind === 'string' && Object.hasOwn(MIX, kind) ? MIX[kind as MixDecision['kind']] : NO_KIND
      ) as ObjectSchema<MixDecision>;
    }),
  )
    .required()
    .max(120),
  strokes: array(places(4)).required().max(60),
  lines: array(
    lazy((value: unknown) => lineShape(kindOf(value) === 'recolour') as unknown as ObjectSchema<LineDecision>),
  )
    .required()
    .max(200),
  grid: gridEditsSchema as unknown as Schema<GridEdits | null>,
}).noUnknown(UNKNOWN);
