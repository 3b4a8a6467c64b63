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

/** Reads `code,name,hex,weight,finish`; good lines are kept, bad ones are listed. */
export function parseChart(text: string): { threads: ChartThread[]; bad: BadLine[] } {
  const threads: ChartThread[] = [];
  const bad: BadLine[] = [];
  text.split(/\r?\n/).forEach((raw, index) => {
    const line = raw.trim();
    if (line === '' || line.startsWith('#') || (index === 0 && /^code\s*,/i.test(line))) return;
    const [code, name, hex, weight, finish] = line.split(',').map((cell) => cell.trim());
    const report = (message: string): void => void bad.push({ line: index + 1, message });
    if (!code) return report('the code is missing');
    if (!hex || !/^#[0-9a-f]{6}$/i.test(hex)) return report(`"${hex ?? ''}" is not a colour like #1f2d2c`);
    const w = weight ? Number(weight) : 40;
    if (!(w > 0)) return report(`"${weight}" is not a thread weight`);
    threads.push({ code, name: name || code, hex: hex.toLowerCase(), weight: w, finish: finish || 'plain' });
  });
  return { threads, bad };
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
    name: `Shade ${index + 1}`,
    hex,
    weight: 40,
    finish: 'plain',
  };
}
