import { chooseColours, chooseThreads, colourShares, labelAreas } from './choose-threads.js';
import type { Reduced } from './convert-colours.js';
import { allSewn, pictureBox, planned, sewSettings, type ConvertInput, type StepName } from './convert.js';
import type { Design, DesignThread } from './design.js';
import { curveThrough, flattenRing } from './geometry/curve.js';
import { thicken } from './geometry/polygons.js';
import { withinBudget } from './ease-to-budget.js';
import type { Points } from './geometry/vector.js';
import { fromRings, type Area } from './pieces/area.js';
import { DRAWN_LAYER } from './pieces/drawn-areas.js';
import { findPieces, type FoundPieces } from './pieces/find-pieces.js';
import { applyStitchDecisions } from './pieces/stitch-choices.js';
import { changeLines, type LineChange } from './photo/line-decisions.js';
import { renderValues } from './photo/methods/index.js';
import type { Layer, Rendered, RenderInput, RenderMethod } from './photo/methods/render-method.js';
import { plateOf } from './photo/plate.js';
import { tinted } from './photo/effect.js';
import { placedFrame, sourceToHoop } from './picture/frame.js';
import { maskCurve } from './picture/mask.js';
import type { Recipe } from './recipe/recipe.js';
import { handmadeThreads, namedThread, nearestThread, renderingThreads, usableCharts } from './rendering-threads.js';
import { movePieces, sewingOrder } from './sequence/order.js';
import { PieceStitches } from './sequence/piece-stitches.js';
import { planSewing } from './sequence/plan-sewing.js';
import { sewPieces } from './sequence/sew.js';
import type { StitchList } from './sequence/stitch-list.js';
import type { StepCache } from './step-cache.js';
import { toEndWithPauses } from './steps.js';
import { familyOf } from './stitches/kinds/index.js';
import type { OptionValues } from './stitches/stitch-kind.js';

interface RenderOptions {
  readonly cache: StepCache;
  readonly pause: (step: StepName, share: number) => Promise<void>;
  /** A rough result that is there at once. */
  readonly quick: boolean;
}

/** Pieces sewn over a rendering lie above everything, its border below those drawn by hand. */
const BORDER_LAYER = DRAWN_LAYER - 10;
/** Rounds a palette is mixed in for a rough result. */
const QUICK_ROUNDS = 3;

/** Converts a picture by a rendering: its layers first, then its border and what was drawn by hand. */
export async function convertRendering(
  input: ConvertInput,
  method: RenderMethod,
  { prepared, map, key: labelKey }: Reduced,
  { cache, pause, quick }: RenderOptions,
): Promise<Design> {
  const { recipe } = input;
  const { rendering, picture } = recipe;
  const choices = chooseColours(map, recipe, prepared);
  const bareKey = [...choices.bare.keys()].sort((p, q) => p - q).join();
  const values = renderValues(method, rendering.values[method.id] ?? {});
  const { widthMm, heightMm, left, top } = prepared.grid;
  const plateKey = `${labelKey} ${bareKey} ${widthMm} ${heightMm} ${left} ${top} ${values['effect']} ${values['hue']}`;
  await pause('pieces', 0.15);
  const plate = await cache.get('plate', plateKey, () => {
    const bare = choices.bare.size > 0 ? (i: number): boolean => choices.bare.has(map.labels[i]) : undefined;
    const plain = plateOf(prepared.picture, pictureBox(prepared), bare);
    const { effect, hue } = values;
    return typeof effect === 'string' ? tinted(plain, effect, Number(hue)) : plain;
  });
  const { count, charts, stashOnly } = recipe.colours;
  const colourKey = JSON.stringify([count, charts, stashOnly, rendering.mix, rendering.threads, recipe.clothHex]);
  const threadKey = `${quick} ${method.id} ${plateKey} ${colourKey} ${JSON.stringify(recipe.colours.decisions)}`;
  const given = await cache.get('rendering threads', threadKey, () =>
    toEndWithPauses(renderingThreads(input, method, plate, map, choices, quick ? QUICK_ROUNDS : undefined), (share) =>
      pause('pieces', 0.15 + 0.1 * share),
    ),
  );
  const usable = usableCharts(input);
  const handmade = handmadeThreads(method.edited ? rendering.grid : null, given.threads, usable, input.charts);
  const own = values['ground'] === 'white' ? [...given.threads, WHITE] : handmade.threads;

  await pause('pieces', 0.25);
  const found = await cache.get('rendering pieces', piecesKey(recipe, plateKey), () =>
    overRendering(recipe, map, choices),
  );
  const lineChanges = rendering.lines.map((decision): LineChange => {
    const to = decision.to && namedThread(decision.to, own.length, usable, input.charts);
    return { kind: decision.kind, threads: decision.threads, area: placed(decision.area, recipe), to };
  });
  // Threads that lines are given come after those of the rendering, those of pieces after them.
  const withLines = changeLines([], own, lineChanges).threads;
  const { threads, threadOf } = mergeThreads(withLines, chooseThreads(found.paints, map, choices, input));
  const pieces = applyStitchDecisions(
    { ...found, pieces: found.pieces.map((piece) => ({ ...piece, thread: threadOf[piece.thread] })) },
    recipe.pieces.decisions,
    (u, v) => sourceToHoop(picture, u, v),
  );
  const order = movePieces(sewingOrder(pieces.pieces, recipe.order.needles), found.moves);

  const settings = sewSettings(recipe);
  const known = await cache.get('stitches of pieces', input.pictureKey, () => new PieceStitches());
  const renderInput: RenderInput = {
    plate,
    threads: own,
    places: given.places,
    clothHex: recipe.clothHex,
    trimOverMm: recipe.order.trimOverMm,
    strokes: rendering.strokes.map((stroke) => placed(stroke, recipe)),
    quick,
    map,
    isBare: (label) => label === 0 || choices.bare.has(label),
    threadOfLabel: given.threadOfLabel,
    pixelMm: 1 / prepared.pixelsPerMm,
    flat: prepared.character.flat && prepared.character.colours <= MOST_FLAT_COLOURS,
    handmade: { edits: rendering.grid ?? undefined, threadOfEdits: handmade.threadOf },
    memo: await cache.get('rendering memo', input.pictureKey, () => new Map<string, unknown>()),
  };
  const plan = planSewing(pieces.pieces, order, settings);
  const sew = (layers: readonly Layer[]): Promise<StitchList> =>
    allSewn(
      sewPieces(pieces.pieces, order, settings, known, plan, {
        before: (seam) => {
          layers.forEach(({ thread, runs }, k) => {
            for (const run of runs) seam.sew(run, thread, pieces.pieces.length + k, 0);
          });
        },
        stopBefore: (piece) => piece.drawn === TACK || piece.drawn === COVER,
      }),
      (done) => pause('stitches', 0.9 + (0.1 * done) / Math.max(1, pieces.pieces.length)),
    );
  const renderKey = JSON.stringify([
    threadKey,
    values,
    method.led ? rendering.strokes : [],
    rendering.lines,
    method.edited ? rendering.grid : null,
    picture,
    recipe.order.trimOverMm,
    quick,
  ]);
  const render = (eased: OptionValues): Promise<Rendered> =>
    cache.get('rendering', `${renderKey} ${JSON.stringify(eased)}`, async () => {
      const rendered = await toEndWithPauses(method.render(renderInput, eased), (share) =>
        pause('stitches', 0.3 + 0.6 * share),
      );
      return { ...rendered, layers: changeLines(rendered.layers, own, lineChanges).layers };
    });
  const sewKey = `${renderKey} ${piecesKey(recipe, plateKey)} ${threadOf.join()} ${order.join()} ${JSON.stringify([recipe.stitches, recipe.pieces.decisions, recipe.order, recipe.budget])}`;
  const { stitches, rendered, gaveUp } = await cache.get('rendering sewn', sewKey, () =>
    quick || recipe.budget === null
      ? render(values).then(async (made) => ({ stitches: await sew(made.layers), rendered: made, gaveUp: '' }))
      : withinBudget(recipe.budget, method, values, render, sew),
  );
  await pause('stitches', 1);

  const areas = await cache.get('areas', labelKey, () => labelAreas(map));
  const labels = map.palette.map((_, i) => i + 1);
  const threadOfLabel =
    given.threadOfLabel.length > 0
      ? labels.map((label) => given.threadOfLabel[label])
      : labels.map((label) => nearestThread(own, map.palette[label - 1]));
  return {
    method: method.id,
    gaveUp,
    fabric: { id: recipe.stitches.fabric, hex: recipe.clothHex },
    picture: pictureBox(prepared),
    threads,
    stitches,
    pieceIds: [...pieces.pieces.map((piece) => piece.id), ...rendered.layers.map((_, k) => `layer${k + 1}`)],
    pieces: pieces.pieces,
    barePieces: [],
    lostPieceDecisions: [],
    order,
    ...planned(pieces.pieces, order, plan, settings),
    colours: colourShares(
      map,
      areas,
      labels.map((label) => ({ label })),
      threadOfLabel,
      choices,
    ),
    suggestedColours: method.threads.from === 'list' ? method.threads.usual.length : method.threads.usual,
    lostDecisions: choices.lost,
    flat: prepared.character.flat,
    plainGround: map.ground > 0,
    groundColour: map.ground - 1,
    tooSmall: [],
    vector: false,
    problems: rendered.problems ?? [],
    outlinePoints: 0,
    chart: rendered.chart,
  };
}

/** A picture of more colours is soft, even where much of it is plain. */
const MOST_FLAT_COLOURS = 16;

const WHITE: DesignThread = { code: 'OWN-W', name: 'White ground', hex: '#f8f6f0', chart: 'own', deltaE: 0 };
const PLACEMENT = 'border placement';
const TACK = 'border tack-down';
const COVER = 'border cover';

/** A line of the picture, in mm on the cloth. */
function placed(stroke: readonly number[], { picture }: Recipe): Points {
  const out: Points = [];
  for (let i = 0; i < stroke.length; i += 2) {
    const { x, y } = sourceToHoop(picture, stroke[i], stroke[i + 1]);
    out.push(x, y);
  }
  return out;
}

const piecesKey = ({ rendering, pieces, picture, stitches }: Recipe, plateKey: string): string =>
  `${plateKey} ${JSON.stringify([rendering.border, pieces.drawn, picture.mask, picture.turn, stitches.corners])}`;

/** The border, and what was drawn by hand. */
function overRendering(recipe: Recipe, map: Reduced['map'], choices: ReturnType<typeof chooseColours>): FoundPieces {
  const { picture, pieces, stitches } = recipe;
  const { lineBelowMm, satinBelowMm } = pieces;
  const frame = placedFrame(picture);
  return findPieces(borderAreas(recipe), undefined, {
    smallestMm2: 0,
    lineBelowMm,
    satinBelowMm,
    corners: stitches.corners,
    familyOf,
    // What lies on a rendering is sewn over it, and hides nothing of itself.
    keepBelowMm: 100,
    decisions: [],
    drawn: pieces.drawn.filter(({ role }) => role === 'piece'),
    toHoop: (u, v) => sourceToHoop(picture, u, v),
    wholeMm2: (frame.right - frame.left) * (frame.bottom - frame.top),
    labelOf: (choice) => ('like' in choice ? choices.labelAt(choice.like) : 0),
    hexOf: (label) => map.infos[label - 1]?.anchor.hex ?? '#000000',
    seenHexOf: (paint) => (paint && 'hex' in paint ? paint.hex : recipe.clothHex),
  });
}

/** Outline of what is sewn, in mm around its own middle. */
function frameRing(recipe: Recipe): Points {
  const { picture } = recipe;
  const { left, top, right, bottom } = placedFrame(picture);
  const [midX, midY] = [(left + right) / 2, (top + bottom) / 2];
  if (picture.mask) {
    return flattenRing(maskCurve(picture.mask), 0.02).map((v, i) => v - (i % 2 === 0 ? midX : midY));
  }
  const [w, h] = [picture.widthMm / 2, picture.heightMm / 2];
  const corners = [0, 0, 1, 0, 1, 1, 0, 1];
  const out: Points = [];
  for (let i = 0; i < corners.length; i += 2) {
    const u = corners[i];
    const v = corners[i + 1];
    const { x, y } = sourceToHoop({ ...picture, widthMm: w * 2, heightMm: h * 2 }, u, v);
    out.push(x, y);
  }
  return out;
}

/** Border of satin, or of applique in its three steps, around what is sewn. */
function borderAreas(recipe: Recipe): Area[] {
  const { kind, widthMm, hex } = recipe.rendering.border;
  if (kind === 'none') return [];
  const ring = frameRing(recipe);
  const band = (width: number): Points[] =>
    thicken([ring], width, true, { cap: 'round', join: 'round', miterLimit: 2 });
  const area = (name: string, layer: number, rings: Points[], as: string): Area => ({
    origin: 'drawn',
    drawn: name,
    ...fromRings(rings),
    paint: { hex },
    hex,
    layer: BORDER_LAYER + layer,
    as,
    keep: true,
    cut: false,
    decisions: [],
  });
  const cover = area(COVER, 2, band(widthMm), 'satin');
  if (kind === 'satin') return [{ ...cover, drawn: 'border' }];
  const line: Area = {
    ...area(PLACEMENT, 0, band(0.4), 'running'),
    passes: 1,
    line: { paths: [curveThrough([...ring, ring[0], ring[1]])], widthMm: 0.4 },
  };
  return [line, area(TACK, 1, band(Math.max(1.2, widthMm * 0.6)), 'zigzag'), cover];
}

/** Threads of a rendering and of what lies on it; equal ones are one. */
function mergeThreads(
  own: readonly DesignThread[],
  more: { threads: DesignThread[]; threadOf: number[] },
): { threads: DesignThread[]; threadOf: number[] } {
  const threads = own.slice();
  const at = more.threads.map((thread) => {
    const same = threads.findIndex((t) => t.hex === thread.hex && t.chart === thread.chart);
    return same >= 0 ? same : threads.push({ ...thread, code: freshCode(thread, threads) }) - 1;
  });
  return { threads, threadOf: more.threadOf.map((i) => at[i]) };
}

/** A code no other thread has: colours of one's own are numbered anew. */
function freshCode({ code, chart }: DesignThread, taken: readonly DesignThread[]): string {
  if (chart !== 'own') return code;
  let n = taken.length + 1;
  const name = (k: number): string => `OWN-${String(k).padStart(2, '0')}`;
  while (taken.some((t) => t.code === name(n))) n++;
  return name(n);
}
