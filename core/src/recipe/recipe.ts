import { array, lazy, number, object, ValidationError } from 'yup';
import { type DesignObject, type PictureObject, NO_RENDERING } from '../objects/design-object.js';
import { kindOf, objectSchema } from '../objects/kinds/index.js';
import type { PictureSort } from '../colour/recognise.js';
import { PIECES_METHOD } from '../photo/methods/index.js';
import { LARGEST_SIDE_MM } from '../picture/frame.js';
import type { HoopField } from '../picture/hoops.js';
import { PLAIN_LIGHT } from '../picture/light.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import { flag, hex, limited, measure, oneOf, orByFabric, text } from '../settings/fields.js';
import { LIMITS } from '../settings/limits.js';
import { BEGIN_PLACES, END_PLACES } from '../sequence/needle-places.js';
import type { Several } from '../sequence/several.js';
import { TIES } from '../sequence/ties.js';
import { TRIMS, type Trims } from '../sequence/sew-settings.js';
import { FABRICS, fabricOf } from '../stitches/fabrics.js';
import type { MeasuredCloth } from '../stitches/measured-cloth.js';
import { OFFSET_PATTERNS } from '../stitches/offset-patterns.js';
import { CORNERS, type Corners } from '../trace/spine-stretches.js';
import { measuredSchema } from './measured-schema.js';
import { decisionSchema } from './decision-schema.js';
import { upgradeRecipe } from './upgrade.js';

/** Version of recipes this core writes. */
export const RECIPE_VERSION = 7;

/** What a design is sewn on. */
export interface DesignCloth {
  readonly fabric: string;
  readonly hex: string;
  /** What was measured on this cloth. */
  readonly measured?: MeasuredCloth;
}

/** Every choice of a project. Same pictures and same recipe give the same design, byte for byte. */
export interface Recipe {
  readonly version: typeof RECIPE_VERSION;
  readonly cloth: DesignCloth;
  /** Field of the hoop it is meant for; none where nobody chose one. */
  readonly hoop?: HoopField;
  /** How often the design lies in the hoop; once where nothing is said. */
  readonly several?: Several;
  /** What the design is made of, lowest first. */
  readonly objects: readonly DesignObject[];
  /** What was said about single pieces, in the order it was said. */
  readonly decisions: readonly PieceDecision[];
  /** What holds for all pieces unless one says otherwise. */
  readonly stitches: {
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
    /** Pull compensation on each side; by the fabric where it is null. */
    readonly compensationMm: number | null;
    /** Overlap under neighbours sewn over a piece; by the fabric where it is null. */
    readonly overlapMm: number | null;
  };
  readonly order: {
    readonly needles: number;
    /** Cut the thread when the next needle point is farther away than this. */
    readonly trimOverMm: number;
    /** Longer ways lead under pieces sewn later, where there are some, and the thread stays whole. */
    readonly hideTravel: boolean;
    /** Threads are cut never, beyond the trim distance (where nothing is said), or at every way. */
    readonly trims?: Trims;
    /** How threads are held where they begin and end; a small line where nothing is said. */
    readonly tie?: string;
    /** Where the needle begins and ends: at the first stitch and in the middle of the hoop where nothing is said. */
    readonly begin?: string;
    readonly end?: string;
  };
  /** Stitches at most, whatever the method; null sets no limit. */
  readonly budget: number | null;
  /** Findings that are not to be told again, unless they get worse. */
  readonly ignored?: readonly IgnoredFinding[];
}

/** A finding somebody has looked at and let be. */
export interface IgnoredFinding {
  readonly kind: string;
  /** Where it was, in mm around the hoop's centre; null where it is about the whole design. */
  readonly at: { readonly x: number; readonly y: number } | null;
  /** How far it was over its limit. */
  readonly harm: number;
}

/** Longest side a picture is given when nobody says a size, in mm. */
const FIRST_SIZE_MM = 100;
const FIRST_FABRIC = 'quilting-cotton';

/** The first picture of a project. */
export const FIRST_PICTURE = 'picture-1';

/** A recipe of nothing yet. */
export function emptyRecipe(): Recipe {
  return {
    version: RECIPE_VERSION,
    cloth: { fabric: FIRST_FABRIC, hex: fabricOf(FIRST_FABRIC).hex },
    objects: [],
    decisions: [],
    stitches: {
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
    budget: null,
  };
}

/**
 * A picture as it is first converted.
 * @param own size in mm that the picture itself asks for
 */
export function firstPicture(
  id: string,
  pictureWidth: number,
  pictureHeight: number,
  own?: { readonly widthMm: number; readonly heightMm: number },
): PictureObject {
  const longest = Math.max(pictureWidth, pictureHeight);
  const wanted = own ? Math.min(LARGEST_SIDE_MM, Math.max(own.widthMm, own.heightMm)) : FIRST_SIZE_MM;
  const size = (side: number): number => Math.max(LIMITS.widthMm[0], Number(((wanted * side) / longest).toFixed(1)));
  return {
    kind: 'picture',
    id,
    name: '',
    on: null,
    hidden: false,
    locked: false,
    source: id,
    method: PIECES_METHOD,
    picture: {
      widthMm: size(pictureWidth),
      heightMm: size(pictureHeight),
      xMm: 0,
      yMm: 0,
      turn: 0,
      mirror: false,
      mask: null,
      keptMasks: [],
      dropGround: true,
      groundHex: null,
      groundTolerance: 3,
      groundEverywhere: false,
      beyondHex: null,
    },
    light: PLAIN_LIGHT,
    colours: { count: 'auto', charts: [], stashOnly: false, distinct: true, smallestSpotMm2: 0.4, decisions: [] },
    pieces: {
      strictnessMm: 0.04,
      cornerSharpness: 1,
      smallestMm2: 0.6,
      lineBelowMm: 0.9,
      satinBelowMm: 5,
      keepBelowMm: 0.9,
    },
    rendering: NO_RENDERING,
  };
}

/** Method a picture of a sort starts with, unless somebody says another. */
export const FIRST_METHODS: Readonly<Record<PictureSort, string>> = {
  flat: PIECES_METHOD,
  drawing: PIECES_METHOD,
  photograph: 'painting',
};

/** The recipe of a first conversion of one picture. */
export function defaultRecipe(
  pictureWidth: number,
  pictureHeight: number,
  own?: { readonly widthMm: number; readonly heightMm: number },
): Recipe {
  return { ...emptyRecipe(), objects: [firstPicture(FIRST_PICTURE, pictureWidth, pictureHeight, own)] };
}

/** Objects and decisions a design may have. */
const MOST_OBJECTS = 600;
const MOST_DECISIONS = 2000;
const MOST_IGNORED = 500;
/** Places lie within this of the middle. */
const MOST_MM = 10_000;

const schema = object({
  version: number().required().oneOf([RECIPE_VERSION], `version must be 1 to ${RECIPE_VERSION}, got \${value}`),
  cloth: object({
    fabric: oneOf(
      'fabric',
      FABRICS.map(({ id }) => id),
    ),
    hex: hex('the cloth'),
    measured: measuredSchema.optional().default(undefined),
  })
    .noUnknown('cloth: not known: ${unknown}')
    .required(),
  hoop: object({
    widthMm: measure('hoop.widthMm', 20, 600),
    heightMm: measure('hoop.heightMm', 20, 600),
    round: flag(),
  })
    .noUnknown('hoop: not known: ${unknown}')
    .optional()
    .default(undefined),
  several: object({
    across: limited('severalAcross').integer('several.across must be a whole number'),
    down: limited('severalDown').integer('several.down must be a whole number'),
    gapMm: limited('severalGapMm'),
  })
    .noUnknown('several: not known: ${unknown}')
    .optional()
    .default(undefined),
  objects: array(objectSchema)
    .required()
    .max(MOST_OBJECTS, `objects: a design has at most ${MOST_OBJECTS}`)
    .test('ties', '', (objects, context) => {
      const fault = tiesFault(objects ?? []);
      return fault ? context.createError({ message: fault }) : true;
    }),
  decisions: array(decisionSchema).required().max(MOST_DECISIONS),
  stitches: object({
    spacingMm: limited('spacingMm'),
    angle: limited('angle'),
    angleStep: limited('angleStep'),
    fillStitchMm: limited('fillStitchMm'),
    runStitchMm: limited('runStitchMm'),
    satinSpacingMm: limited('satinSpacingMm'),
    pattern: oneOf(
      'pattern',
      OFFSET_PATTERNS.map(({ id }) => id),
    ),
    corners: oneOf(
      'corners',
      CORNERS.map(({ id }) => id),
    ),
    compensationMm: orByFabric('compensationMm'),
    overlapMm: orByFabric('overlapMm'),
  })
    .noUnknown('stitches: not known: ${unknown}')
    .required(),
  order: object({
    needles: limited('needles').integer('needles must be a whole number'),
    trimOverMm: limited('trimOverMm'),
    hideTravel: flag(),
    trims: oneOf('trims', TRIMS).optional(),
    tie: oneOf(
      'tie',
      TIES.map(({ id }) => id),
    ).optional(),
    begin: oneOf(
      'begin',
      BEGIN_PLACES.map(({ id }) => id),
    ).optional(),
    end: oneOf(
      'end',
      END_PLACES.map(({ id }) => id),
    ).optional(),
  })
    .noUnknown('order: not known: ${unknown}')
    .required(),
  budget: number()
    .strict(true)
    .nullable()
    .defined()
    .integer('budget must be a whole number')
    .min(LIMITS.budget[0], `budget must be at least ${LIMITS.budget[0]}, got \${value}`)
    .max(LIMITS.budget[1], `budget must be at most ${LIMITS.budget[1]}, got \${value}`),
  ignored: array(
    object({
      kind: text('ignored.kind', 40),
      at: object({ x: measure('ignored.at', -MOST_MM, MOST_MM), y: measure('ignored.at', -MOST_MM, MOST_MM) })
        .noUnknown('ignored.at: not known: ${unknown}')
        .nullable()
        .defined()
        .default(undefined),
      harm: measure('ignored.harm', 0, 1e6),
    }).noUnknown('ignored: not known: ${unknown}'),
  )
    .max(MOST_IGNORED, `ignored: at most ${MOST_IGNORED} findings`)
    .optional(),
})
  .noUnknown('the recipe has settings that are not known: ${unknown}')
  .required();

/** Says what is wrong with how objects hang together: names twice, carriers that are not there, circles. */
function tiesFault(objects: readonly DesignObject[]): string | undefined {
  const byId = new Map<string, DesignObject>();
  for (const each of objects) {
    // What is wrong with an object itself is said of it.
    if (typeof each?.id !== 'string' || !kindOf(each)) return undefined;
    if (byId.has(each.id)) return `objects: "${each.id}" is there twice`;
    byId.set(each.id, each);
  }
  const carriers = ({ on }: DesignObject): readonly string[] => (typeof on === 'string' ? [on] : []);
  for (const each of objects) {
    for (const need of [...carriers(each), ...kindOf(each).needs(each)]) {
      if (!byId.has(need)) return `objects: "${each.id}" belongs to "${need}", which is not there`;
    }
    const seen = new Set<string>();
    const open = [each];
    for (let at = open.pop(); at; at = open.pop()) {
      for (const next of [...carriers(at), ...kindOf(at).needs(at)]) {
        if (next === each.id) return `objects: "${each.id}" belongs to itself`;
        const found = byId.get(next);
        if (found && !seen.has(next)) {
          seen.add(next);
          open.push(found);
        }
      }
    }
  }
  return undefined;
}

/** A message on one line: values that are quoted in it may have many. */
const oneLine = (message: string): string => message.replace(/\s+/g, ' ').slice(0, 300);

/** The schema of a recipe, for answers that hold one. */
export const recipeSchema = lazy(() => schema);

/**
 * Checks that something read from outside is a recipe, and brings one of an earlier version up to date.
 * @throws RangeError whose message names the setting, the value and what is allowed.
 */
export function parseRecipe(value: unknown): Recipe {
  const version = (value as { version?: unknown } | null)?.version;
  if (typeof version === 'number' && version > RECIPE_VERSION) {
    const newer = `got ${version}: it was made by a newer version of Open Kite`;
    throw new RangeError(`recipe: version must be 1 to ${RECIPE_VERSION}, ${newer}`);
  }
  try {
    return schema.validateSync(upgradeRecipe(value), { strict: true, abortEarly: true }) as unknown as Recipe;
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(`recipe: ${oneLine(error.message)}`);
    throw error;
  }
}
