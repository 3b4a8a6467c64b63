import { array, boolean, mixed, number, object, string, ValidationError } from 'yup';
import { finishedSize, LARGEST_SIDE_MM, type Placement } from '../picture/frame.js';
import { PLAIN_LIGHT, TONES, type Light } from '../picture/light.js';
import { MASK_SHAPES, type Mask, type MaskNode } from '../picture/mask.js';
import type { DrawnPiece } from '../pieces/drawn.js';
import { isDrawnPiece, isPieceDecision } from './piece-schema.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import { FABRICS, fabricOf } from '../stitches/fabrics.js';
import { OFFSET_PATTERNS } from '../stitches/offset-patterns.js';
import type { Anchor, ColourDecision } from '../trace/colour-decisions.js';
import { CORNERS, type Corners } from '../trace/spine-stretches.js';
import type { OptionValues } from '../stitches/stitch-kind.js';
import { isGridEdits, type GridEdits } from '../cross/grid-edits.js';
import { METHOD_IDS } from '../photo/methods/index.js';
import { isLineDecision, isMixDecision, isNamedThread, isRenderValues, isStroke } from './rendering-schema.js';
import { NO_RENDERING, upgradeRecipe } from './upgrade.js';

/** What is done with a plain ground, and how it is told from the rest. */
export interface GroundChoice {
  /** Leave it bare. */
  readonly dropGround: boolean;
  /** Its colour as in the picture before the light is changed; null finds it on the picture's border. */
  readonly groundHex: string | null;
  /** Colours this near to it (CIEDE2000) are ground as well. */
  readonly groundTolerance: number;
  /** Also where it does not reach the border. */
  readonly groundEverywhere: boolean;
}

/** Every choice of a project. Same picture and same recipe give the same design, byte for byte. */
export interface Recipe {
  readonly version: 6;
  /** How the picture becomes stitches: from traced pieces, or by one of the renderings. */
  readonly method: string;
  readonly picture: Placement &
    GroundChoice & {
      /** Masks put aside, for later. */
      readonly keptMasks: readonly Mask[];
    };
  readonly light: Light;
  readonly colours: {
    /** Colours at most, or as many as the picture suggests. */
    readonly count: number | 'auto';
    /** Thread charts to match to; empty keeps the picture's own colours. */
    readonly charts: readonly string[];
    /** Match only to threads that are in the drawer. */
    readonly stashOnly: boolean;
    /** Two colours never share a thread while there are others. */
    readonly distinct: boolean;
    /** Spots of colour smaller than this join a neighbour. */
    readonly smallestSpotMm2: number;
    /** What was said about single colours, in the order it was said. */
    readonly decisions: readonly ColourDecision[];
  };
  readonly pieces: {
    /** How far an outline may leave the picture's edge. */
    readonly strictnessMm: number;
    readonly cornerSharpness: number;
    /** Smallest piece worth sewing. */
    readonly smallestMm2: number;
    /** Areas up to this mean width are sewn as lines. */
    readonly lineBelowMm: number;
    /** Areas up to this wide at their widest place are sewn as satin, if columns fill them. */
    readonly satinBelowMm: number;
    /** Pieces below others are cut away, except under what is narrower than this. */
    readonly keepBelowMm: number;
    /** What was said about single pieces. */
    readonly decisions: readonly PieceDecision[];
    /** Pieces drawn by hand, and holes. */
    readonly drawn: readonly DrawnPiece[];
  };
  readonly stitches: {
    readonly fabric: string;
    readonly spacingMm: number;
    /** Spacing of satin on the outer side of bends. */
    readonly satinSpacingMm: number;
    readonly angle: number;
    /** Degrees by which the rows of neighbouring fills differ at least; 0 sews all at one angle. */
    readonly angleStep: number;
    readonly fillStitchMm: number;
    readonly runStitchMm: number;
    /** How needle points move along from row to row. */
    readonly pattern: string;
    /** What is done at sharp corners of satin. */
    readonly corners: Corners;
    /** Reach over the edges against the pull, on each side; by the fabric where it is null. */
    readonly compensationMm: number | null;
    /** Reach of pieces under neighbours sewn over them; by the fabric where it is null. */
    readonly overlapMm: number | null;
  };
  readonly order: {
    readonly needles: number;
    /** Cut the thread when the next needle point is farther away than this. */
    readonly trimOverMm: number;
    /** Longer ways lead under pieces sewn later, where there are some, and the thread stays whole. */
    readonly hideTravel: boolean;
  };
  readonly rendering: RenderingChoices;
  /** Stitches at most, whatever the method; null sets no limit. */
  readonly budget: number | null;
  /** Colour of the cloth. */
  readonly clothHex: string;
}

/** What was said of renderings; each keeps what was said of it while another is in use. */
export interface RenderingChoices {
  /** Options that were set, by method. */
  readonly values: Readonly<Record<string, OptionValues>>;
  /** Threads of methods that take theirs from a list. */
  readonly threads: Readonly<Record<string, readonly NamedThread[]>>;
  /** What was said of single threads of a mix. */
  readonly mix: readonly MixDecision[];
  /** Directions drawn on the picture, as shares of its sides: u, v, u, v … */
  readonly strokes: readonly (readonly number[])[];
  /** What was done to lines of a rendering, in the order it was done. */
  readonly lines: readonly LineDecision[];
  /** Changes of a grid of crosses by hand. */
  readonly grid: GridEdits | null;
  readonly border: { readonly kind: BorderKind; readonly widthMm: number; readonly hex: string };
}

/** A colour of its own, or a thread of a chart. */
export type NamedThread = { readonly hex: string } | { readonly chart: string; readonly code: string };

/** A thread of a mix is left out, or another takes its place, or it is sewn before or after all others, or it is always there. */
export type MixDecision =
  | { readonly kind: 'drop'; readonly hex: string }
  | { readonly kind: 'swap'; readonly hex: string; readonly to: NamedThread }
  | { readonly kind: 'first'; readonly hex: string }
  | { readonly kind: 'last'; readonly hex: string }
  | { readonly kind: 'keep'; readonly thread: NamedThread };

/**
 * Lines of some threads (by their hexes; all where there are none), inside an area (u, v in turn, as shares of the
 * picture's sides; everywhere where it is empty), are deleted, thinned or get another thread.
 */
export interface LineDecision {
  readonly kind: 'delete' | 'thin' | 'recolour';
  readonly threads: readonly string[];
  readonly area: readonly number[];
  readonly to?: NamedThread;
}

/** Borders around a rendering, from the mask's shape. */
export const BORDERS = [
  { id: 'none', name: 'None' },
  { id: 'satin', name: 'Satin' },
  { id: 'applique', name: 'Applique' },
] as const;
export type BorderKind = (typeof BORDERS)[number]['id'];

/** Least and most of every number a user can set; the interface and the command line read them from here. */
export const LIMITS = {
  widthMm: [5, LARGEST_SIDE_MM],
  heightMm: [5, LARGEST_SIDE_MM],
  turn: [-180, 180],
  groundTolerance: [0, 40],
  noise: [0, 100],
  black: [0, 254],
  white: [1, 255],
  gamma: [0.2, 4],
  brightness: [-100, 100],
  contrast: [-100, 100],
  warmth: [-100, 100],
  saturation: [-100, 100],
  sharpness: [0, 100],
  threshold: [0, 255],
  count: [1, 60],
  smallestSpotMm2: [0, 25],
  strictnessMm: [0.03, 1],
  cornerSharpness: [0.3, 2],
  smallestMm2: [0, 50],
  lineBelowMm: [0, 3],
  satinBelowMm: [0, 10],
  keepBelowMm: [0, 100],
  spacingMm: [0.25, 3],
  angle: [-180, 180],
  angleStep: [0, 90],
  fillStitchMm: [1.5, 7],
  runStitchMm: [1, 5],
  needles: [1, 24],
  trimOverMm: [1, 20],
  satinSpacingMm: [0.25, 1.5],
  compensationMm: [0, 1],
  overlapMm: [0, 3],
  borderMm: [1, 7],
  budget: [1, 400_000],
} as const satisfies Record<string, readonly [number, number]>;

export type LimitName = keyof typeof LIMITS;

/** Longest side a picture is given when nobody says a size, in mm. */
const FIRST_SIZE_MM = 100;

/**
 * The recipe of a first conversion.
 * @param own size in mm that the picture itself asks for
 */
export function defaultRecipe(
  pictureWidth: number,
  pictureHeight: number,
  own?: { readonly widthMm: number; readonly heightMm: number },
): Recipe {
  const longest = Math.max(pictureWidth, pictureHeight);
  const wanted = own ? Math.min(LARGEST_SIDE_MM, Math.max(own.widthMm, own.heightMm)) : FIRST_SIZE_MM;
  const size = (side: number): number => Math.max(LIMITS.widthMm[0], Number(((wanted * side) / longest).toFixed(1)));
  return {
    version: 6,
    method: 'pieces',
    picture: {
      widthMm: size(pictureWidth),
      heightMm: size(pictureHeight),
      turn: 0,
      mirror: false,
      mask: null,
      keptMasks: [],
      dropGround: true,
      groundHex: null,
      groundTolerance: 3,
      groundEverywhere: false,
    },
    light: PLAIN_LIGHT,
    colours: { count: 'auto', charts: [], stashOnly: false, distinct: true, smallestSpotMm2: 0.4, decisions: [] },
    pieces: {
      strictnessMm: 0.04,
      cornerSharpness: 1,
      smallestMm2: 0.6,
      lineBelowMm: 0.9,
      satinBelowMm: 5,
      keepBelowMm: 4,
      decisions: [],
      drawn: [],
    },
    stitches: {
      fabric: 'quilting-cotton',
      spacingMm: 0.4,
      angle: 20,
      angleStep: 35,
      fillStitchMm: 3.6,
      runStitchMm: 2.5,
      satinSpacingMm: 0.4,
      pattern: 'brick',
      corners: 'mitre',
      compensationMm: null,
      overlapMm: null,
    },
    order: { needles: 1, trimOverMm: 3, hideTravel: true },
    rendering: NO_RENDERING,
    budget: null,
    clothHex: fabricOf('quilting-cotton').hex,
  };
}

const limited = (name: LimitName) => {
  const [least, most] = LIMITS[name];
  const message = `${name} must be a number from ${least} to ${most}, got \${value}`;
  return number().typeError(message).strict(true).required().min(least, message).max(most, message);
};

/** A number, or null where the fabric decides. */
const orByFabric = (name: LimitName) => {
  const [least, most] = LIMITS[name];
  const message = `${name} must be a number from ${least} to ${most}, or null, got \${value}`;
  return number().typeError(message).strict(true).nullable().defined().min(least, message).max(most, message);
};

const HEX = /^#[0-9a-f]{6}$/i;
const flag = () => boolean().strict(true).required();
const measure = (name: string, least: number, most: number) =>
  number()
    .typeError(`${name} must be a number, got \${value}`)
    .strict(true)
    .required()
    .min(least, `${name} must be at least ${least}, got \${value}`)
    .max(most, `${name} must be at most ${most}, got \${value}`);

/** A side of the picture itself: with a mask it may be longer than what is sewn. */
const side = (name: 'widthMm' | 'heightMm') => {
  const message = `${name} must be a number from ${LIMITS[name][0]} to ${LIMITS[name][1]}, got \${value}`;
  return number().typeError(message).strict(true).required().min(1, message).max(4000, message);
};

/** Points a mask may have. */
const MOST_NODES = 400;

const mask = object({
  shape: string()
    .oneOf([...Object.keys(MASK_SHAPES), 'free'] as Mask['shape'][], 'mask: there is no shape "${value}"')
    .required(),
  x: measure('mask.x', -4000, 4000),
  y: measure('mask.y', -4000, 4000),
  widthMm: measure('mask.widthMm', 1, 4000),
  heightMm: measure('mask.heightMm', 1, 4000),
  turn: measure('mask.turn', -360, 360),
  nodes: mixed<readonly MaskNode[]>()
    .optional()
    .test('nodes', `mask: its points must be 2 to ${MOST_NODES} lists of six numbers`, (nodes: unknown) =>
      nodes === undefined
        ? true
        : Array.isArray(nodes) &&
          nodes.length >= 2 &&
          nodes.length <= MOST_NODES &&
          nodes.every(
            (node: unknown) =>
              Array.isArray(node) &&
              node.length === 6 &&
              node.every((v: unknown) => typeof v === 'number' && Math.abs(v) <= 100),
          ),
    ),
}).noUnknown('mask: not known: ${unknown}');

const anchor = object({
  hex: string().required().matches(HEX, 'a decision needs a colour like #f4f1ea, got ${value}'),
  u: measure('decision.u', -10, 10),
  v: measure('decision.v', -10, 10),
}).noUnknown('decision: not known: ${unknown}');

const isAnchor = (value: unknown): value is Anchor => anchor.isValidSync(value, { strict: true });

/** What each kind of decision carries besides its place. */
const CARRIES: Readonly<Record<ColourDecision['kind'], readonly string[]>> = {
  pin: [],
  merge: ['into'],
  move: ['into'],
  split: [],
  rank: ['before'],
  bare: [],
  thread: ['chart', 'code'],
};

function isDecision(value: unknown): value is ColourDecision {
  if (typeof value !== 'object' || value === null) return false;
  const given = value as Record<string, unknown>;
  const kind = given['kind'];
  if (typeof kind !== 'string' || !Object.hasOwn(CARRIES, kind)) return false;
  const carries = CARRIES[kind as ColourDecision['kind']];
  const known = ['kind', 'at', ...carries];
  if (!isAnchor(given['at']) || Object.keys(given).some((key) => !known.includes(key))) return false;
  return carries.every((key) => {
    const part = given[key];
    return key === 'into' || key === 'before' ? isAnchor(part) : typeof part === 'string' && part.length <= 80;
  });
}

const schema = object({
  version: number().oneOf([6], 'version must be 1 to 6, got ${value}').required(),
  method: string()
    .required()
    .oneOf([...METHOD_IDS], 'method: there is no "${value}"; known are ${values}'),
  picture: object({
    widthMm: side('widthMm'),
    heightMm: side('heightMm'),
    turn: limited('turn'),
    mirror: flag(),
    mask: mask.nullable().defined(),
    keptMasks: array(mask.required()).required().max(40),
    dropGround: flag(),
    groundHex: string().strict(true).nullable().defined().matches(HEX, 'groundHex must be a colour, got ${value}'),
    groundTolerance: limited('groundTolerance'),
    groundEverywhere: flag(),
  })
    .noUnknown()
    .required()
    .test('size', '', (picture, context) => {
      // What is wrong with its parts is said of them.
      if (!(picture.widthMm > 0 && picture.heightMm > 0) || !Number.isFinite(picture.turn)) return true;
      if (picture.mask !== null && !mask.isValidSync(picture.mask, { strict: true })) return true;
      const { widthMm, heightMm } = finishedSize(picture as Placement);
      const fault = sizeFault('widthMm', widthMm) ?? sizeFault('heightMm', heightMm);
      return fault ? context.createError({ message: fault }) : true;
    }),
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
    tone: string().oneOf(TONES, 'tone: there is no "${value}"; known are ${values}').required(),
    threshold: limited('threshold'),
  })
    .noUnknown()
    .required(),
  colours: object({
    count: mixed<number | 'auto'>()
      .required()
      .test(
        'count',
        `colours must be a whole number from ${LIMITS.count[0]} to ${LIMITS.count[1]}, or auto, got \${value}`,
        (v) => v === 'auto' || (Number.isInteger(v) && Number(v) >= LIMITS.count[0] && Number(v) <= LIMITS.count[1]),
      ),
    charts: array(string().strict(true).required().max(80)).required().max(20),
    stashOnly: flag(),
    distinct: flag(),
    smallestSpotMm2: limited('smallestSpotMm2'),
    decisions: array(
      mixed<ColourDecision>(isDecision).typeError('colours: a decision is not one that is known').required(),
    )
      .required()
      .max(400),
  })
    .noUnknown()
    .required(),
  pieces: object({
    strictnessMm: limited('strictnessMm'),
    cornerSharpness: limited('cornerSharpness'),
    smallestMm2: limited('smallestMm2'),
    lineBelowMm: limited('lineBelowMm'),
    satinBelowMm: limited('satinBelowMm'),
    keepBelowMm: limited('keepBelowMm'),
    decisions: array(
      mixed<PieceDecision>(isPieceDecision).typeError('pieces: a decision is not one that is known').required(),
    )
      .required()
      .max(2000),
    drawn: array(mixed<DrawnPiece>(isDrawnPiece).typeError('pieces: a drawn piece is not as it must be').required())
      .required()
      .max(500),
  })
    .noUnknown()
    .required(),
  stitches: object({
    fabric: string()
      .required()
      .oneOf(
        FABRICS.map((f) => f.id),
        'fabric: there is no "${value}"; known are ${values}',
      ),
    spacingMm: limited('spacingMm'),
    angle: limited('angle'),
    angleStep: limited('angleStep'),
    fillStitchMm: limited('fillStitchMm'),
    runStitchMm: limited('runStitchMm'),
    satinSpacingMm: limited('satinSpacingMm'),
    pattern: string()
      .required()
      .oneOf(
        OFFSET_PATTERNS.map(({ id }) => id),
        'pattern: there is no "${value}"; known are ${values}',
      ),
    corners: string()
      .required()
      .oneOf(
        CORNERS.map(({ id }) => id),
        'corners: there is no "${value}"; known are ${values}',
      ),
    compensationMm: orByFabric('compensationMm'),
    overlapMm: orByFabric('overlapMm'),
  })
    .noUnknown()
    .required(),
  order: object({
    needles: limited('needles').integer('needles must be a whole number'),
    trimOverMm: limited('trimOverMm'),
    hideTravel: flag(),
  })
    .noUnknown()
    .required(),
  rendering: object({
    values: mixed<Record<string, OptionValues>>(isRenderValues)
      .typeError('rendering: an option is not one that is known, or not within its limits')
      .required(),
    threads: mixed<Record<string, NamedThread[]>>(
      (value): value is Record<string, NamedThread[]> =>
        typeof value === 'object' &&
        value !== null &&
        Object.entries(value).every(
          ([method, list]) =>
            METHOD_IDS.includes(method) && Array.isArray(list) && list.length <= 6 && list.every(isNamedThread),
        ),
    )
      .typeError('rendering: threads must be lists of colours or of threads of charts')
      .required(),
    mix: array(mixed<MixDecision>(isMixDecision).typeError('rendering: a decision is not one that is known').required())
      .required()
      .max(120),
    strokes: array(
      mixed<readonly number[]>(isStroke).typeError('rendering: a stroke must be pairs of numbers').required(),
    )
      .required()
      .max(60),
    lines: array(
      mixed<LineDecision>(isLineDecision).typeError('rendering: a change of lines is not as it must be').required(),
    )
      .required()
      .max(200),
    grid: mixed<GridEdits>((value): value is GridEdits => isGridEdits(value, isNamedThread))
      .nullable()
      .defined()
      .typeError('rendering: changes of the grid are not as they must be'),
    border: object({
      kind: string()
        .required()
        .oneOf(
          BORDERS.map(({ id }) => id),
          'border: there is no "${value}"; known are ${values}',
        ),
      widthMm: limited('borderMm'),
      hex: string().required().matches(HEX, 'border: its colour must be like #f4f1ea, got ${value}'),
    })
      .noUnknown()
      .required(),
  })
    .noUnknown()
    .required(),
  budget: number()
    .strict(true)
    .nullable()
    .defined()
    .integer('budget must be a whole number')
    .min(LIMITS.budget[0], `budget must be at least ${LIMITS.budget[0]}, got \${value}`)
    .max(LIMITS.budget[1], `budget must be at most ${LIMITS.budget[1]}, got \${value}`),
  clothHex: string()
    .required()
    .matches(/^#[0-9a-f]{6}$/i, 'clothHex must be a colour like #f4f1ea, got ${value}'),
})
  .noUnknown('the recipe has settings that are not known: ${unknown}')
  .required();

/** A message on one line: values that are quoted in it may have many. */
const oneLine = (message: string): string => message.replace(/\s+/g, ' ').slice(0, 300);

/** Size in mm of what a recipe sews, at most; a tenth of a millimetre is rounding. */
function sizeFault(name: 'widthMm' | 'heightMm', value: number): string | undefined {
  const [least, most] = LIMITS[name];
  if (value >= least - 0.1 && value <= most + 0.1) return undefined;
  return `${name} must be a number from ${least} to ${most}, got ${Number(value.toFixed(2))}`;
}

/**
 * Checks that something read from outside is a recipe, and brings one of an earlier version up to date.
 * @throws RangeError whose message names the setting, the value and what is allowed.
 */
export function parseRecipe(value: unknown): Recipe {
  try {
    return schema.validateSync(upgradeRecipe(value), { strict: true, abortEarly: true }) as Recipe;
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(`recipe: ${oneLine(error.message)}`);
    throw error;
  }
}
