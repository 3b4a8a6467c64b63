import { array, boolean, mixed, number, object, string, ValidationError } from 'yup';
import { FABRICS, fabricOf } from '../stitches/fabrics.js';

/** Every choice of a project. Same picture and same recipe give the same design, byte for byte. */
export interface Recipe {
  readonly version: 1;
  readonly picture: {
    /** Finished size of the whole picture. */
    readonly widthMm: number;
    readonly heightMm: number;
    /** Leave a plain ground bare. */
    readonly dropGround: boolean;
  };
  readonly colours: {
    /** Colours at most, or as many as the picture suggests. */
    readonly count: number | 'auto';
    /** Thread charts to match to; empty keeps the picture's own colours. */
    readonly charts: readonly string[];
    /** Spots of colour smaller than this join a neighbour. */
    readonly smallestSpotMm2: number;
  };
  readonly pieces: {
    /** How far an outline may leave the picture's edge. */
    readonly strictnessMm: number;
    readonly cornerSharpness: number;
    /** Smallest piece worth sewing. */
    readonly smallestMm2: number;
    /** Areas up to this mean width are sewn as lines. */
    readonly lineBelowMm: number;
  };
  readonly stitches: {
    readonly fabric: string;
    readonly spacingMm: number;
    readonly angle: number;
    /** Degrees by which the rows turn from one thread to the next. */
    readonly angleStep: number;
    readonly fillStitchMm: number;
    readonly runStitchMm: number;
  };
  readonly order: {
    readonly needles: number;
    /** Cut the thread when the next needle point is farther away than this. */
    readonly trimOverMm: number;
  };
  /** Colour of the cloth. */
  readonly clothHex: string;
}

/** Least and most of every number a user can set; the interface and the command line read them from here. */
export const LIMITS = {
  widthMm: [5, 400],
  heightMm: [5, 400],
  count: [1, 60],
  smallestSpotMm2: [0, 25],
  strictnessMm: [0.03, 1],
  cornerSharpness: [0.3, 2],
  smallestMm2: [0, 50],
  lineBelowMm: [0, 3],
  spacingMm: [0.25, 3],
  angle: [-180, 180],
  angleStep: [0, 90],
  fillStitchMm: [1.5, 7],
  runStitchMm: [1, 5],
  needles: [1, 24],
  trimOverMm: [1, 20],
} as const satisfies Record<string, readonly [number, number]>;

export type LimitName = keyof typeof LIMITS;

/** Longest side a picture is given when nobody says a size, in mm. */
const FIRST_SIZE_MM = 100;

/** The recipe of a first conversion. */
export function defaultRecipe(pictureWidth: number, pictureHeight: number): Recipe {
  const longest = Math.max(pictureWidth, pictureHeight);
  const size = (side: number): number =>
    Math.max(LIMITS.widthMm[0], Number(((FIRST_SIZE_MM * side) / longest).toFixed(1)));
  return {
    version: 1,
    picture: { widthMm: size(pictureWidth), heightMm: size(pictureHeight), dropGround: true },
    colours: { count: 'auto', charts: [], smallestSpotMm2: 0.4 },
    pieces: { strictnessMm: 0.08, cornerSharpness: 1, smallestMm2: 0.6, lineBelowMm: 1.2 },
    stitches: {
      fabric: 'quilting-cotton',
      spacingMm: 0.4,
      angle: 20,
      angleStep: 35,
      fillStitchMm: 3.6,
      runStitchMm: 2.5,
    },
    order: { needles: 1, trimOverMm: 3 },
    clothHex: fabricOf('quilting-cotton').hex,
  };
}

const limited = (name: LimitName) => {
  const [least, most] = LIMITS[name];
  const message = `${name} must be a number from ${least} to ${most}, got \${value}`;
  return number().typeError(message).strict(true).required().min(least, message).max(most, message);
};

const schema = object({
  version: number().oneOf([1], 'version must be 1, got ${value}').required(),
  picture: object({
    widthMm: limited('widthMm'),
    heightMm: limited('heightMm'),
    dropGround: boolean().strict(true).required(),
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
    smallestSpotMm2: limited('smallestSpotMm2'),
  })
    .noUnknown()
    .required(),
  pieces: object({
    strictnessMm: limited('strictnessMm'),
    cornerSharpness: limited('cornerSharpness'),
    smallestMm2: limited('smallestMm2'),
    lineBelowMm: limited('lineBelowMm'),
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
  })
    .noUnknown()
    .required(),
  order: object({
    needles: limited('needles').integer('needles must be a whole number'),
    trimOverMm: limited('trimOverMm'),
  })
    .noUnknown()
    .required(),
  clothHex: string()
    .required()
    .matches(/^#[0-9a-f]{6}$/i, 'clothHex must be a colour like #f4f1ea, got ${value}'),
})
  .noUnknown('the recipe has settings that are not known: ${unknown}')
  .required();

/**
 * Checks that something read from outside is a recipe.
 * @throws RangeError whose message names the setting, the value and what is allowed.
 */
export function parseRecipe(value: unknown): Recipe {
  try {
    return schema.validateSync(value, { strict: true, abortEarly: true }) as Recipe;
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(`recipe: ${error.message}`);
    throw error;
  }
}
