import { nearestThreads, ownThread, type Chart } from './colour/charts.js';
import { fromHex, toHex, type Rgb } from './colour/srgb.js';
import { characterOf, type Character } from './colour/suggest.js';
import type { ColourShare, Design, DesignThread, PictureBox } from './design.js';
import { nodeCount } from './geometry/curve.js';
import { findPieces, type FoundPieces } from './pieces/find-pieces.js';
import { enlargeSmall, shrink, workingSize } from './picture/resample.js';
import { createRaster, type Raster } from './picture/raster.js';
import type { Recipe } from './recipe/recipe.js';
import { sewingOrder } from './sequence/order.js';
import { sewPieces } from './sequence/sew.js';
import type { StitchList } from './sequence/stitch-list.js';
import { StepCache } from './step-cache.js';
import { fabricOf } from './stitches/fabrics.js';
import { labelPicture, type LabelMap } from './trace/labels.js';
import { traceLabels } from './trace/trace.js';

/** Steps of a conversion, in order. */
export const STEPS = ['prepare', 'colours', 'trace', 'pieces', 'order', 'stitches'] as const;
export type StepName = (typeof STEPS)[number];

/** What goes into a conversion. */
export interface ConvertInput {
  /** Decoded picture. */
  readonly raster: Raster;
  /** Name of the picture's content, so that steps can be remembered; the same pixels, the same name. */
  readonly pictureKey: string;
  readonly recipe: Recipe;
  /** Charts the recipe may name. */
  readonly charts: readonly Chart[];
}

export interface ConvertOptions {
  /** `rough` works on a small copy of the picture and answers quickly; `full` is the result. */
  readonly quality?: 'rough' | 'full';
  readonly cache?: StepCache;
  /** Hears which step runs and how much of the whole is done, 0 to 1. */
  readonly progress?: (step: StepName, share: number) => void;
  /**
   * Called between pieces of work; may give other work a turn, and stops the conversion by throwing.
   * Core has no clock and no timers of its own.
   */
  readonly checkpoint?: () => void | Promise<void>;
}

/** Pixels a picture is worked on at most. */
const FULL_PIXELS = 1_500_000;
const ROUGH_PIXELS = 62_500;
const PIECES_PER_CHECKPOINT = 8;

/**
 * Converts a picture into a design. Each step is remembered under what went into it, so that a late change never
 * computes an early step again.
 * @throws RangeError if the recipe names a chart that was not given.
 */
export async function convert(input: ConvertInput, options: ConvertOptions = {}): Promise<Design> {
  const { recipe } = input;
  const cache = options.cache ?? new StepCache();
  const pause = async (step: StepName, share: number): Promise<void> => {
    options.progress?.(step, share);
    await options.checkpoint?.();
  };
  const { prepared, map, pixelsPerMm, key: labelKey } = await reduceColours(input, options.quality, cache, pause);

  await pause('trace', 0.4);
  const tolerance = Math.max(0.3, recipe.pieces.strictnessMm * pixelsPerMm);
  const traceKey = `${labelKey} ${tolerance} ${recipe.pieces.cornerSharpness}`;
  const trace = await cache.get('trace', traceKey, () =>
    traceLabels(map, prepared.small, { tolerance, cornerSharpness: recipe.pieces.cornerSharpness }),
  );

  await pause('pieces', 0.6);
  const { smallestMm2, lineBelowMm } = recipe.pieces;
  const { dropGround } = recipe.picture;
  const pieceKey = `${traceKey} ${pixelsPerMm} ${smallestMm2} ${lineBelowMm} ${dropGround}`;
  const found = await cache.get('pieces', pieceKey, () =>
    findPieces(trace, map, { pixelsPerMm, smallestMm2, lineBelowMm, dropGround }),
  );

  await pause('order', 0.65);
  const { needles } = recipe.order;
  const orderKey = `${pieceKey} ${needles > 1}`;
  const order = await cache.get('order', orderKey, () => sewingOrder(found.pieces, needles));

  await pause('stitches', 0.7);
  const stitchKey = `${orderKey} ${JSON.stringify(recipe.stitches)} ${recipe.order.trimOverMm}`;
  const stitches = await cache.get('stitches', stitchKey, () =>
    sew(found, order, recipe, (done) => pause('stitches', 0.7 + (0.3 * done) / Math.max(1, found.pieces.length))),
  );
  options.progress?.('stitches', 1);

  const threads = matchThreads(found.threadLabels, map, recipe, input.charts);
  return {
    fabric: { id: recipe.stitches.fabric, hex: recipe.clothHex },
    picture: pictureBox(recipe),
    threads,
    stitches,
    pieceIds: found.pieces.map((piece) => piece.id),
    pieces: found.pieces,
    order,
    colours: colourShares(map, found, dropGround),
    suggestedColours: prepared.character.colours,
    flat: prepared.character.flat,
    plainGround: map.ground > 0,
    tooSmall: found.tooSmall,
    outlinePoints: trace.curves.reduce((sum, curve) => sum + nodeCount(curve), 0),
  };
}

interface Reduced {
  readonly prepared: { readonly small: Raster; readonly character: Character };
  readonly map: LabelMap;
  readonly pixelsPerMm: number;
  readonly key: string;
}

/** The first two steps: the picture at its working size, and every pixel given to a colour. */
async function reduceColours(
  { recipe, raster: source, pictureKey }: ConvertInput,
  quality: ConvertOptions['quality'] | 'own-size',
  cache: StepCache,
  pause: (step: StepName, share: number) => Promise<void>,
): Promise<Reduced> {
  await pause('prepare', 0);
  const raster = quality === 'own-size' ? source : enlargeSmall(source);
  const budget = quality === 'own-size' ? Infinity : quality === 'rough' ? ROUGH_PIXELS : FULL_PIXELS;
  const size = workingSize(raster.width, raster.height, budget);
  const pixelsPerMm = Math.sqrt((size.width * size.height) / (recipe.picture.widthMm * recipe.picture.heightMm));
  const prepareKey = `${pictureKey} ${size.width}x${size.height}`;
  const prepared = await cache.get('prepare', prepareKey, () => {
    const small = shrink(raster, size.width, size.height);
    return { small, character: characterOf(small) };
  });

  await pause('colours', 0.1);
  // A spot too small to sew joins its neighbour: left out, it would be a hole.
  const smallest = Math.max(recipe.colours.smallestSpotMm2, recipe.pieces.smallestMm2);
  const spot = Math.round(smallest * pixelsPerMm * pixelsPerMm);
  const key = `${prepareKey} ${recipe.colours.count} ${spot}`;
  const map = await cache.get('colours', key, () =>
    labelPicture(prepared.small, prepared.character, { count: recipe.colours.count, smallestSpot: spot }),
  );
  return { prepared, map, pixelsPerMm, key };
}

/**
 * The picture as it is to be sewn: at its working size, bare where the recipe leaves the plain ground bare.
 * Likeness is measured against it. With the cache of the conversion it costs next to nothing.
 */
export async function preparedPicture(input: ConvertInput, cache = new StepCache()): Promise<Raster> {
  const { prepared, map } = await reduceColours(input, 'full', cache, () => Promise.resolve());
  const { width, height, data } = prepared.small;
  if (!input.recipe.picture.dropGround || map.ground === 0) return prepared.small;
  const bare = createRaster(width, height, data.slice());
  for (let i = 0; i < map.labels.length; i++) if (map.labels[i] === map.ground) bare.data[i * 4 + 3] = 0;
  return bare;
}

/**
 * The picture at its own size in few colours: the recipe's number, matched to its charts if it names any. Bare places
 * stay transparent.
 */
export async function reducedPicture(input: ConvertInput): Promise<Raster> {
  const { map } = await reduceColours(input, 'own-size', new StepCache(), () => Promise.resolve());
  const labels = map.palette.map((_, i) => i + 1);
  const colours = matchThreads(labels, map, input.recipe, input.charts).map((thread) => fromHex(thread.hex));
  const out = createRaster(map.width, map.height);
  map.labels.forEach((label, i) => {
    if (label === 0) return;
    const { r, g, b } = colours[label - 1];
    out.data.set([r, g, b, 255], i * 4);
  });
  return out;
}

async function sew(
  found: FoundPieces,
  order: readonly number[],
  recipe: Recipe,
  pause: (done: number) => Promise<void>,
): Promise<StitchList> {
  const { spacingMm, fillStitchMm, runStitchMm, angle, angleStep, fabric } = recipe.stitches;
  const steps = sewPieces(found.pieces, order, {
    stitches: { spacingMm, fillStitchMm, runStitchMm, angle, compensationMm: fabricOf(fabric).compensationMm },
    angleStep,
    trimOverMm: recipe.order.trimOverMm,
  });
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (step.value % PIECES_PER_CHECKPOINT === 0) await pause(step.value);
  }
}

function pictureBox({ picture: { widthMm, heightMm } }: Recipe): PictureBox {
  return { left: -widthMm / 2, top: -heightMm / 2, width: widthMm, height: heightMm };
}

function matchThreads(
  labels: readonly number[],
  map: LabelMap,
  recipe: Recipe,
  charts: readonly Chart[],
): DesignThread[] {
  const chosen = recipe.colours.charts.map((id) => {
    const chart = charts.find((c) => c.id === id);
    if (!chart) {
      throw new RangeError(`chart: there is no "${id}"; known are ${charts.map((c) => c.id).join(', ') || 'none'}`);
    }
    return chart;
  });
  // Two colours of the picture stay two threads: sewn with one, they could not be told apart.
  const taken = new Set<string>();
  const byColour = new Map<string, DesignThread>();
  return labels.map((label, i): DesignThread => {
    const colour: Rgb = map.palette[label - 1];
    if (chosen.length === 0) {
      const { code, name, hex } = ownThread(colour, i);
      return { code, name, hex, chart: 'own', deltaE: 0 };
    }
    const known = byColour.get(toHex(colour));
    if (known) return known;
    const near = nearestThreads(colour, chosen, taken.size + 1);
    const best = near.find((match) => !taken.has(`${match.chart} ${match.thread.code}`)) ?? near[0];
    taken.add(`${best.chart} ${best.thread.code}`);
    const { code, name, hex } = best.thread;
    const thread = { code, name, hex, chart: best.chart, deltaE: Number(best.deltaE.toFixed(2)) };
    byColour.set(toHex(colour), thread);
    return thread;
  });
}

function colourShares(map: LabelMap, found: FoundPieces, dropGround: boolean): ColourShare[] {
  const area = new Float64Array(map.palette.length + 1);
  for (const label of map.labels) area[label]++;
  const total = Math.max(1, map.labels.length - area[0]);
  const threadHexes = found.threadLabels.map((label) => toHex(map.palette[label - 1]));
  return map.palette.map((colour, i) => {
    const bareGround = dropGround && i + 1 === map.ground;
    const hex = toHex(colour);
    return { hex, share: area[i + 1] / total, thread: bareGround ? -1 : threadHexes.indexOf(hex), bareGround };
  });
}
