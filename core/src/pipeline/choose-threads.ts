import { stashOf, matchThreads, threadKey, type MatchedThread } from '../colour/match.js';
import type { Chart } from '../colour/charts.js';
import { fromHex, isSame, toHex, type Rgb } from '../colour/srgb.js';
import { threadColour } from '../colour/thread-colour.js';
import type { PictureInput } from './input.js';
import type { ColourShare } from '../design/design.js';
import type { DesignThread } from '../colour/design-thread.js';
import type { Paint } from '../pieces/paint.js';
import { pixelPlaces, type Prepared } from './prepare.js';
import { findGroup, regroups, type Anchor, type ColourDecision } from '../trace/colour-decisions.js';
import type { LabelMap } from '../trace/labels.js';

/** What the recipe says of the colours that were found. */
export interface ColourChoices {
  /** Labels where nothing is sewn, and why. */
  readonly bare: ReadonlyMap<number, 'ground' | 'chosen'>;
  /** Threads chosen for labels. */
  readonly threads: ReadonlyMap<number, { readonly chart: string; readonly code: string }>;
  /** Decisions that found no colour, by their place in the recipe. */
  readonly lost: readonly number[];
  /** Decisions that hold for a label as a whole. */
  readonly held: ReadonlyMap<number, readonly number[]>;
  /** Label of the colour an anchor means, 0 where there is none. */
  readonly labelAt: (anchor: Anchor) => number;
}

/** What has to be known of a picture to say what its colours are. */
export interface ColourPlace extends Pick<Prepared, 'placement' | 'grid'> {
  readonly decisions: readonly ColourDecision[];
  readonly dropGround: boolean;
}

export const colourPlace = ({ view }: PictureInput, { placement, grid }: Prepared): ColourPlace => ({
  placement,
  grid,
  decisions: view.colours.decisions,
  dropGround: view.picture.dropGround,
});

export function chooseColours(map: LabelMap, { decisions, dropGround, placement, grid }: ColourPlace): ColourChoices {
  const { toPixel } = pixelPlaces(placement, grid);
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
    const { x, y } = toPixel(u, v);
    return x >= 0 && y >= 0 && x < map.width && y < map.height ? map.shadeOf[y * map.width + x] - 1 : -1;
  };
  const labelAt = (anchor: Anchor): number => findGroup(groups, anchor, { shadeAt }) + 1;
  const held = new Map<number, number[]>();
  decisions.forEach((decision, i) => {
    if (regroups(decision) && decision.kind !== 'pin') return;
    const label = labelAt(decision.at);
    if (label > 0) held.set(label, [...(held.get(label) ?? []), i]);
    if (decision.kind === 'pin') return;
    if (label === 0) lost.push(i);
    else if (decision.kind === 'bare') bare.set(label, 'chosen');
    else if (decision.kind === 'thread') threads.set(label, { chart: decision.chart, code: decision.code });
  });
  if (dropGround && map.ground > 0) bare.set(map.ground, 'ground');
  return { bare, threads, lost: lost.sort((a, b) => a - b), held, labelAt };
}

/** What threads are matched to. */
export interface ThreadSettings {
  readonly view: { readonly colours: Pick<PictureInput['view']['colours'], 'charts' | 'stashOnly' | 'distinct'> };
  readonly charts: readonly Chart[];
  readonly stash: readonly string[];
}

/**
 * Threads for what pieces are painted with.
 * @returns the threads, each once, and for each paint its index among them
 * @throws RangeError for a chart that was not given
 */
export function chooseThreads(
  paints: readonly Paint[],
  map: LabelMap | undefined,
  choices: ColourChoices | undefined,
  { view, charts, stash }: ThreadSettings,
): { threads: DesignThread[]; threadOf: number[] } {
  const { charts: ids, stashOnly, distinct } = view.colours;
  const named = ids.map((id) => {
    const chart = charts.find((c) => c.id === id);
    if (!chart) {
      throw new RangeError(`chart: there is no "${id}"; known are ${charts.map((c) => c.id).join(', ') || 'none'}`);
    }
    return chart;
  });
  const wanted = paints.map((paint) => {
    if ('label' in paint) {
      return { colour: map?.palette[paint.label - 1] ?? GREY, chosen: choices?.threads.get(paint.label) };
    }
    if ('hex' in paint) return { colour: fromHex(paint.hex), chosen: undefined };
    return { colour: threadColour(charts, paint.chart, paint.code), chosen: { chart: paint.chart, code: paint.code } };
  });
  const usable = stashOnly ? stashOf(named.length > 0 ? named : charts, new Set(stash)) : named;
  if (stashOnly && usable.length === 0) {
    throw new RangeError('stash: only threads of the drawer are to be used, and there is none in it');
  }
  const threads: DesignThread[] = [];
  const known = new Map<string, number>();
  const threadOf = matchThreads(wanted, usable, distinct, charts).map((match) => {
    // A colour of the picture's own keeps a thread of its own; a plain ground and what has its colour elsewhere share one.
    const key = match.chart === 'own' ? `own ${match.thread.hex}` : threadKey(match.chart, match.thread.code);
    const at = known.get(key) ?? threads.length;
    if (at === threads.length) threads.push(designThread(match));
    known.set(key, at);
    return at;
  });
  return { threads, threadOf };
}

/** What a colour that is gone is seen as. */
const GREY: Rgb = { r: 128, g: 128, b: 128 };

function designThread({ thread, chart, deltaE }: MatchedThread): DesignThread {
  const { code, name, hex } = thread;
  return { code, name, hex, chart, deltaE: Number(deltaE.toFixed(2)) };
}

const AREAS = new WeakMap<LabelMap, Float64Array>();

/** Pixels of each label; 0 is bare. Counted once for a map, which never changes. */
function labelAreas(map: LabelMap): Float64Array {
  const known = AREAS.get(map);
  if (known) return known;
  const area = new Float64Array(map.palette.length + 1);
  for (const label of map.labels) area[label]++;
  AREAS.set(map, area);
  return area;
}

/** @param threadOf thread of each label from 1 on, -1 where nothing of it is sewn */
export function colourShares(
  object: string,
  map: LabelMap,
  threadOf: readonly number[],
  choices: ColourChoices,
): ColourShare[] {
  const area = labelAreas(map);
  const total = Math.max(1, map.labels.length - area[0]);
  return map.palette.map((colour, i): ColourShare => {
    const { anchor, shades, pinned } = map.infos[i];
    const reason = choices.bare.get(i + 1);
    const thread = reason ? -1 : threadOf[i + 1];
    return {
      object,
      hex: toHex(colour),
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

/**
 * Thread of each label from 1 on, of those that pieces are painted with.
 * @param base number that labels of the picture count from
 */
export function threadsOfLabels(
  map: LabelMap,
  base: number,
  paints: readonly Paint[],
  threadOf: readonly number[],
): number[] {
  const at = (label: number): number => paints.findIndex((paint) => 'label' in paint && paint.label === base + label);
  return [
    -1,
    ...map.palette.map((colour, i) => {
      const direct = at(i + 1);
      if (direct >= 0) return threadOf[direct];
      // Ground that is sewn is sewn with the thread its colour has elsewhere.
      if (i + 1 !== map.ground) return -1;
      const twin = map.palette.findIndex((c, k) => k !== i && isSame(c, colour) && at(k + 1) >= 0);
      return twin >= 0 ? threadOf[at(twin + 1)] : -1;
    }),
  ];
}
