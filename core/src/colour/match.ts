import { ciede2000, rgbToLab } from './ciede2000.js';
import { nearestThreads, ownThread, type Chart, type ChartThread } from './charts.js';
import { fromHex, toHex, type Rgb } from './srgb.js';

/** A thread named by its chart and code; chart `own` is the picture's colour. */
export interface ThreadName {
  readonly chart: string;
  readonly code: string;
}

/** A colour that needs a thread. */
export interface WantedThread {
  readonly colour: Rgb;
  /** The thread somebody chose for it. */
  readonly chosen?: ThreadName;
}

/** The thread of a colour, and the CIEDE2000 difference that stays. */
export interface MatchedThread {
  readonly thread: ChartThread;
  readonly chart: string;
  readonly deltaE: number;
}

/** Key of a thread among all charts. */
export const threadKey = (chart: string, code: string): string => `${chart} ${code}`;

/** Charts with only those threads that are in the drawer. */
export function stashOf(charts: readonly Chart[], stash: ReadonlySet<string>): Chart[] {
  return charts
    .map((chart) => ({ ...chart, threads: chart.threads.filter((t) => stash.has(threadKey(chart.id, t.code))) }))
    .filter((chart) => chart.threads.length > 0);
}

/**
 * Gives every colour a thread: the one chosen for it, else the nearest of the charts, else one of its own colour.
 * With `distinct` two colours never get the same thread while there are others, closest pairs first; equal colours
 * always get the same one.
 * @param all charts that chosen threads may come from
 */
export function matchThreads(
  wanted: readonly WantedThread[],
  named: readonly Chart[],
  distinct: boolean,
  all: readonly Chart[] = named,
): MatchedThread[] {
  // A chart nobody has written a thread into yet is as good as none.
  const charts = named.filter((chart) => chart.threads.length > 0);
  const found = new Map<string, MatchedThread>();
  const taken = new Set<string>();
  const hexes = wanted.map(({ colour }) => toHex(colour));
  const settle = (hex: string, match: MatchedThread): void => {
    found.set(hex, match);
    if (match.chart !== 'own') taken.add(threadKey(match.chart, match.thread.code));
  };
  wanted.forEach(({ colour, chosen }, i) => {
    if (!chosen || found.has(hexes[i])) return;
    const thread = chosen.chart === 'own' ? undefined : findThread(all, chosen);
    if (thread) settle(hexes[i], { thread, chart: chosen.chart, deltaE: difference(colour, thread) });
    else if (chosen.chart === 'own') settle(hexes[i], own(colour, i));
  });
  const open = wanted.map((_, i) => i).filter((i) => !found.has(hexes[i]) && hexes.indexOf(hexes[i]) === i);
  if (charts.length === 0) open.forEach((i) => settle(hexes[i], own(wanted[i].colour, i)));
  else {
    const pairs = open.flatMap((i) =>
      nearestThreads(wanted[i].colour, charts, distinct ? open.length + taken.size : 1).map((match) => ({ i, match })),
    );
    pairs.sort((a, b) => a.match.deltaE - b.match.deltaE || a.i - b.i);
    for (const { i, match } of pairs) {
      if (found.has(hexes[i]) || (distinct && taken.has(threadKey(match.chart, match.thread.code)))) continue;
      settle(hexes[i], match);
    }
    // More colours than threads: the rest share.
    for (const i of open) if (!found.has(hexes[i])) settle(hexes[i], nearestThreads(wanted[i].colour, charts, 1)[0]);
  }
  return hexes.map((hex) => found.get(hex) as MatchedThread);
}

export function findThread(charts: readonly Chart[], { chart, code }: ThreadName): ChartThread | undefined {
  return charts.find((c) => c.id === chart)?.threads.find((t) => t.code === code);
}

const own = (colour: Rgb, i: number): MatchedThread => ({ thread: ownThread(colour, i), chart: 'own', deltaE: 0 });

const difference = (colour: Rgb, thread: ChartThread): number =>
  ciede2000(rgbToLab(colour), rgbToLab(fromHex(thread.hex)));
