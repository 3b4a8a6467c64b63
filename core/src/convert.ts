import type { Artwork } from './artwork/artwork.js';
import type { Chart } from './colour/charts.js';
import { chooseColours, chooseThreads, colourShares, labelAreas, seenHex, shareThreads } from './choose-threads.js';
import { reduceColours } from './convert-colours.js';
import { convertRendering } from './convert-rendering.js';
import type { Design, PictureBox } from './design.js';
import { rampPieces } from './gradient-ramps.js';
import { nodeCount } from './geometry/curve.js';
import { artworkAreas } from './pieces/artwork-areas.js';
import { findPieces } from './pieces/find-pieces.js';
import type { ToHoop } from './pieces/piece-decisions.js';
import { applyStitchDecisions, shapesPieces } from './pieces/stitch-choices.js';
import { tracedAreas } from './pieces/traced-areas.js';
import type { Piece } from './pieces/piece.js';
import { openToBudget } from './open-to-budget.js';
import { PIECES_METHOD, renderMethodOf } from './photo/methods/index.js';
import type { Prepared } from './prepare.js';
import type { Raster } from './picture/raster.js';
import { sourceToHoop } from './picture/frame.js';
import type { Recipe } from './recipe/recipe.js';
import { movePieces, sewingOrder } from './sequence/order.js';
import { planSewing, type SewingPlan } from './sequence/plan-sewing.js';
import { costOfOrder, planWays } from './sequence/plan-ways.js';
import { PieceStitches } from './sequence/piece-stitches.js';
import { sewPieces, type SewSettings } from './sequence/sew.js';
import type { StitchList } from './sequence/stitch-list.js';
import { StepCache } from './step-cache.js';
import { fabricOf } from './stitches/fabrics.js';
import { familyOf } from './stitches/kinds/index.js';
import type { LabelMap } from './trace/labels.js';
import { traceLabels, type Trace } from './trace/trace.js';

/** Steps of a conversion, in order. */
export const STEPS = ['prepare', 'colours', 'trace', 'pieces', 'order', 'stitches'] as const;
export type StepName = (typeof STEPS)[number];

/** What goes into a conversion. */
export interface ConvertInput {
  /** Decoded picture. */
  readonly raster: Raster;
  /** The picture's shapes, where it is vector artwork: they become pieces as they are. */
  readonly artwork?: Artwork;
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
  const cached = { ...options, cache: options.cache ?? new StepCache() };
  const { recipe } = input;
  if (recipe.budget === null || options.quality === 'rough' || recipe.method !== PIECES_METHOD) {
    return convertOnce(input, cached);
  }
  return openToBudget(recipe, recipe.budget, (opened) => convertOnce({ ...input, recipe: opened }, cached));
}

/** Converts with the settings as they are; only renderings know their budget themselves. */
async function convertOnce(input: ConvertInput, options: ConvertOptions): Promise<Design> {
  const { recipe } = input;
  const cache = options.cache ?? new StepCache();
  const pause = async (step: StepName, share: number): Promise<void> => {
    options.progress?.(step, share);
    await options.checkpoint?.();
  };
  const reduced = await reduceColours(input, options.quality, cache, pause);
  const method = renderMethodOf(recipe.method);
  if (method) return convertRendering(input, method, reduced, { cache, pause, quick: options.quality === 'rough' });
  const { prepared, map, art, key: labelKey } = reduced;
  const { pixelsPerMm, grid } = prepared;

  await pause('trace', 0.4);
  // Vector artwork has its shapes already.
  const traced = art ? undefined : await traceStep(reduced, recipe, cache);

  await pause('pieces', 0.6);
  const { smallestMm2, lineBelowMm, satinBelowMm, keepBelowMm, decisions, drawn } = recipe.pieces;
  const choices = chooseColours(map, recipe, prepared);
  const bare = [...choices.bare.keys()].sort((p, q) => p - q);
  const { left, top, widthMm, heightMm } = grid;
  const { corners } = recipe.stitches;
  const toHoop: ToHoop = (u, v) => sourceToHoop(recipe.picture, u, v);
  const shaping = decisions.flatMap((decision, i) => (shapesPieces(decision) ? [[i, decision]] : []));
  const said = JSON.stringify([
    corners,
    smallestMm2,
    lineBelowMm,
    satinBelowMm,
    keepBelowMm,
    bare,
    shaping,
    drawn,
    left,
    top,
  ]);
  const pieceKey = `${traced?.key ?? labelKey} ${pixelsPerMm} ${said} ${JSON.stringify(recipe.picture.mask)}`;
  const hexOf = (label: number): string => map.infos[label - 1]?.anchor.hex ?? '#000000';
  const foundPieces = await cache.get('pieces', pieceKey, () => {
    const isBare = new Set(bare);
    const areas = traced
      ? tracedAreas(traced.trace, map, { left, top, pixelsPerMm }, isBare)
      : artworkAreas(art?.shapes ?? [], art?.labels ?? [], art?.stopLabels ?? [], hexOf, isBare);
    return findPieces(areas, traced && { trace: traced.trace, left, top, pixelsPerMm }, {
      smallestMm2,
      lineBelowMm,
      satinBelowMm,
      corners,
      familyOf,
      keepBelowMm,
      decisions,
      drawn,
      toHoop,
      wholeMm2: widthMm * heightMm,
      labelOf: (choice) => ('like' in choice ? choices.labelAt(choice.like) : 0),
      hexOf,
      seenHexOf: (paint) => seenHex(paint, map, input),
    });
  });
  const { threads, threadOf } = chooseThreads(foundPieces.paints, map, choices, input);
  const shared = threads.length < threadOf.length;
  const threadKeyOf = shared ? threadOf.join(',') : '';
  const sewn = shared
    ? await cache.get('shared threads', `${pieceKey} ${threadKeyOf}`, () => shareThreads(foundPieces, threadOf))
    : foundPieces;
  const decided = applyStitchDecisions(sewn, decisions, toHoop);
  const found = { ...decided, pieces: rampPieces(decided, foundPieces.paints, threadOf, threads, recipe.clothHex) };

  await pause('order', 0.65);
  const { needles } = recipe.order;
  const orderKey = `${pieceKey} ${threadKeyOf} ${needles > 1}`;
  const order = await cache.get('order', orderKey, () => movePieces(sewingOrder(sewn.pieces, needles), sewn.moves));

  await pause('stitches', 0.7);
  // Rows of a gradient lie by the colours of their threads.
  const ramps = found.pieces.some(({ part }) => part) ? [recipe.clothHex, ...threads.map(({ hex }) => hex)].join() : '';
  const stitchKey = `${orderKey} ${ramps} ${JSON.stringify([recipe.stitches, decisions])} ${recipe.order.trimOverMm} ${recipe.order.hideTravel}`;
  const settings = sewSettings(recipe);
  const known = await cache.get('stitches of pieces', input.pictureKey, () => new PieceStitches());
  const { stitches, ...plan } = await cache.get('stitches', stitchKey, async () => {
    const made = planSewing(found.pieces, order, settings);
    const steps = sewPieces(found.pieces, order, settings, known, made);
    const list = await allSewn(steps, (done) => pause('stitches', 0.7 + (0.3 * done) / found.pieces.length));
    return { stitches: list, ...planned(found.pieces, order, made, settings) };
  });
  const areas = await cache.get('areas', labelKey, () => labelAreas(map));
  options.progress?.('stitches', 1);

  return {
    method: recipe.method,
    gaveUp: '',
    fabric: { id: recipe.stitches.fabric, hex: recipe.clothHex },
    picture: pictureBox(prepared),
    threads,
    stitches,
    pieceIds: found.pieces.map((piece) => piece.id),
    pieces: found.pieces,
    barePieces: found.bare,
    lostPieceDecisions: found.lost,
    order,
    ...plan,
    colours: colourShares(map, areas, foundPieces.paints, threadOf, choices),
    suggestedColours: prepared.character.flat ? Math.max(1, map.shades) : prepared.character.colours,
    lostDecisions: choices.lost,
    flat: prepared.character.flat,
    plainGround: map.ground > 0,
    groundColour: map.ground - 1,
    tooSmall: found.tooSmall,
    vector: art !== undefined,
    problems: art?.problems ?? [],
    outlinePoints: (traced ? traced.trace.curves : found.pieces.flatMap(({ outline }) => outline)).reduce(
      (sum, curve) => sum + nodeCount(curve),
      0,
    ),
  };
}

/** Outlines of all areas of the label map. */
export async function traceStep(
  { prepared, map, key: labelKey }: { prepared: Prepared; map: LabelMap; key: string },
  recipe: Recipe,
  cache: StepCache,
): Promise<{ trace: Trace; key: string }> {
  const { pixelsPerMm, picture } = prepared;
  const { strictnessMm, cornerSharpness, lineBelowMm } = recipe.pieces;
  const tolerance = Math.max(0.3, strictnessMm * pixelsPerMm);
  const widestLine = lineBelowMm * pixelsPerMm;
  const key = `${labelKey} ${tolerance} ${cornerSharpness} ${widestLine}`;
  const trace = await cache.get('trace', key, () =>
    traceLabels(map, picture, { tolerance, cornerSharpness, widestLine }),
  );
  return { trace, key };
}

/** Sews piece after piece, with a pause now and then. */
export async function allSewn(
  steps: Generator<number, StitchList>,
  pause: (done: number) => Promise<void>,
): Promise<StitchList> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (step.value % PIECES_PER_CHECKPOINT === 0) await pause(step.value);
  }
}

/** What a plan decided, and what its order costs and saves. */
export function planned(
  pieces: readonly Piece[],
  order: readonly number[],
  { angles, ways }: SewingPlan,
  { trimOverMm }: SewSettings,
): Pick<Design, 'rowAngles' | 'orderCost' | 'foundOrderCost'> {
  const found = pieces.map((_, i) => i);
  return {
    rowAngles: angles,
    orderCost: costOfOrder(pieces, order, ways, trimOverMm),
    foundOrderCost: costOfOrder(pieces, found, planWays(pieces, found, trimOverMm), trimOverMm),
  };
}

/** How a recipe wants its pieces sewn. */
export function sewSettings({ stitches, order: { trimOverMm, hideTravel } }: Recipe): SewSettings {
  const { angleStep, overlapMm, fabric, ...shared } = stitches;
  return { stitches: { ...shared, fabric: fabricOf(fabric) }, angleStep, overlapMm, trimOverMm, hideTravel };
}

export function pictureBox({ grid }: Prepared): PictureBox {
  return { left: grid.left, top: grid.top, width: grid.widthMm, height: grid.heightMm };
}
