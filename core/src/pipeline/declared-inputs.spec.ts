import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { METHOD_IDS, renderMethodOf } from '../photo/methods/index.js';
import { parseRecipe } from '../recipe/recipe.js';
import { sameNumbers } from '../test/same.js';
import { flatRecipe, flatShape, onePicture, type FlatRecipe } from '../test/flat-recipe.js';
import { drawSmooth } from '../test/draw.js';
import { StepCache } from './step.js';

/** Pixels a side: fewer would be enlarged. */
const SIDE = 256;
/** A disc and a bar on a ground: small, so that every setting can be tried with every method. */
const { raster } = drawSmooth(
  (x, y) => ((x - 90) ** 2 + (y - 96) ** 2 < 3900 ? 1 : x > 176 && x < 232 && y > 32 && y < 208 ? 2 : 0),
  [
    { r: 248, g: 244, b: 236 },
    { r: 30, g: 70, b: 110 },
    { r: 200, g: 80, b: 40 },
  ],
  SIDE,
  SIDE,
);
const charts = [
  {
    id: 'a',
    name: 'A',
    threads: ['#1e466e', '#c85028', '#f8f4ec', '#808080'].map((hex, i) => ({
      code: `A${i}`,
      name: `A ${i}`,
      hex,
      weight: 40,
      finish: 'plain',
    })),
  },
];
const stash = new Set(['a A0', 'a A3']);

const square = (left: number, top: number, side: number) => ({
  closed: true,
  nodes: [
    [left, top, 0, 0, 0, 0],
    [left + side, top, 0, 0, 0, 0],
    [left + side, top + side, 0, 0, 0, 0],
    [left, top + side, 0, 0, 0, 0],
  ] as const,
});

const plain = flatRecipe(SIDE, SIDE);
const base: FlatRecipe = {
  ...plain,
  picture: { ...plain.picture, widthMm: 12, heightMm: 12 },
  pieces: {
    ...plain.pieces,
    drawn: [flatShape('d1', [square(0.1, 0.1, 0.12)], { hex: '#44aa66' })],
    decisions: [{ kind: 'stitch', at: { drawn: 'd1' }, set: { angle: 10 } }],
  },
  rendering: { ...plain.rendering, border: { kind: 'satin', widthMm: 2, hex: '#223355' } },
};

type Change = (recipe: FlatRecipe) => FlatRecipe;
const inPart =
  <K extends 'picture' | 'light' | 'colours' | 'pieces' | 'stitches' | 'order' | 'rendering'>(
    part: K,
    change: Partial<FlatRecipe[K]>,
  ): Change =>
  (recipe) => ({ ...recipe, [part]: { ...recipe[part], ...change } });

const GRADIENT = {
  kind: 'gradient',
  at: { drawn: 'd1' },
  fill: {
    id: 'g',
    shape: 'linear',
    way: [0.1, 0.1, 0.22, 0.22],
    stops: [
      { at: 0, paint: { hex: '#44aa66' } },
      { at: 1, paint: { bare: true } },
    ],
    layers: 'over',
  },
};

/** One change of every setting a recipe has. */
const CHANGES: Readonly<Record<string, Change>> = {
  clothHex: (recipe) => ({ ...recipe, clothHex: '#335577' }),
  budget: (recipe) => ({ ...recipe, budget: 100_000 }),
  fabric: inPart('stitches', { fabric: 'fleece' }),
  ...Object.fromEntries(
    Object.entries({
      spacingMm: 0.6,
      satinSpacingMm: 0.6,
      angle: 77,
      angleStep: 0,
      fillStitchMm: 2.4,
      runStitchMm: 1.6,
      pattern: 'third',
      corners: 'round',
      compensationMm: 0.5,
      overlapMm: 1,
    } satisfies Partial<FlatRecipe['stitches']> | object).map(([key, value]) => [
      `stitches.${key}`,
      inPart('stitches', { [key]: value }),
    ]),
  ),
  'order.needles': inPart('order', { needles: 6 }),
  'order.trimOverMm': inPart('order', { trimOverMm: 9 }),
  'order.hideTravel': inPart('order', { hideTravel: false }),
  'picture.widthMm': inPart('picture', { widthMm: 15, heightMm: 15 }),
  'picture.turn': inPart('picture', { turn: 30 }),
  'picture.mirror': inPart('picture', { mirror: true }),
  'picture.mask': inPart('picture', { mask: { shape: 'circle', x: 0, y: 0, widthMm: 11, heightMm: 11, turn: 0 } }),
  'picture.dropGround': inPart('picture', { dropGround: false }),
  'picture.groundHex': inPart('picture', { groundHex: '#c85028' }),
  'picture.groundTolerance': inPart('picture', { groundTolerance: 30 }),
  'picture.groundEverywhere': inPart('picture', { groundEverywhere: true }),
  ...Object.fromEntries(
    Object.entries({
      noise: 40,
      black: 40,
      white: 200,
      gamma: 1.8,
      brightness: 30,
      contrast: 30,
      warmth: 40,
      saturation: 60,
      sharpness: 50,
      tone: 'grey',
    }).map(([key, value]) => [`light.${key}`, inPart('light', { [key]: value })]),
  ),
  'colours.count': inPart('colours', { count: 2 }),
  'colours.charts': inPart('colours', { charts: ['a'] }),
  'colours.stashOnly': inPart('colours', { charts: ['a'], stashOnly: true }),
  'colours.distinct': inPart('colours', { charts: ['a'], distinct: false }),
  'colours.smallestSpotMm2': inPart('colours', { smallestSpotMm2: 20 }),
  'colours.decisions': inPart('colours', { decisions: [{ kind: 'bare', at: { hex: '#c85028', u: 0.8, v: 0.5 } }] }),
  'pieces.strictnessMm': inPart('pieces', { strictnessMm: 0.8 }),
  'pieces.cornerSharpness': inPart('pieces', { cornerSharpness: 2 }),
  'pieces.smallestMm2': inPart('pieces', { smallestMm2: 40 }),
  'pieces.lineBelowMm': inPart('pieces', { lineBelowMm: 3 }),
  'pieces.satinBelowMm': inPart('pieces', { satinBelowMm: 1 }),
  'pieces.keepBelowMm': inPart('pieces', { keepBelowMm: 0 }),
  'pieces.drawn': inPart('pieces', {
    drawn: [...base.pieces.drawn, { ...flatShape('d2', [square(0.3, 0.3, 0.2)], { hex: '#44aa66' }), role: 'hole' }],
  }),
  'decisions: kind': inPart('pieces', { decisions: [{ kind: 'sew', at: { drawn: 'd1' }, as: 'contour', passes: 0 }] }),
  'decisions: gradient': inPart('pieces', { decisions: [GRADIENT] }),
  'decisions: gradient on another cloth': (recipe) => ({
    ...recipe,
    clothHex: '#aa2266',
    pieces: { ...recipe.pieces, decisions: [GRADIENT] },
  }),
  'rendering.border': inPart('rendering', { border: { kind: 'applique', widthMm: 3, hex: '#aa3311' } }),
  'rendering.mix': inPart('rendering', { mix: [{ kind: 'keep', thread: { hex: '#11aa33' } }] }),
  'rendering.strokes': inPart('rendering', { strokes: [[0.1, 0.1, 0.9, 0.4]] }),
  'rendering.lines': inPart('rendering', { lines: [{ kind: 'delete', threads: [], area: [0, 0, 0.5, 0, 0.5, 0.5] }] }),
};

/** Changes of the options of a method. */
function optionsOf(id: string): Readonly<Record<string, Change>> {
  const method = id === 'pieces' ? undefined : renderMethodOf(id);
  return Object.fromEntries(
    Object.entries(method?.options ?? {}).map(([name, option]) => {
      const value =
        option.type === 'number'
          ? option.usual === option.most
            ? option.least
            : Math.min(option.most, option.usual + 2 * option.step)
          : (option.choices.find((choice) => choice.id !== option.usual)?.id ?? option.usual);
      return [`${id}.${name}`, inPart('rendering', { values: { [id]: { [name]: value } } })];
    }),
  );
}

describe('steps with declared inputs', () => {
  const run = (recipe: FlatRecipe, cache?: StepCache, given = charts, drawer = stash): Promise<Design> =>
    convert(onePicture({ raster, pictureKey: 'small', recipe, charts: given, stash: drawer }), { cache });
  const same = (a: Design, b: Design): boolean =>
    sameNumbers(a.stitches.x, b.stitches.x) &&
    sameNumbers(a.stitches.y, b.stitches.y) &&
    sameNumbers(a.stitches.command, b.stitches.command) &&
    sameNumbers(a.stitches.thread, b.stitches.thread) &&
    a.threads.map(({ hex, code }) => hex + code).join() === b.threads.map(({ hex, code }) => hex + code).join();

  for (const method of METHOD_IDS) {
    it(`give the same bytes warm as cold, whatever is changed: ${method}`, async () => {
      // A painting takes longest; a smaller one goes through the same steps.
      const side = method === 'painting' ? 0.6 : 1;
      const { widthMm, heightMm } = base.picture;
      const start: FlatRecipe = {
        ...base,
        method,
        picture: { ...base.picture, widthMm: widthMm * side, heightMm: heightMm * side },
        colours: { ...base.colours, count: method === 'painting' ? 3 : 'auto' },
      };
      const cache = new StepCache();
      const first = await run(start, cache);
      let moved = 0;
      for (const [name, change] of Object.entries({ ...CHANGES, ...optionsOf(method) })) {
        const changed = change(start);
        const [warm, cold] = [await run(changed, cache), await run(changed)];
        expect(same(warm, cold)).withContext(`${method}, ${name}`).toBeTrue();
        if (!same(warm, first)) moved++;
      }
      // And back again, over what all the changes left behind.
      expect(same(await run(start, cache), first)).toBeTrue();
      // The comparison is one of different designs: most settings show in most methods.
      expect(moved).toBeGreaterThan(15);
    }, 120_000);

    it(`follow the content of charts and of the drawer: ${method}`, async () => {
      const cache = new StepCache();
      const matched: FlatRecipe = { ...base, method, colours: { ...base.colours, charts: ['a'], stashOnly: true } };
      await run(matched, cache);
      const other = charts.map((chart) => ({
        ...chart,
        threads: chart.threads.map((thread) => ({ ...thread, hex: thread.hex === '#1e466e' ? '#2255aa' : thread.hex })),
      }));
      expect(same(await run(matched, cache, other), await run(matched, undefined, other))).toBeTrue();
      const fuller = new Set([...stash, 'a A1']);
      const [warm, cold] = [await run(matched, cache, charts, fuller), await run(matched, undefined, charts, fuller)];
      expect(same(warm, cold)).toBeTrue();
    }, 60_000);
  }

  it('are tried with every setting a recipe has', () => {
    const tried = Object.values(CHANGES).map((change) => JSON.stringify(parseRecipe(change(base))));
    expect(new Set(tried).size).toBe(tried.length);
    for (const part of ['light', 'pieces', 'stitches', 'order'] as const) {
      for (const key of Object.keys(base[part])) {
        // What a light does below its threshold shows only in one ink.
        if (['threshold', 'decisions', 'fabric'].includes(key)) continue;
        const touched = Object.keys(CHANGES).some((name) => name === `${part}.${key}` || name === key);
        expect(touched).withContext(`${part}.${key}`).toBeTrue();
      }
    }
  });
});
