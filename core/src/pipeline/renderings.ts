import type { Chart } from '../colour/charts.js';
import type { DesignThread } from '../colour/design-thread.js';
import type { GridEdits } from '../cross/grid-edits.js';
import { toEndWithPauses } from '../geometry/pauses.js';
import type { Points } from '../geometry/vector.js';
import type { RenderingChoices } from '../objects/design-object.js';
import { tinted } from '../photo/effect.js';
import { changeLines, type LineChange } from '../photo/line-decisions.js';
import { renderMethodOf, renderValues } from '../photo/methods/index.js';
import type { Rendered, RenderMethod } from '../photo/methods/render-method.js';
import { plateOf, type Plate } from '../photo/plate.js';
import { centred, sourceToHoop, type PictureBox, type Placement } from '../picture/frame.js';
import { paintRings } from '../picture/paint-rings.js';
import type { Grid } from '../picture/place.js';
import type { OptionValues } from '../stitches/stitch-kind.js';
import type { LabelMap } from '../trace/labels.js';
import { chooseColours, colourPlace, type ColourPlace } from './choose-threads.js';
import type { Reduced } from './colours.js';
import { threadSources, type PictureInput, type StepName } from './input.js';
import { boxOf, type Placed } from './prepare.js';
import {
  handmadeThreads,
  mixInput,
  mixThreads,
  namedThread,
  renderingThreads,
  usableCharts,
  type MixInput,
  type RenderingThreads,
  type ThreadInput,
} from './rendering-threads.js';
import { named, step, type StepCache, type Turn } from './step.js';

/** Rounds a palette is mixed in for a rough result. */
const QUICK_ROUNDS = 3;
/** A picture of more colours is soft, even where much of it is plain. */
const MOST_FLAT_COLOURS = 16;

/** A rendering that is ready to be made, in the middle of the hoop. */
export interface ReadyRendering {
  readonly inputs: RenderInputs;
  readonly values: OptionValues;
  readonly method: RenderMethod;
  /** Its threads, those that changes of lines name last. */
  readonly threads: readonly DesignThread[];
  readonly threadOfLabel: readonly number[];
}

interface HoledInputs {
  readonly map: LabelMap;
  readonly grid: Grid;
  readonly holes: readonly Points[];
}

/** The colours of a picture with holes cut into it: nothing is sewn there. */
const holedStep = step('holes', ({ map, grid, holes }: HoledInputs): LabelMap => {
  const labels = map.labels.slice();
  inside(grid, holes, (at) => (labels[at] = 0));
  return { ...map, labels };
});

function inside(
  { width, height, left, top, widthMm, heightMm }: Grid,
  rings: readonly Points[],
  at: (i: number) => void,
) {
  const [kx, ky] = [width / widthMm, height / heightMm];
  const inPixels = rings.map((ring) => ring.map((v, i) => (i % 2 === 0 ? (v - left) * kx : (v - top) * ky)));
  paintRings(inPixels, { width, height, left: 0, top: 0, scale: 1 }, (i, coverage) => {
    if (coverage >= 128) at(i);
  });
}

interface PlateInputs {
  readonly placed: Placed;
  readonly map: LabelMap;
  /** Labels where nothing is sewn. */
  readonly bare: readonly number[];
  readonly box: PictureBox;
  readonly holed: boolean;
  readonly effect: string | null;
  readonly hue: number | null;
}

const plateStep = step('plate', ({ placed, map, bare, box, holed, effect, hue }: PlateInputs): Plate => {
  const isBare = new Set(bare);
  if (holed) isBare.add(0);
  const plain = plateOf(placed.picture, box, isBare.size > 0 ? (i) => isBare.has(map.labels[i]) : undefined);
  return effect === null ? plain : tinted(plain, effect, hue ?? 0);
});

interface ThreadInputs {
  readonly method: string;
  readonly plate: Plate;
  readonly map: LabelMap;
  readonly place: ColourPlace;
  readonly view: ThreadInput['view'];
  readonly charts: readonly Chart[];
  readonly stash: readonly string[] | null;
  readonly values: OptionValues;
  /** Rings, in mm on the cloth, around what counts more than the rest. */
  readonly favoured: readonly Points[];
  readonly quick: boolean;
}

interface MixStepInputs extends MixInput {
  readonly plate: Plate;
  readonly favoured: readonly Points[];
  readonly rounds: number | null;
}

/** Threads said something of afterwards, exchanged or sewn first, are mixed once. */
const mixStep = step('mixed threads', ({ plate, favoured, rounds, ...how }: MixStepInputs, { pause }: Turn) =>
  toEndWithPauses(mixThreads(plate, how, favoured, rounds ?? undefined), pause),
);

const threadStep = step('rendering threads', async (inputs: ThreadInputs, turn: Turn): Promise<RenderingThreads> => {
  const { method, plate, map, place, view, charts, stash, values, favoured, quick } = inputs;
  const input = { view, charts, stash: stash ?? [], values };
  const render = renderMethodOf(method) as RenderMethod;
  const how = mixInput(input, render);
  const rounds = quick ? QUICK_ROUNDS : null;
  const mixed = how ? await turn.cache.run(mixStep, { plate, favoured, rounds, ...how }, turn.pause) : [];
  return toEndWithPauses(renderingThreads(input, render, plate, map, chooseColours(map, place), mixed), turn.pause);
});

/** Everything a rendering is made from. */
export interface RenderInputs {
  readonly method: string;
  readonly plate: Plate;
  readonly map: LabelMap;
  readonly bare: readonly number[];
  readonly threads: readonly DesignThread[];
  readonly ground: number;
  readonly places: readonly number[];
  readonly threadOfLabel: readonly number[];
  readonly clothHex: string;
  readonly trimOverMm: number;
  readonly strokes: readonly Points[];
  readonly quick: boolean;
  readonly pixelMm: number;
  readonly flat: boolean;
  readonly edits: GridEdits | null;
  readonly threadOfEdits: readonly number[];
  readonly lines: readonly LineChange[];
  /** Rings, in mm on the cloth, around what matters most. */
  readonly favoured: readonly Points[];
  /** What was worked out before for the same picture. */
  readonly memo: Map<string, unknown>;
}

/** A rendering with options, its lines changed as somebody said. */
export const renderStep = step(
  'rendering',
  async ({ inputs, values }: { inputs: RenderInputs; values: OptionValues }, { pause }: Turn): Promise<Rendered> => {
    const { method, bare, edits, threadOfEdits, lines, ...given } = inputs;
    const isBare = new Set(bare);
    const steps = (renderMethodOf(method) as RenderMethod).render(
      {
        ...given,
        isBare: (label) => label === 0 || isBare.has(label),
        handmade: { edits: edits ?? undefined, threadOfEdits },
      },
      values,
    );
    const rendered = await toEndWithPauses(steps, pause);
    return { ...rendered, layers: changeLines(rendered.layers, inputs.threads, lines).layers };
  },
);

/**
 * Readies the rendering of a picture: what of it is sewn, its threads, its directions.
 * @param holes rings cut into it, in mm on the cloth
 */
export async function readyRendering(
  input: PictureInput,
  method: RenderMethod,
  { prepared, map, flat }: Reduced,
  holes: readonly Points[],
  how: {
    readonly cache: StepCache;
    readonly quick: boolean;
    readonly pause: (step: StepName, share: number) => Promise<void>;
  },
): Promise<ReadyRendering> {
  const { view, source } = input;
  const { cache, quick, pause } = how;
  const { rendering, picture, cloth, id } = view;
  const { placed, grid, pixelsPerMm } = prepared;
  const place = colourPlace(input, prepared);
  const choices = chooseColours(map, place);
  const bare = [...choices.bare.keys()].sort((p, q) => p - q);
  const values = usedValues(method, renderValues(method, rendering.values[method.id] ?? {}));
  const here = holes.map((ring) => ring.map((v, i) => v - (i % 2 === 0 ? picture.xMm : picture.yMm)));
  const cut = holes.length > 0 ? await cache.run(holedStep, { map, grid, holes: here }, undefined, id) : map;
  await pause('pieces', 0.15);
  const { effect, hue } = values;
  const plate = await cache.run(
    plateStep,
    {
      placed,
      map: cut,
      bare,
      box: boxOf(grid),
      holed: cut !== map,
      effect: typeof effect === 'string' ? effect : null,
      hue: typeof hue === 'number' ? hue : null,
    },
    undefined,
    id,
  );
  const sources = threadSources(input);
  const placement = centred(picture);
  const favoured = rendering.lines
    .filter(({ kind, area }) => kind === 'favour' && area.length >= 6)
    .map(({ area }) => onCloth(area, placement));
  const given = await cache.run(
    threadStep,
    {
      method: method.id,
      plate,
      map: cut,
      place,
      view: threadView(view, method.id),
      ...sources,
      favoured: method.threads.from === 'mix' ? favoured : [],
      values: Object.fromEntries((method.chooses?.by ?? []).map((name) => [name, values[name]])),
      quick,
    },
    (share) => pause('pieces', 0.15 + 0.1 * share),
    id,
  );
  const usable = usableCharts(input);
  const edits = method.edited ? rendering.grid : null;
  const handmade = handmadeThreads(edits, given.threads, usable, input.charts);
  const own = given.ground ? [...handmade.threads, given.ground] : handmade.threads;
  const lines = rendering.lines.flatMap(({ kind, threads, area, to }): LineChange[] => {
    if (kind === 'favour') return [];
    const thread = to && namedThread(to, own.length, usable, input.charts);
    return [{ kind, threads, area: onCloth(area, placement), to: thread }];
  });
  await pause('pieces', 0.25);
  return {
    method,
    values,
    threads: changeLines([], own, lines).threads,
    threadOfLabel: given.threadOfLabel,
    inputs: {
      method: method.id,
      plate,
      map: cut,
      bare,
      threads: own,
      ground: given.ground ? own.length - 1 : -1,
      places: given.places,
      threadOfLabel: given.threadOfLabel,
      clothHex: cloth.hex,
      trimOverMm: view.order.trimOverMm,
      strokes: method.led ? rendering.strokes.map((stroke) => onCloth(stroke, placement)) : [],
      quick,
      pixelMm: 1 / pixelsPerMm,
      flat: flat && placed.character.colours <= MOST_FLAT_COLOURS,
      edits,
      threadOfEdits: handmade.threadOf,
      lines,
      favoured,
      memo: cache.memo(`${id} ${source.key}`, () => named(new Map<string, unknown>(), 'memo')),
    },
  };
}

/** Options that have no effect beside the others are as usual: changing them changes nothing. */
function usedValues({ options }: RenderMethod, values: OptionValues): OptionValues {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => {
      const { when, usual } = options[name];
      return [name, when && values[when[0]] !== when[1] ? usual : value];
    }),
  );
}

/** What of a recipe the threads of a rendering are chosen by. */
function threadView(
  { rendering, colours: { count, charts, stashOnly, distinct }, cloth }: PictureInput['view'],
  method: string,
): ThreadInput['view'] {
  const { mix, threads } = rendering;
  const own: RenderingChoices['threads'] = Object.hasOwn(threads, method) ? { [method]: threads[method] } : {};
  return { colours: { count, charts, stashOnly, distinct }, rendering: { mix, threads: own }, cloth };
}

/** A line of the picture, in mm on the cloth. */
function onCloth(stroke: readonly number[], placement: Placement): Points {
  const out: Points = [];
  for (let i = 0; i < stroke.length; i += 2) {
    const { x, y } = sourceToHoop(placement, stroke[i], stroke[i + 1]);
    out.push(x, y);
  }
  return out;
}
