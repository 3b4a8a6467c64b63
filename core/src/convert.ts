import type { Design, PictureResult } from './design/design.js';
import { clothPatches } from './design/cloth-patches.js';
import { laidInHoop } from './design/in-hoop.js';
import { nodeCount } from './geometry/curve.js';
import type { Points } from './geometry/vector.js';
import type { DesignObject, PictureObject, StitchesObject } from './objects/design-object.js';
import { edgeOf, objectFrame, isHidden, pictureUnder } from './objects/frames.js';
import { kindOf } from './objects/kinds/index.js';
import { PIECES_METHOD, renderMethodOf } from './photo/methods/index.js';
import { shapesPieces } from './pieces/stitch-choices.js';
import { chooseColours, colourPlace, colourShares, threadsOfLabels } from './pipeline/choose-threads.js';
import { reduceColours, type Reduced } from './pipeline/colours.js';
import { dressStep } from './pipeline/dress.js';
import {
  pictureInput,
  type ConvertInput,
  type ConvertOptions,
  type PictureInput,
  type StepName,
} from './pipeline/input.js';
import { listPieceIds, readyList, rowsOnCloth, type ReadyList } from './pipeline/lists.js';
import { openToBudget } from './pipeline/open-to-budget.js';
import { orderStep } from './pipeline/order-step.js';
import { boxOf } from './pipeline/prepare.js';
import { nearestThread } from './pipeline/rendering-threads.js';
import { readyRendering, type ReadyRendering } from './pipeline/renderings.js';
import { sewStep } from './pipeline/sew-step.js';
import { hasGradients, stackStep, type StackedPicture } from './pipeline/stack.js';
import { named, namedByContent, StepCache } from './pipeline/step.js';
import { designThreads, mergeThreads } from './pipeline/threads.js';
import { traceOf } from './pipeline/trace-step.js';
import type { Recipe } from './recipe/recipe.js';
import { PieceStitches } from './sequence/piece-stitches.js';
import { NO_PIECE } from './sequence/stitch-list.js';
import { renderingsBelow } from './sequence/order.js';
import type { SewSettings } from './sequence/sew-settings.js';
import { TIES } from './sequence/ties.js';
import { fabricOn } from './stitches/fabrics.js';
import type { Trace } from './trace/trace.js';

interface Turns {
  readonly cache: StepCache;
  readonly pause: (step: StepName, share: number) => Promise<void>;
  readonly quick: boolean;
}

/** A picture of the design on its way: its colours, then its trace or its rendering. */
interface PictureWork {
  readonly object: PictureObject;
  readonly input: PictureInput;
  readonly reduced: Reduced;
  readonly trace: Trace | undefined;
  readonly ready: ReadyRendering | undefined;
  /** Labels of its colours count from here on. */
  readonly base: number;
}

/**
 * Converts the objects of a recipe into a design. Each step is remembered under what went into it, so that a late change
 * never computes an early step again.
 * @throws RangeError if the recipe names a chart, a thread or a source that was not given
 */
export async function convert(input: ConvertInput, options: ConvertOptions = {}): Promise<Design> {
  const cached = { ...options, cache: options.cache ?? new StepCache() };
  const { recipe } = input;
  const { begin, end } = recipe.order;
  return laidInHoop(await convertWithin(input, cached), { several: recipe.several, begin, end });
}

/** Converts within the budget of stitches, which is meant for one design, however often it lies in the hoop. */
function convertWithin(input: ConvertInput, options: ConvertOptions): Promise<Design> {
  const { recipe } = input;
  const renders = shownPictures(recipe).some(({ method }) => method !== PIECES_METHOD);
  if (recipe.budget === null || options.quality === 'rough' || renders) return convertOnce(input, options);
  return openToBudget(recipe, recipe.budget, (opened) => convertOnce({ ...input, recipe: opened }, options));
}

/** Pictures that are sewn, lowest first. */
const shownPictures = ({ objects }: Recipe): PictureObject[] =>
  objects.filter((object): object is PictureObject => object.kind === 'picture' && !isHidden(objects, object));

/** Converts with the settings as they are; only renderings know their budget themselves. */
async function convertOnce(input: ConvertInput, options: ConvertOptions): Promise<Design> {
  const { recipe } = input;
  const cache = options.cache ?? new StepCache();
  const pause = async (step: StepName, share: number): Promise<void> => {
    options.progress?.(step, share);
    await options.checkpoint?.();
  };
  input.charts.forEach(namedByContent);
  const turns = { cache, pause: inOrder(pause), quick: options.quality === 'rough' };
  const works = await pictureWorks(input, turns);

  const stack = stackInputs(input, works);
  const found = await cache.run(stackStep, stack);
  const sources = works.map(({ input: own, base, reduced }) => ({
    input: own,
    base,
    map: reduced.map,
    choices: chooseColours(reduced.map, colourPlace(own, reduced.prepared)),
  }));
  const rendered = works.flatMap(({ ready }) => (ready ? [ready] : []));
  const lists = shownLists(recipe).map((object) =>
    readyList(object, recipe, input.pictures[object.source], input.charts),
  );
  // Threads of renderings come first, those of pieces after them.
  const own = [...lists, ...rendered].reduce(
    (all, { threads }) => mergeThreads(all.threads, { threads, threadOf: threads.map((_, i) => i) }),
    { threads: [], threadOf: [] } as ReturnType<typeof mergeThreads>,
  ).threads;
  const { threads, threadOf } = designThreads(own, found.paints, sources, input.charts);
  const ramps = found.pieces.some(({ gradient }) => gradient);
  const dressed = await cache.run(dressStep, {
    found,
    threadOf,
    decisions: recipe.decisions,
    objects: stack.objects,
    hexes: ramps ? threads.map(({ hex }) => hex) : null,
    clothHex: ramps ? recipe.cloth.hex : null,
  });

  await turns.pause('order', 0.65);
  const asTheyAre = recipe.objects.flatMap(({ id }) =>
    lists.some(({ object }) => object.id === id) || works.some(({ object, ready }) => ready && object.id === id)
      ? [id]
      : [],
  );
  const order = await cache.run(orderStep, {
    found,
    threadOf,
    needles: recipe.order.needles,
    heights: renderingsBelow(recipe.objects, new Set(asTheyAre)),
  });

  await turns.pause('stitches', 0.7);
  const indexIn = (own: Pick<ReadyRendering, 'threads'>): number[] =>
    own.threads.map(({ hex, chart }) => threads.findIndex((t) => t.hex === hex && t.chart === chart));
  // Numbers of a list's pieces follow those of the pieces and, leaving room, of the threads of renderings.
  const firstPiece = new Map<ReadyList, number>();
  let next = dressed.pieces.length + rendered.reduce((sum, { threads }) => sum + MOST_LAYERS * threads.length, 0);
  for (const list of lists) {
    firstPiece.set(list, next);
    next += list.sewing.pieceIds.length;
  }
  if (next >= NO_PIECE) throw new RangeError('the design has more pieces than a stitch list can number');
  // A rough result must not make the stitches of the full one before it forgotten: many pieces stay as they are.
  const known = turns.quick ? 'stitches of rough pieces' : 'stitches of pieces';
  const sewn = await cache.run(
    sewStep,
    {
      found: dressed,
      order,
      settings: { ...sewSettings(recipe), edgeToEdge: turns.quick && works.some((work) => !work.input.source.artwork) },
      known: cache.memo(known, () => named(new PieceStitches(), known)),
      renderings: works.flatMap(({ ready, object }) =>
        ready
          ? [
              {
                inputs: ready.inputs,
                values: ready.values,
                place: { threads: indexIn(ready), xMm: object.picture.xMm, yMm: object.picture.yMm },
                slot: asTheyAre.indexOf(object.id),
              },
            ]
          : [],
      ),
      lists: lists.map((list) => ({
        rows: rowsOnCloth(list, indexIn(list), firstPiece.get(list) ?? 0),
        slot: asTheyAre.indexOf(list.object.id),
      })),
      budget: turns.quick || rendered.length === 0 ? null : recipe.budget,
    },
    (share) => turns.pause('stitches', 0.7 + 0.3 * share),
  );
  options.progress?.('stitches', 1);

  const pictures = pictureResults(works, sewn.rendered, (ready) => indexIn(ready), threadsOf(found, threadOf));
  let layer = 0;
  return {
    gaveUp: sewn.gaveUp,
    fabric: {
      id: recipe.cloth.fabric,
      hex: recipe.cloth.hex,
      ...(recipe.cloth.measured && { measured: recipe.cloth.measured }),
    },
    picture: pictures.at(0)?.box ?? lists.at(0)?.sewing.picture,
    pictures,
    threads,
    stitches: sewn.stitches,
    pieceIds: namesOfAll(
      dressed.pieces.map((piece) => piece.id),
      sewn.rendered.flatMap(({ layers }) => layers.map(() => `layer${++layer}`)),
      lists,
      firstPiece,
    ),
    lists: lists.map(({ object }) => object.id),
    carried:
      lists.length === 1 && found.pieces.length === 0 && works.length === 0 ? lists[0].sewing.carried : undefined,
    patches: clothPatches(dressed.pieces, sewn.stitches, (source) => input.pictures[source]?.raster),
    pieces: dressed.pieces,
    barePieces: found.bare,
    lostPieceDecisions: dressed.lost.filter((i) => !isDormant(recipe, works, i)),
    order: order.order,
    rowAngles: sewn.rowAngles,
    orderCost: sewn.orderCost,
    foundOrderCost: sewn.foundOrderCost,
    colours: works.flatMap((work, k) => {
      const { reduced, ready, base, object } = work;
      const threadOfLabel = ready
        ? renderedThreads(ready, reduced, indexIn(ready))
        : threadsOfLabels(reduced.map, base, found.paints, threadOf);
      return colourShares(object.id, reduced.map, threadOfLabel, sources[k].choices);
    }),
    tooSmall: found.tooSmall,
    problems: [
      ...works.flatMap(({ reduced, ready }) => (ready ? [] : (reduced.art?.placed.problems ?? []))),
      ...sewn.rendered.flatMap(({ problems }) => problems ?? []),
    ],
    outlinePoints: [
      ...works.flatMap(({ trace }) => trace?.curves ?? []),
      ...found.pieces.flatMap(({ origin, outline }) => (origin === 'artwork' ? outline : [])),
    ].reduce((sum, curve) => sum + nodeCount(curve), 0),
  };
}

/** Layers a rendering makes of one of its threads at most. */
const MOST_LAYERS = 16;

/** Names of pieces and layers, then those of lists, each at its number. */
function namesOfAll(
  pieces: readonly string[],
  layers: readonly string[],
  lists: readonly ReadyList[],
  firstPiece: ReadonlyMap<ReadyList, number>,
): string[] {
  const out = [...pieces, ...layers];
  for (const list of lists) {
    const first = firstPiece.get(list) ?? out.length;
    while (out.length < first) out.push('');
    out.push(...listPieceIds(list, new Set(out)));
  }
  return out;
}

/** Stitch lists that are sewn, lowest first. */
const shownLists = ({ objects }: Recipe): StitchesObject[] =>
  objects.filter((object): object is StitchesObject => object.kind === 'stitches' && !isHidden(objects, object));

/** Progress never goes back, however many pictures there are. */
function inOrder(pause: Turns['pause']): Turns['pause'] {
  let most = 0;
  return (step, share) => pause(step, (most = Math.max(most, share)));
}

/** Reduces the colours of every picture, and traces it or readies its rendering. */
async function pictureWorks(input: ConvertInput, { cache, pause, quick }: Turns): Promise<PictureWork[]> {
  const { recipe } = input;
  const works: PictureWork[] = [];
  const objects = shownPictures(recipe);
  let base = 0;
  for (const [k, object] of objects.entries()) {
    const part = (step: StepName, share: number): Promise<void> => pause(step, (0.65 * (k + share)) / objects.length);
    const own = pictureInput(input, object);
    const reduced = await reduceColours(own, quick ? 'rough' : 'full', cache, part);
    const method = renderMethodOf(object.method);
    await part(method ? 'pieces' : 'trace', 0.4);
    // Vector artwork has its shapes already.
    const trace = method || reduced.art ? undefined : await traceOf(reduced, own.view, cache);
    await part('pieces', 0.6);
    const ready =
      method &&
      (await readyRendering(own, method, reduced, holesIn(recipe.objects, object.id), { cache, pause: part, quick }));
    works.push({ object, input: own, reduced, trace, ready, base });
    base += reduced.map.palette.length;
  }
  return works;
}

/** Holes that are cut into a picture: those that lie on it. */
function holesIn(objects: readonly DesignObject[], picture: string): Points[] {
  return objects.flatMap((object): Points[] => {
    if (object.kind !== 'shape' || object.role !== 'hole' || isHidden(objects, object)) return [];
    if (pictureUnder(objects, object.id) !== picture) return [];
    const { toHoop, unitMm } = objectFrame(objects, object.id);
    const made = kindOf(object).areas?.(object, {
      toHoop,
      unitMm,
      layer: 0,
      paintOf: () => ({ paint: { label: 0 }, hex: '#000000' }),
      ringsOf: (id) => (id === null ? undefined : edgeOf(objects, id)),
      corners: 'mitre',
      ringsOfPieces: () => [],
      ringsBeside: () => [],
    });
    return [...(made?.hole ?? [])];
  });
}

/** What the pieces of all objects are made from. */
function stackInputs({ recipe, charts }: ConvertInput, works: readonly PictureWork[]) {
  const pictures = works.map(({ object, input, reduced, trace, ready, base }): StackedPicture => {
    const { prepared, map, art } = reduced;
    return {
      id: object.id,
      base,
      map,
      colours: colourPlace(input, prepared),
      grid: prepared.grid,
      pixelsPerMm: prepared.pixelsPerMm,
      trace: trace ?? null,
      art: (!ready && art) || null,
      pieces: object.pieces,
    };
  });
  // What is said of stitches makes no piece anew, so nothing is left of it here.
  const last = recipe.decisions.findLastIndex(shapesPieces);
  const decisions = recipe.decisions.slice(0, last + 1).map((said) => (shapesPieces(said) ? said : null));
  const gradients = hasGradients({ decisions, pictures });
  return {
    pictures,
    objects: recipe.objects.map(placeOnly),
    decisions,
    corners: recipe.stitches.corners,
    clothHex: gradients ? recipe.cloth.hex : null,
    charts: gradients ? charts : [],
  };
}

/** Of a picture only where it lies: how it is converted is said of it elsewhere. */
function placeOnly(object: DesignObject): DesignObject {
  if (object.kind !== 'picture') return { ...object, name: '', locked: false };
  const { kind, id, on, hidden, picture } = object;
  return { kind, id, on, hidden, picture } as unknown as PictureObject;
}

/** Decisions on pieces of a picture that is rendered wait until it is sewn as pieces again. */
function isDormant({ decisions }: Recipe, works: readonly PictureWork[], index: number): boolean {
  const { object, anchor } = decisions[index].at;
  return anchor !== undefined && works.some(({ object: { id }, ready }) => ready !== undefined && id === object);
}

/** Thread of each label of a rendered picture, from 1 on. */
function renderedThreads(ready: ReadyRendering, { map }: Reduced, threads: readonly number[]): number[] {
  const { threadOfLabel, inputs } = ready;
  return [
    -1,
    ...map.palette.map((colour, i) => {
      const own = threadOfLabel.length > 0 ? threadOfLabel[i + 1] : nearestThread(inputs.threads, colour);
      return threads[own] ?? -1;
    }),
  ];
}

/** Threads that the pieces of each object are sewn with. */
function threadsOf(found: { pieces: readonly { object: string; thread: number }[] }, threadOf: readonly number[]) {
  return (object: string): number[] =>
    [...new Set(found.pieces.flatMap((p) => (p.object === object ? [threadOf[p.thread]] : [])))].sort((a, b) => a - b);
}

function pictureResults(
  works: readonly PictureWork[],
  rendered: readonly { readonly chart?: PictureResult['chart'] }[],
  indexIn: (ready: ReadyRendering) => number[],
  threadsOfPieces: (object: string) => number[],
): PictureResult[] {
  let layer = 0;
  return works.map(({ object, input, reduced, ready, base }): PictureResult => {
    const { prepared, map, flat } = reduced;
    const { left, top, width, height } = boxOf(prepared.grid);
    const { character } = prepared.placed;
    const choices = chooseColours(map, colourPlace(input, prepared));
    const { xMm, yMm, dropGround } = object.picture;
    return {
      object: object.id,
      method: object.method,
      box: { left: left + xMm, top: top + yMm, width, height },
      suggestedColours: suggested(ready, flat, map, character.colours, dropGround),
      flat,
      plainGround: map.ground > 0,
      groundColour: map.ground > 0 ? base + map.ground - 1 : -1,
      colours: [base, map.palette.length],
      lostDecisions: choices.lost,
      vector: !ready && reduced.art !== undefined,
      threads: ready ? indexIn(ready) : threadsOfPieces(object.id),
      groundThread: ready && ready.inputs.ground >= 0 ? indexIn(ready)[ready.inputs.ground] : undefined,
      chart: ready ? rendered[layer++].chart : undefined,
    };
  });
}

/** Threads a picture suggests; a ground that stays bare needs none. */
function suggested(
  ready: ReadyRendering | undefined,
  flat: boolean,
  map: Reduced['map'],
  colours: number,
  dropGround: boolean,
): number {
  if (ready) {
    const { threads } = ready.method;
    if (threads.from === 'list') return threads.usual.length;
    if (threads.from === 'mix') return threads.usual;
  }
  const bare = dropGround && map.ground > 0 && flat && groundAlone(map);
  return Math.max(1, (flat ? map.shades : colours) - (bare ? 1 : 0));
}

/** Whether the ground's colour is nowhere else. */
function groundAlone({ palette, ground }: Reduced['map']): boolean {
  const { r, g, b } = palette[ground - 1];
  return palette.every((c, i) => i + 1 === ground || c.r !== r || c.g !== g || c.b !== b);
}

/** How a recipe wants its pieces sewn. */
export function sewSettings({ cloth, stitches, order }: Recipe): SewSettings {
  const { trimOverMm, hideTravel, trims = 'beyond', tie = TIES[0].id } = order;
  const { angleStep, overlapMm, ...shared } = stitches;
  return {
    stitches: { ...shared, fabric: fabricOn(cloth) },
    angleStep,
    overlapMm,
    trimOverMm,
    hideTravel,
    trims,
    tie,
  };
}
