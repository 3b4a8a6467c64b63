import { stashOf, matchThreads, threadKey, type MatchedThread } from './colour/match.js';
import type { Chart } from './colour/charts.js';
import { emptyShades, histogram, setShade, type Shades } from './colour/histogram.js';
import { fromHex, LINEAR, toHex, type Rgb } from './colour/srgb.js';
import type { ColourShare, Design, DesignThread, PictureBox } from './design.js';
import { nodeCount } from './geometry/curve.js';
import { findPieces, type FoundPieces } from './pieces/find-pieces.js';
import { prepare, ROUGH_PIXELS, FULL_PIXELS, type Prepared } from './prepare.js';
import { createRaster, type Raster } from './picture/raster.js';
import { sourceToHoop } from './picture/frame.js';
import { lightColour } from './picture/light.js';
import type { Recipe } from './recipe/recipe.js';
import { sewingOrder } from './sequence/order.js';
import { sewPieces } from './sequence/sew.js';
import type { StitchList } from './sequence/stitch-list.js';
import { StepCache } from './step-cache.js';
import { fabricOf } from './stitches/fabrics.js';
import { findGroup, regroups, type ColourDecision } from './trace/colour-decisions.js';
import { labelFlatArt } from './trace/edge-shades.js';
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
  /** Threads in the drawer, by `threadKey`; a recipe that asks for them needs it. */
  readonly stash?: ReadonlySet<string>;
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
  const reduced = await reduceColours(input, options.quality, cache, pause);
  const { prepared, map, key: labelKey } = reduced;
  const { pixelsPerMm, grid } = prepared;

  await pause('trace', 0.4);
  const tolerance = Math.max(0.3, recipe.pieces.strictnessMm * pixelsPerMm);
  const traceKey = `${labelKey} ${tolerance} ${recipe.pieces.cornerSharpness}`;
  const trace = await cache.get('trace', traceKey, () =>
    traceLabels(map, prepared.picture, { tolerance, cornerSharpness: recipe.pieces.cornerSharpness }),
  );

  await pause('pieces', 0.6);
  const { smallestMm2, lineBelowMm } = recipe.pieces;
  const choices = chooseColours(map, recipe, prepared);
  const bare = [...choices.bare.keys()].sort((p, q) => p - q);
  const { left, top } = grid;
  const leave = recipe.pieces.decisions.map(({ at }) => ({ anchor: at, ...sourceToHoop(recipe.picture, at.u, at.v) }));
  const said = JSON.stringify([smallestMm2, lineBelowMm, bare, leave]);
  const pieceKey = `${traceKey} ${pixelsPerMm} ${said}`;
  const foundPieces = await cache.get('pieces', pieceKey, () =>
    findPieces(trace, map, { pixelsPerMm, smallestMm2, lineBelowMm, left, top, bare: new Set(bare), leave }),
  );
  const { threads, threadOf } = chooseThreads(foundPieces.threadLabels, map, choices, input);
  const shared = threads.length < threadOf.length;
  const threadKeyOf = shared ? threadOf.join(',') : '';
  const found = shared
    ? await cache.get('shared threads', `${pieceKey} ${threadKeyOf}`, () => shareThreads(foundPieces, threadOf))
    : foundPieces;

  await pause('order', 0.65);
  const { needles } = recipe.order;
  const orderKey = `${pieceKey} ${threadKeyOf} ${needles > 1}`;
  const order = await cache.get('order', orderKey, () => sewingOrder(found.pieces, needles));

  await pause('stitches', 0.7);
  const stitchKey = `${orderKey} ${JSON.stringify(recipe.stitches)} ${recipe.order.trimOverMm}`;
  const stitches = await cache.get('stitches', stitchKey, () =>
    sew(found, order, recipe, (done) => pause('stitches', 0.7 + (0.3 * done) / Math.max(1, found.pieces.length))),
  );
  options.progress?.('stitches', 1);

  return {
    fabric: { id: recipe.stitches.fabric, hex: recipe.clothHex },
    picture: pictureBox(prepared),
    threads,
    stitches,
    pieceIds: found.pieces.map((piece) => piece.id),
    pieces: found.pieces,
    barePieces: found.bare,
    lostPieceDecisions: found.lost,
    order,
    colours: colourShares(map, foundPieces.threadLabels, threadOf, choices),
    suggestedColours: prepared.character.flat ? Math.max(1, map.shades) : prepared.character.colours,
    lostDecisions: choices.lost,
    flat: prepared.character.flat,
    plainGround: map.ground > 0,
    groundColour: map.ground - 1,
    tooSmall: found.tooSmall,
    outlinePoints: trace.curves.reduce((sum, curve) => sum + nodeCount(curve), 0),
  };
}

/** What a picture in one ink is printed on. */
const PAPER: Rgb = { r: 255, g: 255, b: 255 };

interface Reduced {
  readonly prepared: Prepared;
  readonly map: LabelMap;
  readonly key: string;
}

/** The first two steps: the picture as it is to be sewn, and every pixel of it given to a colour. */
async function reduceColours(
  input: ConvertInput,
  quality: ConvertOptions['quality'] | 'own-size',
  cache: StepCache,
  pause: (step: StepName, share: number) => Promise<void>,
): Promise<Reduced> {
  const { recipe } = input;
  await pause('prepare', 0);
  const budget = quality === 'own-size' ? Infinity : quality === 'rough' ? ROUGH_PIXELS : FULL_PIXELS;
  const prepared = await prepare(input, budget, quality !== 'own-size', cache);

  await pause('colours', 0.1);
  // A spot too small to sew joins its neighbour: left out, it would be a hole.
  const smallest = Math.max(recipe.colours.smallestSpotMm2, recipe.pieces.smallestMm2);
  const smallestSpot = Math.round(smallest * prepared.pixelsPerMm * prepared.pixelsPerMm);
  const { count } = recipe.colours;
  const { groundHex, groundTolerance, groundEverywhere } = recipe.picture;
  const decisions = recipe.colours.decisions.filter(regroups);
  const said = JSON.stringify([count, smallestSpot, groundHex, groundTolerance, groundEverywhere, decisions]);
  const key = `${prepared.key} ${said}`;
  const oneInk = recipe.light.tone === 'one';
  const seen = (hex: string): Rgb => lightColour(fromHex(hex), recipe.light);
  const pinned = decisions.filter((d) => d.kind === 'pin').map((d) => seen(d.at.hex));
  const { flat: isFlat, noisy } = prepared.character;
  const map = await cache.get('colours', key, async () => {
    const flatKey = `${prepared.key} ${JSON.stringify(pinned)}`;
    const flat = isFlat
      ? await cache.get('flat', flatKey, () => labelFlatArt(prepared.picture, noisy, pinned))
      : undefined;
    return labelPicture(prepared.picture, prepared.character, {
      count,
      smallestSpot,
      ground: {
        // Of a picture in one ink the paper is the ground, however much of the border is inked.
        colour: groundHex !== null ? seen(groundHex) : oneInk ? PAPER : undefined,
        tolerance: groundTolerance,
        everywhere: groundEverywhere || oneInk,
      },
      decisions,
      pinned,
      flat,
      source: prepared.unlit,
      mask: prepared.mask,
      toSource: prepared.toSource,
      toPixel: prepared.toPixel,
    });
  });
  return { prepared, map, key };
}

/** What the recipe says of the colours that were found. */
interface ColourChoices {
  /** Labels where nothing is sewn, and why. */
  readonly bare: ReadonlyMap<number, 'ground' | 'chosen'>;
  /** Threads chosen for labels. */
  readonly threads: ReadonlyMap<number, { readonly chart: string; readonly code: string }>;
  /** Decisions that found no colour, by their place in the recipe. */
  readonly lost: readonly number[];
  /** Decisions that hold for a label as a whole. */
  readonly held: ReadonlyMap<number, readonly number[]>;
}

function chooseColours(map: LabelMap, recipe: Recipe, prepared: Prepared): ColourChoices {
  const { decisions } = recipe.colours;
  const regrouping = decisions.flatMap((decision, i) => (regroups(decision) ? [i] : []));
  const lost = map.lost.map((i) => regrouping[i]);
  const bare = new Map<number, 'ground' | 'chosen'>();
  const threads = new Map<number, { chart: string; code: string }>();
  const groups = map.infos.map(({ anchor, shades, pinned }) => ({
    source: fromHex(anchor.hex),
    colour: fromHex(anchor.hex),
    shades: shades.map((shade) => shade.index),
    pinned,
  }));
  const shadeAt = ({ u, v }: ColourDecision['at']): number => {
    const { x, y } = prepared.toPixel(u, v);
    return x >= 0 && y >= 0 && x < map.width && y < map.height ? map.shadeOf[y * map.width + x] - 1 : -1;
  };
  const held = new Map<number, number[]>();
  decisions.forEach((decision, i) => {
    if (regroups(decision) && decision.kind !== 'pin') return;
    const label = findGroup(groups, decision.at, { shadeAt }) + 1;
    if (label > 0) held.set(label, [...(held.get(label) ?? []), i]);
    if (decision.kind === 'pin') return;
    if (label === 0) lost.push(i);
    else if (decision.kind === 'bare') bare.set(label, 'chosen');
    else if (decision.kind === 'thread') threads.set(label, { chart: decision.chart, code: decision.code });
  });
  if (recipe.picture.dropGround && map.ground > 0) bare.set(map.ground, 'ground');
  return { bare, threads, lost: lost.sort((a, b) => a - b), held };
}

/** What colours are looked up without a pause between steps. */
const atOnce = (): Promise<void> => Promise.resolve();

/**
 * The picture as it is to be sewn: at its working size, bare where the recipe leaves it bare. Likeness is measured
 * against it. With the cache of the conversion it costs next to nothing.
 */
export async function preparedPicture(input: ConvertInput, cache = new StepCache()): Promise<Raster> {
  const { prepared, map } = await reduceColours(input, 'full', cache, atOnce);
  const { bare } = chooseColours(map, input.recipe, prepared);
  if (bare.size === 0) return prepared.picture;
  const { width, height, data } = prepared.picture;
  const out = createRaster(width, height, data.slice());
  for (let i = 0; i < map.labels.length; i++) if (bare.has(map.labels[i])) out.data[i * 4 + 3] = 0;
  return out;
}

/**
 * The picture at its own size in few colours: the recipe's number, matched to its charts if it names any. Bare places
 * stay transparent.
 */
export async function reducedPicture(input: ConvertInput): Promise<Raster> {
  const { map, prepared } = await reduceColours(input, 'own-size', new StepCache(), atOnce);
  const choices = chooseColours(map, input.recipe, prepared);
  const labels = map.palette.map((_, i) => i + 1);
  const { threads, threadOf } = chooseThreads(labels, map, choices, input);
  const colours = threadOf.map((thread) => fromHex(threads[thread].hex));
  const out = createRaster(map.width, map.height);
  map.labels.forEach((label, i) => {
    if (label === 0) return;
    const { r, g, b } = colours[label - 1];
    out.data.set([r, g, b, 255], i * 4);
  });
  return out;
}

/** The shades a picture is made of, as it is to be sewn: of flat art its colours, edge shades left out. */
export async function pictureShades(input: ConvertInput, cache: StepCache): Promise<Shades> {
  const { prepared, map } = await reduceColours(input, 'full', cache, atOnce);
  if (!prepared.character.flat) return histogram(prepared.picture);
  const used = new Map(map.infos.flatMap((info) => info.shades.map((shade) => [shade.index, shade])));
  const shades = emptyShades(used.size);
  [...used.values()].forEach(({ hex, pixels }, i) => {
    const { r, g, b } = fromHex(hex);
    setShade(shades, i, pixels, LINEAR[r], LINEAR[g], LINEAR[b]);
  });
  return shades;
}

/** Where something is on the prepared picture: 1 for every pixel that belongs to it. */
export interface Whereabouts {
  readonly width: number;
  readonly height: number;
  readonly inside: Uint8Array;
}

/**
 * Where a colour of the design is, or one of its shades; it counts like `Design.colours` and `ColourShare.shades`.
 * @returns undefined for a colour that there is not
 */
export async function whereColour(
  input: ConvertInput,
  cache: StepCache,
  colour: number,
  shade?: number,
): Promise<Whereabouts | undefined> {
  const { map } = await reduceColours(input, 'full', cache, atOnce);
  const { width, height, labels, shadeOf } = map;
  if (colour < 0 || colour >= map.infos.length) return undefined;
  if (shade === undefined) {
    return { width, height, inside: matching(labels, colour + 1) };
  }
  const of = map.infos[colour].shades.at(shade);
  return of && { width, height, inside: matching(shadeOf, of.index + 1) };
}

function matching(values: Uint8Array | Uint16Array, wanted: number): Uint8Array {
  const out = new Uint8Array(values.length);
  for (let i = 0; i < values.length; i++) if (values[i] === wanted) out[i] = 1;
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

function pictureBox({ grid }: Prepared): PictureBox {
  return { left: grid.left, top: grid.top, width: grid.widthMm, height: grid.heightMm };
}

/**
 * Threads for labels of the map.
 * @returns the threads, each once, and for each label its index among them
 * @throws RangeError for a chart that was not given
 */
function chooseThreads(
  labels: readonly number[],
  map: LabelMap,
  choices: ColourChoices,
  { recipe, charts, stash }: ConvertInput,
): { threads: DesignThread[]; threadOf: number[] } {
  const { charts: ids, stashOnly, distinct } = recipe.colours;
  const named = ids.map((id) => {
    const chart = charts.find((c) => c.id === id);
    if (!chart) {
      throw new RangeError(`chart: there is no "${id}"; known are ${charts.map((c) => c.id).join(', ') || 'none'}`);
    }
    return chart;
  });
  const wanted = labels.map((label) => ({ colour: map.palette[label - 1], chosen: choices.threads.get(label) }));
  const usable = stashOnly ? stashOf(named.length > 0 ? named : charts, stash ?? new Set()) : named;
  if (stashOnly && usable.length === 0) {
    throw new RangeError('stash: only threads of the drawer are to be used, and there is none in it');
  }
  const threads: DesignThread[] = [];
  const known = new Map<string, number>();
  const threadOf = matchThreads(wanted, usable, distinct, charts).map((match, i) => {
    // A colour of the picture's own that is told from the others keeps a thread of its own.
    const key = match.chart === 'own' ? `own ${i}` : threadKey(match.chart, match.thread.code);
    const at = known.get(key) ?? threads.length;
    if (at === threads.length) threads.push(designThread(match));
    known.set(key, at);
    return at;
  });
  return { threads, threadOf };
}

function designThread({ thread, chart, deltaE }: MatchedThread): DesignThread {
  const { code, name, hex } = thread;
  return { code, name, hex, chart, deltaE: Number(deltaE.toFixed(2)) };
}

/** Pieces whose colours share threads. */
function shareThreads(found: FoundPieces, threadOf: readonly number[]): FoundPieces {
  return { ...found, pieces: found.pieces.map((piece) => ({ ...piece, thread: threadOf[piece.thread] })) };
}

function colourShares(
  map: LabelMap,
  threadLabels: readonly number[],
  threadOf: readonly number[],
  choices: ColourChoices,
): ColourShare[] {
  const area = new Float64Array(map.palette.length + 1);
  for (const label of map.labels) area[label]++;
  const total = Math.max(1, map.labels.length - area[0]);
  const hexes = threadLabels.map((label) => toHex(map.palette[label - 1]));
  return map.palette.map((colour, i): ColourShare => {
    const hex = toHex(colour);
    const { anchor, shades, pinned } = map.infos[i];
    const reason = choices.bare.get(i + 1);
    const direct = threadLabels.indexOf(i + 1);
    // Ground that is sewn is sewn with the thread its colour has elsewhere.
    const at = direct >= 0 ? direct : i + 1 === map.ground ? hexes.indexOf(hex) : -1;
    const thread = reason || at < 0 ? -1 : threadOf[at];
    return {
      hex,
      share: area[i + 1] / total,
      thread,
      bare: reason ?? (thread < 0 ? 'small' : undefined),
      anchor,
      shades: shades.map((shade) => ({ hex: shade.hex, share: shade.pixels / total, anchor: shade.anchor })),
      pinned,
      decisions: choices.held.get(i + 1) ?? [],
    };
  });
}
