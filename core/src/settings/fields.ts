import { array, boolean, mixed, number, object, string } from 'yup';
import type { CurveNode } from '../geometry/curve.js';
import type { PieceAnchor, PieceRef, ThreadChoice } from '../pieces/piece-ref.js';
import type { Anchor } from '../trace/colour-decisions.js';
import { LIMITS, type LimitName } from './limits.js';

// Parts of schemas: everything that is read from outside is checked by these. A message names the setting, the value
// and what is allowed.

const HEX = /^#[0-9a-f]{6}$/i;

/** A number within the limits of its name. */
export const limited = (name: LimitName) => {
  const [least, most] = LIMITS[name];
  const message = `${name} must be a number from ${least} to ${most}, got \${value}`;
  return number().typeError(message).strict(true).required(message).min(least, message).max(most, message);
};

/** A number, or null where the fabric decides. */
export const orByFabric = (name: LimitName) => {
  const [least, most] = LIMITS[name];
  const message = `${name} must be a number from ${least} to ${most}, or null, got \${value}`;
  return number().typeError(message).strict(true).nullable().defined().min(least, message).max(most, message);
};

export const measure = (name: string, least: number, most: number) =>
  number()
    .typeError(`${name} must be a number, got \${value}`)
    .strict(true)
    .required(`${name} is missing`)
    .min(least, `${name} must be at least ${least}, got \${value}`)
    .max(most, `${name} must be at most ${most}, got \${value}`);

/** A whole number within limits. */
export const wholeNumber = (name: string, least: number, most: number) =>
  measure(name, least, most).integer(`${name} must be a whole number, got \${value}`);

/** Cells a grid has at most along a side. */
const MOST_SIDE = 400;

export interface GridSize {
  readonly cols: number;
  readonly rows: number;
}

/** Size of a grid that is still being checked; undefined where its sides are not sound, which is said of them alone. */
export function gridSizeOf(value: unknown): GridSize | undefined {
  const { cols, rows } = (value ?? {}) as Partial<GridSize>;
  const isSide = (n: unknown): n is number => Number.isInteger(n) && Number(n) >= 1 && Number(n) <= MOST_SIDE;
  return isSide(cols) && isSide(rows) ? { cols, rows } : undefined;
}

/** Size of a grid. */
export const gridSides = (name: string) => ({
  cols: wholeNumber(`${name} columns`, 1, MOST_SIDE),
  rows: wholeNumber(`${name} rows`, 1, MOST_SIDE),
  cellMm: measure(`${name} cells in mm`, 0.01, 400),
});

export const flag = () => boolean().strict(true).required();
export const hex = (name: string) =>
  string().strict(true).required().matches(HEX, `${name} must be a colour like #f4f1ea, got \${value}`);
export const text = (name: string, most = 80) =>
  string().strict(true).required(`${name} must not be empty`).max(most, `${name} must have at most ${most} characters`);

/** One of the ids of a list. */
export const oneOf = (name: string, ids: readonly string[]) =>
  string()
    .strict(true)
    .required(`${name} is missing`)
    .oneOf([...ids], `${name}: there is no "\${value}"; known are \${values}`);

/** A list of numbers between limits, of a length the test allows; checked as a whole, since it may be long. */
export const numbers = (name: string, most: number, fits: (length: number) => boolean, rule: string) =>
  mixed<number[]>()
    .required()
    .test('numbers', `${name} must be ${rule}, each from ${-most} to ${most}`, (value: unknown) => {
      if (!Array.isArray(value) || !fits(value.length)) return false;
      return value.every((v: unknown) => typeof v === 'number' && Math.abs(v) <= most);
    });

/** Points with handles: lists of six numbers. */
export const nodes = (name: string, least: number, most: number, reach: number) =>
  mixed<CurveNode[]>()
    .required()
    .test('nodes', `${name}: its points must be ${least} to ${most} lists of six numbers`, (value: unknown) => {
      if (!Array.isArray(value) || value.length < least || value.length > most) return false;
      return value.every(
        (node: unknown) =>
          Array.isArray(node) &&
          node.length === 6 &&
          node.every((v: unknown) => typeof v === 'number' && Math.abs(v) <= reach),
      );
    });

export const anchor = object({
  hex: hex('a decision'),
  u: measure('decision.u', -20, 20),
  v: measure('decision.v', -20, 20),
}).noUnknown('decision: not known: ${unknown}');

const pieceAnchor = object({
  hex: hex('a decision'),
  u: measure('decision.u', -20, 20),
  v: measure('decision.v', -20, 20),
  share: measure('decision.share', 0, 1),
}).noUnknown('decision: not known: ${unknown}');

const refShape = object({
  object: text('decision.object'),
  anchor: pieceAnchor.optional().default(undefined),
  part: string().strict(true).max(80).optional(),
}).noUnknown('decision: not known: ${unknown}');

const colourThread = object({ hex: hex('thread') }).noUnknown('thread: not known: ${unknown}');
const chartThread = object({ chart: text('thread.chart'), code: text('thread.code') }).noUnknown(
  'thread: not known: ${unknown}',
);
const likeThread = object({ like: anchor.required() }).noUnknown('thread: not known: ${unknown}');

const STRICT = { strict: true } as const;

/** Something that fits one of several schemas. */
export const either = <T>(
  name: string,
  ...schemas: readonly { isValidSync(value: unknown, how: typeof STRICT): boolean }[]
) =>
  mixed<NonNullable<T>>().test(
    'either',
    `${name} is not as it must be`,
    (value) => value === undefined || value === null || schemas.some((schema) => schema.isValidSync(value, STRICT)),
  );

/** A piece as decisions name it. */
export const pieceRef = () => either<PieceRef>('decision: its piece', refShape).required();
/** A colour, or a thread of a chart. */
export const namedThread = () =>
  either<Exclude<ThreadChoice, { like: unknown }>>('thread', colourThread, chartThread).required();
/** A thread, or that of a colour of the picture. */
export const threadChoice = () => either<ThreadChoice>('thread', likeThread, colourThread, chartThread).required();
export const colourAnchor = () => either<Anchor>('decision: its place', anchor).required();
export const wholePieceAnchor = () => either<PieceAnchor>('decision: its place', pieceAnchor);

/** Nodes in paths. */
export const paths = (name: string, most: number, mostNodes: number) =>
  array(
    object({ closed: flag(), nodes: nodes(name, 2, mostNodes, 2000) })
      .noUnknown(`${name}: not known: \${unknown}`)
      .required(),
  )
    .required()
    .min(1, `${name} must have a path`)
    .max(most, `${name} must have at most ${most} paths`);
