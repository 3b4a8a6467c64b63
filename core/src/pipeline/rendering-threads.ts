import { nearestThreads, type Chart } from '../colour/charts.js';
import { ownName } from '../colour/colour-word.js';
import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { findThread, stashOf } from '../colour/match.js';
import { fromHex, type Rgb } from '../colour/srgb.js';
import { chooseThreads, type ColourChoices } from './choose-threads.js';
import type { PictureView } from '../recipe/view.js';
import type { Points } from '../geometry/vector.js';
import type { GridEdits } from '../cross/grid-edits.js';
import type { DesignThread } from '../colour/design-thread.js';
import type { RenderMethod } from '../photo/methods/render-method.js';
import { mixPalette } from '../photo/palette.js';
import type { PaletteThread } from '../photo/palette-thread.js';
import type { Plate } from '../photo/plate.js';
import { sewnColours } from '../photo/sewn-colour.js';
import type { NamedThread } from '../objects/design-object.js';
import type { OptionValues } from '../stitches/stitch-kind.js';
import type { LabelMap } from '../trace/labels.js';

/** What threads of a rendering are chosen by. */
export interface ThreadInput {
  readonly view: {
    readonly colours: Omit<PictureView['colours'], 'decisions' | 'smallestSpotMm2'>;
    readonly rendering: Pick<PictureView['rendering'], 'mix' | 'threads'>;
    readonly cloth: PictureView['cloth'];
  };
  readonly charts: readonly Chart[];
  readonly stash: readonly string[];
  /** Options of the method that its threads are chosen by. */
  readonly values: OptionValues;
}

/** The threads of a rendering, and for methods that sew the picture's own colours the thread of each label. */
export interface RenderingThreads {
  readonly threads: DesignThread[];
  /** A thread that fills the ground below the others. */
  readonly ground?: DesignThread;
  readonly threadOfLabel: readonly number[];
  /** Of each thread, where it is sewn among the others: below 0 before them, above 0 after them, the farthest first and last. */
  readonly places: readonly number[];
}

/** What threads that are mixed to suit a picture are mixed by: whatever is said of single threads afterwards changes none of it. */
export interface MixInput {
  readonly count: number;
  /** Threads that are in it in any case. */
  readonly kept: readonly PaletteThread[];
  readonly charts: readonly Chart[];
  readonly clothHex: string;
}

/** What the threads of a picture are mixed by; undefined for methods that do not mix. */
export function mixInput(input: ThreadInput, { threads }: RenderMethod): MixInput | undefined {
  if (threads.from !== 'mix') return undefined;
  const { view } = input;
  const charts = usableCharts(input);
  const kept = view.rendering.mix.flatMap((d, i) =>
    d.kind === 'keep' ? [namedThread(d.thread, i, charts, input.charts)] : [],
  );
  const { count } = view.colours;
  return { count: count === 'auto' ? threads.usual : Math.max(2, count), kept, charts, clothHex: view.cloth.hex };
}

/**
 * Mixes threads to suit a picture; yields the share done.
 * @param favoured rings, in mm on the cloth, around what counts more than the rest
 */
export function mixThreads(
  plate: Plate,
  { count, kept, charts, clothHex }: MixInput,
  favoured: readonly Points[],
  rounds?: number,
): Generator<number, PaletteThread[]> {
  const memo = new Map<string, readonly [number, number, number]>();
  return mixPalette(plate, {
    count,
    charts,
    rounds,
    favoured,
    fixed: kept,
    clothHex,
    sewn: (hex) => {
      let colour = memo.get(hex);
      if (!colour) {
        const [r, g, b] = sewnColours([hex], 0, 0.4);
        memo.set(hex, (colour = [r, g, b]));
      }
      return colour;
    },
  });
}

/**
 * Threads of a rendering: named one by one, mixed to suit the picture, or those of the picture's colours; yields the share
 * done.
 * @param mixed what `mixThreads` made, for methods that mix
 * @throws RangeError for a chart or thread that is not there
 */
export function* renderingThreads(
  input: ThreadInput,
  method: RenderMethod,
  plate: Plate,
  map: LabelMap,
  choices: ColourChoices,
  mixed: readonly PaletteThread[],
): Generator<number, RenderingThreads> {
  const { view } = input;
  const source = method.threads;
  if (source.from === 'colours') {
    const paints = map.palette.map((_, i) => ({ label: i + 1 }));
    const { threads, threadOf } = chooseThreads(paints, map, choices, input);
    return { threads, threadOfLabel: [-1, ...threadOf], places: [] };
  }
  const charts = usableCharts(input);
  if (source.from === 'list') {
    const own = view.rendering.threads[method.id] ?? [];
    const named = own.length >= source.least ? own.slice(0, source.most) : source.usual.map((hex) => ({ hex }));
    const threads = named.map((thread, i) => namedThread(thread, i, charts, input.charts));
    const given = { values: input.values, clothHex: view.cloth.hex, charts };
    const chosen = method.chooses?.choose(plate, threads, given);
    if (chosen) {
      const found = yield* chosen;
      const exact = (thread: PaletteThread): DesignThread => ({ ...thread, deltaE: 0 });
      const ground = found.ground && exact(found.ground);
      // What was named keeps how far it is from what was asked for.
      const own = found.threads.map((thread) => threads.find(({ hex }) => hex === thread.hex) ?? exact(thread));
      return { threads: own, ground, threadOfLabel: [], places: [] };
    }
    return { threads, threadOfLabel: [], places: [] };
  }
  const { mix } = view.rendering;
  const threads: DesignThread[] = [];
  mixed.forEach((thread, i) => {
    const said = mix.findLast((d) => (d.kind === 'drop' || d.kind === 'swap') && isOf(d.hex, thread));
    if (said?.kind === 'drop' && mixed.length > 1) return;
    const taken = said?.kind === 'swap' ? namedThread(said.to, i, charts, input.charts) : { ...thread, deltaE: 0 };
    if (!threads.some(({ hex }) => hex === taken.hex)) threads.push(taken);
  });
  // Everything dropped: one thread stays, since something has to be sewn.
  if (threads.length === 0) threads.push({ ...mixed[0], deltaE: 0 });
  // Who spoke last of a place is nearest to the end.
  const places = threads.map((thread) =>
    mix.reduce((place, d, i) => {
      if ((d.kind !== 'first' && d.kind !== 'last') || !isOf(d.hex, thread)) return place;
      return d.kind === 'first' ? -1 - i : 1 + i;
    }, 0),
  );
  return { threads, threadOfLabel: [], places };
}

const isOf = (hex: string, thread: { readonly hex: string }): boolean => hex.toLowerCase() === thread.hex.toLowerCase();

/**
 * Threads of changes of a grid by hand: a colour takes the nearest thread of the design, one of a chart is added where the
 * design has it not.
 */
export function handmadeThreads(
  edits: GridEdits | null,
  threads: readonly DesignThread[],
  usable: readonly Chart[],
  charts: readonly Chart[],
): { threads: DesignThread[]; threadOf: number[] } {
  const all = threads.slice();
  const threadOf = (edits?.threads ?? []).map((named) => {
    if ('hex' in named && threads.length > 0) return nearestThread(threads, fromHex(named.hex));
    const thread = namedThread(named, all.length, usable, charts);
    const same = all.findIndex(({ code, chart }) => code === thread.code && chart === thread.chart);
    return same >= 0 ? same : all.push(thread) - 1;
  });
  return { threads: all, threadOf };
}

/** Thread nearest to a colour, by CIEDE2000. */
export function nearestThread(threads: readonly { readonly hex: string }[], colour: Rgb): number {
  const lab = rgbToLab(colour);
  let best = 0;
  let least = Infinity;
  threads.forEach(({ hex }, i) => {
    const d = ciede2000(lab, rgbToLab(fromHex(hex)));
    if (d < least) [least, best] = [d, i];
  });
  return best;
}

export function usableCharts({
  view,
  charts,
  stash,
}: Pick<ThreadInput, 'charts' | 'stash'> & { readonly view: Pick<ThreadInput['view'], 'colours'> }): Chart[] {
  const named = view.colours.charts.map((id) => {
    const chart = charts.find((c) => c.id === id);
    if (!chart) {
      throw new RangeError(`chart: there is no "${id}"; known are ${charts.map((c) => c.id).join(', ') || 'none'}`);
    }
    return chart;
  });
  if (!view.colours.stashOnly) return named.filter(({ threads }) => threads.length > 0);
  const inDrawer = stashOf(named.length > 0 ? named : charts, new Set(stash));
  if (inDrawer.length === 0) {
    throw new RangeError('stash: only threads of the drawer are to be used, and there is none in it');
  }
  return inDrawer;
}

/** A named thread; one named by a colour alone is matched to the charts in use. */
export function namedThread(
  named: NamedThread | PaletteThread,
  index: number,
  usable: readonly Chart[],
  all: readonly Chart[],
): DesignThread {
  if ('code' in named && named.chart !== 'own') {
    const thread = findThread(all, named);
    if (!thread) throw new RangeError(`thread: there is no "${named.code}" in the chart "${named.chart}"`);
    return { code: thread.code, name: thread.name, hex: thread.hex, chart: named.chart, deltaE: 0 };
  }
  const { hex } = named as { hex: string };
  const match = nearestThreads(fromHex(hex), usable, 1).at(0);
  if (!match) {
    const code = `OWN-${String(index + 1).padStart(2, '0')}`;
    return { code, name: ownName(hex), hex: hex.toLowerCase(), chart: 'own', deltaE: 0 };
  }
  const { thread, chart } = match;
  const deltaE = ciede2000(rgbToLab(fromHex(hex)), rgbToLab(fromHex(thread.hex)));
  return { code: thread.code, name: thread.name, hex: thread.hex, chart, deltaE: Number(deltaE.toFixed(2)) };
}
