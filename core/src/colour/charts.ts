import { ownName } from './colour-word.js';
import { ciede2000, rgbToLab, type Lab } from './ciede2000.js';
import { fromHex, toHex, type Rgb } from './srgb.js';

/** One thread of a chart. */
export interface ChartThread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
  /** Thread weight: 40 covers 0.40 mm, 60 covers 0.30 mm. */
  readonly weight: number;
  readonly finish: string;
}

export interface Chart {
  readonly id: string;
  readonly name: string;
  readonly threads: readonly ChartThread[];
}

/** A bad line of an imported chart: its number, counted from 1, and what is wrong with it. */
export interface BadLine {
  readonly line: number;
  readonly message: string;
}

/** A colour matched to a thread, with the difference that stays. */
export interface Match {
  readonly thread: ChartThread;
  readonly chart: string;
  readonly deltaE: number;
}

/** The threads of some charts nearest to a colour by CIEDE2000, best first. */
export function nearestThreads(colour: Rgb, charts: readonly Chart[], count: number): Match[] {
  const lab = rgbToLab(colour);
  const all: Match[] = [];
  for (const chart of charts) {
    const labs = labsOf(chart);
    chart.threads.forEach((thread, i) => all.push({ thread, chart: chart.id, deltaE: ciede2000(lab, labs[i]) }));
  }
  return all.sort((a, b) => a.deltaE - b.deltaE || (a.thread.code < b.thread.code ? -1 : 1)).slice(0, count);
}

const labCache = new WeakMap<Chart, Lab[]>();

function labsOf(chart: Chart): Lab[] {
  let labs = labCache.get(chart);
  if (!labs) {
    labs = chart.threads.map((thread) => rgbToLab(fromHex(thread.hex)));
    labCache.set(chart, labs);
  }
  return labs;
}

/** A thread of the picture's own colour, for designs that are matched later. */
export function ownThread(colour: Rgb, index: number): ChartThread {
  const hex = toHex(colour);
  return {
    code: `OWN-${String(index + 1).padStart(2, '0')}`,
    name: ownName(hex),
    hex,
    weight: 40,
    finish: 'plain',
  };
}
