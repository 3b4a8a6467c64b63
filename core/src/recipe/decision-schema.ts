import { array, lazy, mixed, number, object, string, type ObjectSchema, type Schema } from 'yup';
import { placeSchema } from '../objects/base-schema.js';
import { GRADIENT_STOPS } from '../artwork/artwork.js';
import { PIECE_DECISIONS, type PieceDecision } from '../pieces/piece-decisions.js';
import { either, flag, hex, measure, numbers, oneOf, pieceRef, text, threadChoice } from '../settings/fields.js';
import { LIMITS } from '../settings/limits.js';
import { TIES } from '../sequence/ties.js';
import { fabricNamed } from '../stitches/fabrics.js';
import { STITCH_KINDS } from '../stitches/kinds/index.js';
import { isAllowed } from '../stitches/stitch-kind.js';
import { UNDERLAYS } from '../stitches/underlay.js';

const UNKNOWN = 'pieces: not known: ${unknown}';
/** Places of an object's frame: shares of a picture's sides, or mm. */
const REACH = 2000;

/** Guide lines a piece may have, and points of one. */
const MOST_GUIDES = 24;
const MOST_GUIDE_POINTS = 200;
/** Needle points of one piece that are set by hand. */
const MOST_ROWS = 20_000;
const guide = numbers(
  'a guide line',
  REACH,
  (n) => n >= 4 && n % 2 === 0 && n <= MOST_GUIDE_POINTS * 2,
  `pairs of numbers, ${MOST_GUIDE_POINTS} points at most`,
);

/** Whether some stitch kind has an option that takes the value; every kind has a fabric, underlay, compensation and overlap, every line passes. */
function isOption(name: string, value: unknown): boolean {
  if (name === 'underlay') return value === 'fabric' || UNDERLAYS.some((underlay) => underlay === value);
  if (name === 'tie') return TIES.some(({ id }) => id === value);
  if (name === 'fabric') return fabricNamed(value) !== undefined;
  if (name === 'compensationMm') return typeof value === 'number' && value >= 0 && value <= 1;
  if (name === 'passes') return value === 1 || value === 2 || value === 3;
  if (name === 'overlapMm')
    return typeof value === 'number' && value >= LIMITS.overlapMm[0] && value <= LIMITS.overlapMm[1];
  return STITCH_KINDS.some(({ options }) => Object.hasOwn(options, name) && isAllowed(options[name], value));
}

const optionSet = mixed<Record<string, number | string>>()
  .required()
  .test('options', 'pieces: an option is not known, or not within its limits', (value: unknown) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    return Object.entries(value).every(([name, option]) => isOption(name, option));
  });

const stop = object({
  at: measure('gradient.at', 0, 1),
  paint: either(
    'gradient: a thread',
    object({ hex: hex('gradient') }).noUnknown(UNKNOWN),
    object({ chart: text('chart'), code: text('code') }).noUnknown(UNKNOWN),
    object({ bare: flag().oneOf([true]) }).noUnknown(UNKNOWN),
  ).required(),
}).noUnknown(UNKNOWN);

const gradient = object({
  id: text('gradient.id'),
  shape: oneOf('gradient', ['linear', 'radial']),
  way: numbers('gradient: its way', REACH, (n) => n === 4, 'four numbers'),
  stops: array(stop)
    .required()
    .min(GRADIENT_STOPS[0])
    .max(GRADIENT_STOPS[1])
    .test('rise', 'gradient: its stops must follow each other', (stops) =>
      (stops ?? []).every(({ at }, i, all) => i === 0 || at >= all[i - 1].at),
    ),
  layers: oneOf('gradient: its layers', ['over', 'beside']),
}).noUnknown(UNKNOWN);

/** What each part of a decision must be. */
const PARTS: Readonly<Record<string, object>> = {
  as: oneOf(
    'stitch kind',
    STITCH_KINDS.map(({ id }) => id),
  ),
  passes: number().strict(true).required().oneOf([0, 1, 2, 3], 'passes must be 0 to 3, got ${value}'),
  cut: flag(),
  set: optionSet,
  lines: array(guide).required().min(1).max(MOST_GUIDES),
  fill: gradient.nullable().defined().default(undefined),
  by: placeSchema,
  how: oneOf('connect', ['cut', 'keep', 'lead']),
  line: numbers('a way', REACH, (n) => n % 2 === 0 && n <= MOST_GUIDE_POINTS * 2, 'pairs of numbers'),
  stop: flag(),
  rows: numbers('needle points', REACH, (n) => n % 3 === 0 && n <= MOST_ROWS * 3, 'threes of numbers'),
  u: measure('place.u', -REACH, REACH),
  v: measure('place.v', -REACH, REACH),
};

const BEFORE = lazy((value: unknown) =>
  typeof value === 'string' ? oneOf('order', ['first', 'last']) : pieceRef(),
) as unknown as Schema;

const SCHEMAS = Object.fromEntries(
  Object.entries(PIECE_DECISIONS).map(([kind, names]) => {
    const parts = Object.fromEntries(
      names.map((name) => {
        // `to` is a thread of one kind of decision and a piece of the other.
        if (name === 'to') return [name, kind === 'thread' ? threadChoice() : pieceRef()];
        return [name, name === 'before' ? BEFORE : PARTS[name]];
      }),
    );
    return [
      kind,
      object({ kind: string().required(), at: pieceRef(), ...(parts as Record<string, Schema>) }).noUnknown(UNKNOWN),
    ];
  }),
) as unknown as Readonly<Record<string, ObjectSchema<object>>>;

const NO_KIND = object({ kind: oneOf('pieces: a decision', Object.keys(PIECE_DECISIONS)) });

/** A decision on a piece, read from outside. */
export const decisionSchema = lazy((value: unknown): Schema<PieceDecision> => {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const known = typeof kind === 'string' && Object.hasOwn(SCHEMAS, kind) ? SCHEMAS[kind] : NO_KIND;
  return known as unknown as Schema<PieceDecision>;
});
