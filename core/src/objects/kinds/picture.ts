import { array, boolean, mixed, number, object, string } from 'yup';
import { finishedSize, type Placement } from '../../picture/frame.js';
import { TONES } from '../../picture/light.js';
import { MASK_SHAPES, type Mask, type MaskNode } from '../../picture/mask.js';
import { METHOD_IDS } from '../../photo/methods/index.js';
import { colourAnchor, flag, limited, measure, nodes, oneOf, text } from '../../settings/fields.js';
import { LIMITS } from '../../settings/limits.js';
import type { ColourDecision } from '../../trace/colour-decisions.js';
import { baseFields } from '../base-schema.js';
import type { PictureObject } from '../design-object.js';
import { renderingSchema } from '../rendering-schema.js';
import { placedPicture } from '../placed-picture.js';
import { sourceField } from '../source-field.js';
import { objectKind } from './object-kind.js';

/** A side of the picture itself: with a mask it may be longer than what is sewn. */
const side = (name: 'widthMm' | 'heightMm') => {
  const message = `${name} must be a number from ${LIMITS[name][0]} to ${LIMITS[name][1]}, got \${value}`;
  return number().typeError(message).strict(true).required(message).min(1, message).max(4000, message);
};

/** Points a mask may have. */
const MOST_MASK_NODES = 400;

const mask = object({
  shape: string()
    .strict(true)
    .required('mask.shape is missing')
    .oneOf([...Object.keys(MASK_SHAPES), 'free'], 'mask: there is no shape "${value}"'),
  x: measure('mask.x', -4000, 4000),
  y: measure('mask.y', -4000, 4000),
  widthMm: measure('mask.widthMm', 1, 4000),
  heightMm: measure('mask.heightMm', 1, 4000),
  turn: measure('mask.turn', -360, 360),
  nodes: mixed<readonly MaskNode[]>()
    .optional()
    .test(
      'nodes',
      `mask: its points must be 2 to ${MOST_MASK_NODES} lists of six numbers`,
      (value) => value === undefined || nodes('mask', 2, MOST_MASK_NODES, 100).isValidSync(value, { strict: true }),
    ),
}).noUnknown('mask: not known: ${unknown}');

/** What each kind of decision on a colour carries besides its place. */
const CARRIES: Readonly<
  Record<ColourDecision['kind'], Readonly<Record<string, ReturnType<typeof colourAnchor | typeof text>>>>
> = {
  pin: {},
  merge: { into: colourAnchor() },
  move: { into: colourAnchor() },
  split: {},
  rank: { before: colourAnchor() },
  bare: {},
  thread: { chart: text('decision.chart'), code: text('decision.code') },
};
const DECISIONS = Object.fromEntries(
  Object.entries(CARRIES).map(([kind, fields]) => [
    kind,
    object({ kind: string().required(), at: colourAnchor(), ...fields }).noUnknown('colours: not known: ${unknown}'),
  ]),
);

const decision = mixed<ColourDecision>()
  .required()
  .test('decision', 'colours: a decision is not one that is known', (value: unknown) => {
    const kind = (value as { kind?: unknown } | null)?.kind;
    if (typeof kind !== 'string' || !Object.hasOwn(DECISIONS, kind)) return false;
    return DECISIONS[kind].isValidSync(value, { strict: true });
  });

/** Size in mm of what is sewn, at most; a tenth of a millimetre is rounding. */
function sizeFault(name: 'widthMm' | 'heightMm', value: number): string | undefined {
  const [least, most] = LIMITS[name];
  if (value >= least - 0.1 && value <= most + 0.1) return undefined;
  return `${name} must be a number from ${least} to ${most}, got ${Number(value.toFixed(2))}`;
}

const colourOrNull = (name: string) =>
  string()
    .strict(true)
    .nullable()
    .defined()
    .matches(/^#[0-9a-f]{6}$/i, `${name} must be a colour, got \${value}`);

const picturePlace = object({
  widthMm: side('widthMm'),
  heightMm: side('heightMm'),
  xMm: limited('placeMm'),
  yMm: limited('placeMm'),
  turn: limited('turn'),
  mirror: flag(),
  mask: mask.nullable().defined(),
  keptMasks: array(mask.required()).required().max(40),
  dropGround: flag(),
  groundHex: colourOrNull('groundHex'),
  beyondHex: colourOrNull('beyondHex'),
  groundTolerance: limited('groundTolerance'),
  groundEverywhere: flag(),
})
  .noUnknown('picture: not known: ${unknown}')
  .required()
  .test('size', '', (picture, context) => {
    // What is wrong with its parts is said of them.
    if (!(picture.widthMm > 0 && picture.heightMm > 0) || !Number.isFinite(picture.turn)) return true;
    if (picture.mask !== null && !mask.isValidSync(picture.mask, { strict: true })) return true;
    const { widthMm, heightMm } = finishedSize(picture as Placement & { mask: Mask | null });
    const fault = sizeFault('widthMm', widthMm) ?? sizeFault('heightMm', heightMm);
    return fault ? context.createError({ message: fault }) : true;
  });

const schema = object({
  kind: string().required(),
  ...baseFields,
  sketch: boolean().strict(true).oneOf([true], 'sketch may only be true').optional(),
  source: sourceField(),
  method: oneOf('method', METHOD_IDS),
  picture: picturePlace,
  light: object({
    noise: limited('noise'),
    black: limited('black'),
    white: limited('white'),
    gamma: limited('gamma'),
    brightness: limited('brightness'),
    contrast: limited('contrast'),
    warmth: limited('warmth'),
    saturation: limited('saturation'),
    sharpness: limited('sharpness'),
    tone: oneOf('tone', TONES),
    threshold: limited('threshold'),
  })
    .noUnknown('light: not known: ${unknown}')
    .required(),
  colours: object({
    count: mixed<number | 'auto'>()
      .required()
      .test(
        'count',
        `colours must be a whole number from ${LIMITS.count[0]} to ${LIMITS.count[1]}, or auto, got \${value}`,
        (v) => v === 'auto' || (Number.isInteger(v) && Number(v) >= LIMITS.count[0] && Number(v) <= LIMITS.count[1]),
      ),
    charts: array(text('charts')).required().max(20),
    stashOnly: flag(),
    distinct: flag(),
    smallestSpotMm2: limited('smallestSpotMm2'),
    decisions: array(decision).required().max(400),
  })
    .noUnknown('colours: not known: ${unknown}')
    .required(),
  pieces: object({
    strictnessMm: limited('strictnessMm'),
    cornerSharpness: limited('cornerSharpness'),
    smallestMm2: limited('smallestMm2'),
    lineBelowMm: limited('lineBelowMm'),
    satinBelowMm: limited('satinBelowMm'),
    keepBelowMm: limited('keepBelowMm'),
  })
    .noUnknown('pieces: not known: ${unknown}')
    .required(),
  rendering: renderingSchema.required(),
}).noUnknown('a picture has settings that are not known: ${unknown}');

export const PICTURE = objectKind<PictureObject>({
  id: 'picture',
  name: 'Picture',
  hint: 'a photograph, raster picture or vector artwork, converted by a method of its own',
  schema: schema as never,
  needs: () => [],
  placed: (object, by) => {
    const picture = placedPicture(object.picture, by);
    return picture && { ...object, picture };
  },
});
