import { array, number, object, string, mixed } from 'yup';
import { chain, mapCurve, mapRun, scaleOf, type Matrix } from '../../artwork/matrix.js';
import { flatten, flattenRing, type Curve } from '../../geometry/curve.js';
import { thicken, unite } from '../../geometry/polygons.js';
import type { Points } from '../../geometry/vector.js';
import { ALPHABETS } from '../../letters/alphabets/index.js';
import type { GlyphStroke } from '../../letters/glyph.js';
import { ALIGNS, BASELINES, layText, type LaidLetter } from '../../letters/layout.js';
import { fromRings, type Area } from '../../pieces/area.js';
import { pathCurve } from '../../pieces/drawn.js';
import { frameMatrix } from '../../pieces/find-again.js';
import { flag, limited, measure, oneOf, paths, threadChoice } from '../../settings/fields.js';
import { LIMITS } from '../../settings/limits.js';
import { familyOf, STITCH_KINDS } from '../../stitches/kinds/index.js';
import { baseFields, placeSchema } from '../base-schema.js';
import type { LettersObject } from '../design-object.js';
import { objectKind, type ObjectPlace } from './object-kind.js';

/** Characters of one text, and glyphs an outline font hands over at most. */
export const MOST_CHARACTERS = 400;
const MOST_GLYPHS = 400;
const LONGEST_GLYPH = 20_000;
/** Below this height of capitals strokes are lines, and wider than that they are fills. */
export const SATIN_FROM_MM = 4;
const WIDEST_SATIN_MM = 7;
const NARROWEST_SATIN_MM = 0.7;
const FLATNESS = 0.02;
const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;

const glyphs = mixed<Record<string, { d: string; advance: number }>>().test(
  'glyphs',
  `letters: glyphs must be at most ${MOST_GLYPHS} paths with their widths`,
  (value: unknown) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    const entries = Object.entries(value as Record<string, unknown>);
    return entries.length <= MOST_GLYPHS && entries.every(([name, glyph]) => [...name].length === 1 && isGlyph(glyph));
  },
);
const isGlyph = (value: unknown): boolean => {
  const { d, advance, ...more } = (value ?? {}) as Record<string, unknown>;
  const path = typeof d === 'string' && d.length <= LONGEST_GLYPH && /^[MLCQHVZ\d\s.,e-]*$/i.test(d);
  return path && typeof advance === 'number' && Math.abs(advance) <= 2000 && Object.keys(more).length === 0;
};
const numbersByName = (name: string, most: number, least: number, largest: number) =>
  mixed<Record<string, number>>().test(
    name,
    `letters: ${name} must be at most ${most} numbers from ${least} to ${largest}`,
    (value: unknown) => {
      if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
      const all = Object.entries(value as Record<string, unknown>);
      return all.length <= most && all.every(([, v]) => typeof v === 'number' && v >= least && v <= largest);
    },
  );

/** Sewn in the kind that its size asks for. */
const BY_SIZE = 'auto';

const schema = object({
  kind: string().required(),
  ...baseFields,
  place: placeSchema,
  text: string()
    .strict(true)
    .defined('letters: text is missing')
    .max(MOST_CHARACTERS, `letters: a text has at most ${MOST_CHARACTERS} characters`),
  font: string().strict(true).required('letters: font is missing').max(60),
  outlines: object({
    glyphs: glyphs.required(),
    kerning: numbersByName('kerning', 4000, -200, 200).required(),
    leastMm: measure('letters: leastMm', 1, 60),
  })
    .noUnknown('letters: not known: ${unknown}')
    .nullable()
    .defined()
    .default(undefined),
  heightMm: limited('lettersMm'),
  weight: number()
    .strict(true)
    .nullable()
    .defined()
    .min(0.05, 'weight must be at least 0.05, got ${value}')
    .max(0.4, 'weight must be at most 0.4, got ${value}'),
  line: oneOf('line', BASELINES),
  radiusMm: limited('textRadiusMm'),
  path: array().when('line', {
    is: 'path',
    then: () => paths('the line of a text', 1, 400),
    otherwise: () => array().required().max(0, 'letters: only a text on a drawn line has one'),
  }),
  along: string().strict(true).max(40, 'letters: along is too long'),
  align: oneOf('align', ALIGNS),
  letterSpacingMm: limited('letterSpacingMm'),
  wordSpacing: limited('wordSpacing'),
  lineSpacing: limited('lineSpacing'),
  slant: limited('slant'),
  kerning: flag(),
  pairs: numbersByName('pairs', MOST_CHARACTERS, -50, 50).required(),
  as: oneOf('stitch kind', [BY_SIZE, ...STITCH_KINDS.map(({ id }) => id)]),
  paint: threadChoice(),
})
  .noUnknown('letters have settings that are not known: ${unknown}')
  .test('font', 'letters: there is no font "${value.font}"', (value, context) => {
    const own = ALPHABETS.some(({ id }) => id === value.font);
    if (own || value.outlines) return true;
    return context.createError({ message: `letters: there is no font "${String(value.font).slice(0, 40)}"` });
  });

/** A text that stays text: each letter is sewn by its strokes, or by its outline. */
export const LETTERS = objectKind<LettersObject>({
  id: 'letters',
  name: 'Letters',
  hint: 'a text on a straight line, an arc, a circle or a drawn line; it stays text',
  schema: schema as never,
  needs: () => [],
  placed: (letters, by) => {
    const scale = scaleOf(by);
    const upright = Math.abs(by.a - by.d) < 1e-6 * scale && Math.abs(by.b + by.c) < 1e-6 * scale;
    const heightMm = Math.round(letters.heightMm * scale * 1000) / 1000;
    const [least, most] = LIMITS.lettersMm;
    if (heightMm < least || heightMm > most) return undefined;
    const place = chain(by, letters.place);
    if (!upright || Math.abs(scale - 1) < 1e-9) return { ...letters, place };
    // A size of its own: figures say what is sewn.
    const back = 1 / (heightMm / letters.heightMm);
    const sized = (mm: number): number => Math.round((mm * heightMm * 1000) / letters.heightMm) / 1000;
    return {
      ...letters,
      place: { ...place, a: place.a * back, b: place.b * back, c: place.c * back, d: place.d * back },
      heightMm,
      radiusMm: Math.min(LIMITS.textRadiusMm[1], Math.max(LIMITS.textRadiusMm[0], sized(letters.radiusMm))),
      letterSpacingMm: sized(letters.letterSpacingMm),
      pairs: Object.fromEntries(Object.entries(letters.pairs).map(([at, mm]) => [at, sized(mm)])),
      path: letters.path.map(({ closed, nodes }) => ({
        closed,
        nodes: nodes.map(([x, y, a, b, c, d]) => [x, y, a, b, c, d].map(sized) as (typeof nodes)[number] & number[]),
      })) as unknown as LettersObject['path'],
    };
  },
  areas: (letters, place) => {
    const toCloth = frameMatrix(place.toHoop);
    const text = layText(letters, baselineOf(letters));
    const { paint, hex } = place.paintOf(letters.paint);
    const shared = {
      origin: 'drawn' as const,
      object: letters.id,
      paint,
      hex,
      layer: place.layer,
      keep: true,
      decisions: [],
    };
    const areas = text.letters.flatMap((letter): Area[] => {
      const at = chain(toCloth, letter.at);
      const base = { ...shared, inText: { word: letter.word, place: letter.place }, part: String(letter.place) };
      const parts =
        letter.glyph.strokes.length > 0 ? strokeAreas(letters, letter, at, place) : outlineAreas(letters, letter, at);
      return parts.map((part, i) => ({ ...base, ...part, part: i === 0 ? base.part : `${base.part}.${i}` }));
    });
    return { areas };
  },
});

/** The drawn line of a text as a run, in the frame of the letters. */
export function baselineOf({ line, path }: LettersObject): Points | null {
  const [first] = path;
  if (line !== 'path' || !first) return null;
  return flatten(
    pathCurve(first, (x, y) => ({ x, y })),
    FLATNESS,
  );
}

type Part = Pick<Area, 'outline' | 'rings' | 'areaMm2' | 'as' | 'line' | 'passes'>;

/** A thin line of letters is sewn forth, back and forth: a bean stitch. */
const BEAN = 3;

/** Strokes of a letter: those of one width together, dots by themselves. */
function strokeAreas(
  { as, heightMm }: LettersObject,
  { glyph }: LaidLetter,
  at: Matrix,
  { unitMm }: ObjectPlace,
): Part[] {
  const groups = new Map<string, GlyphStroke[]>();
  glyph.strokes.forEach((stroke, i) => {
    const key = stroke.isLine ? String(stroke.widthMm) : `dot ${i}`;
    groups.set(key, [...(groups.get(key) ?? []), stroke]);
  });
  return [...groups.values()].map((strokes): Part => {
    const widthMm = strokes[0].widthMm * unitMm;
    const curves = strokes.map(({ curve }) => mapCurve(curve, at));
    const rings = ringsOfStrokes(strokes, widthMm, at);
    const kind = as === 'auto' ? kindOfStrokes(heightMm * unitMm, widthMm) : as;
    const isLine = strokes[0].isLine || familyOf(kind) === 'line';
    const line = isLine ? { paths: curves, widthMm } : undefined;
    return { ...fromRings(rings), as: kind, passes: familyOf(kind) === 'line' ? BEAN : undefined, line };
  });
}

/** Outlines of strokes, by what is done to them but for their place. */
const OUTLINED = new WeakMap<GlyphStroke, Map<string, readonly Points[]>>();
const MOST_OUTLINED = 8;

/** The outline of strokes of one width. It is made where no letter stands, so that it is the same wherever the letter is. */
function ringsOfStrokes(strokes: readonly GlyphStroke[], widthMm: number, { a, b, c, d, e, f }: Matrix): Points[] {
  const known = OUTLINED.get(strokes[0]) ?? new Map<string, readonly Points[]>();
  OUTLINED.set(strokes[0], known);
  const key = `${strokes.length} ${widthMm} ${a} ${b} ${c} ${d}`;
  let rings = known.get(key);
  if (!rings) {
    const here = { a, b, c, d, e: 0, f: 0 };
    const runs = strokes.map(({ curve }) => flatten(mapCurve(curve, here), FLATNESS));
    rings = unite(
      runs.flatMap((run) => thicken([run], widthMm, false, ROUND)),
      [],
    );
    if (known.size >= MOST_OUTLINED) known.clear();
    known.set(key, rings);
  }
  return rings.map((ring) => ring.map((v, i) => v + (i % 2 === 0 ? e : f)));
}

/** How strokes are sewn where nobody says: satin as long as it is wide enough to be one, and not too wide. */
function kindOfStrokes(heightMm: number, widthMm: number): string {
  if (heightMm < SATIN_FROM_MM || widthMm < NARROWEST_SATIN_MM) return 'running';
  return widthMm > WIDEST_SATIN_MM ? 'tatami' : 'satin';
}

function outlineAreas({ as }: LettersObject, { glyph }: LaidLetter, at: Matrix): Part[] {
  if (glyph.rings.length === 0) return [];
  const curves = glyph.outline.map((curve): Curve => mapCurve(curve, at));
  // Its own curves where none of them cross: else what they cover.
  const own = curves.length === glyph.rings.length;
  const rings = own ? curves.map((curve) => flattenRing(curve, FLATNESS)) : glyph.rings.map((ring) => mapRun(at, ring));
  const shape = fromRings(rings);
  return [{ ...shape, outline: own ? curves : shape.outline, as: as === 'auto' ? undefined : as }];
}
