import {
  ciede2000,
  fromHex,
  rgbToLab,
  seededRandom,
  toHex,
  type ChartThread,
  type Lab,
  type Rgb,
} from '@open-kite/core';

interface ChartPlan {
  readonly id: string;
  readonly name: string;
  readonly prefix: string;
  readonly count: number;
  /** Steps of red, green and blue its colours are chosen from. */
  readonly grid: number;
  /** How much nearer to each other muted shades lie than vivid ones: pictures are made of them. */
  readonly muted: number;
  readonly finish: string;
  readonly families: readonly string[];
}

/** Invented charts; names follow hue families in this order: reds round to pinks, then browns and greys. */
export const CHART_PLANS: readonly ChartPlan[] = [
  {
    id: 'saltline',
    name: 'Saltline polyester',
    prefix: 'SL',
    count: 160,
    grid: 18,
    muted: 1,
    finish: 'bright',
    families: [
      'Ember',
      'Buoy',
      'Wick',
      'Sandbar',
      'Gorse',
      'Kelp',
      'Tidepool',
      'Fjord',
      'Deepwater',
      'Dusk',
      'Heather',
      'Sea pink',
      'Rope',
      'Mussel',
    ],
  },
  {
    id: 'dunegrass',
    name: 'Dunegrass cotton',
    prefix: 'DG',
    count: 100,
    grid: 18,
    muted: 1,
    finish: 'matt',
    families: [
      'Rosehip',
      'Rowan',
      'Lichen',
      'Marram',
      'Samphire',
      'Fern',
      'Mist',
      'Brook',
      'Slate',
      'Iris',
      'Thistle',
      'Thrift',
      'Driftwood',
      'Pebble',
    ],
  },
  {
    id: 'lanternsilk',
    name: 'Lanternsilk rayon',
    prefix: 'LS',
    count: 400,
    grid: 20,
    muted: 1.6,
    finish: 'silky',
    families: [
      'Scarlet lamp',
      'Flare',
      'Candle',
      'Honey',
      'Absinth',
      'Bottle',
      'Lagoon',
      'Harbour',
      'Midnight',
      'Violet hour',
      'Plum',
      'Carnival',
      'Copper',
      'Smoke',
    ],
  },
];

const ROUNDS = 8;
/** Chroma at which shades stop being muted. */
const MUTED_CHROMA = 35;

/**
 * Makes a chart whose threads are spread evenly over the colours sRGB can show: the next thread is the colour
 * farthest (CIEDE2000) from those there are (Gonzalez 1985); then each moves towards the colours nearest to it, the
 * far ones pulling most. Differences between muted shades count more in charts that have many of them.
 */
export function makeChart(plan: ChartPlan): ChartThread[] {
  const samples: Lab[] = [];
  const colours: Rgb[] = [];
  const { grid } = plan;
  const level = (k: number): number => Math.round((k * 255) / (grid - 1));
  for (let k = 0; k < grid ** 3; k++) {
    const rgb = { r: level(Math.floor(k / grid ** 2)), g: level(Math.floor(k / grid) % grid), b: level(k % grid) };
    colours.push(rgb);
    samples.push(rgbToLab(rgb));
  }
  const weights = samples.map(({ a, b }) => 1 + (plan.muted - 1) * Math.exp(-(a * a + b * b) / MUTED_CHROMA ** 2));
  const gap = samples.map(() => Infinity);
  const threads: Rgb[] = [];
  // Each chart starts at another colour, and so comes out different.
  for (let next = Math.floor(seededRandom(plan.count)() * samples.length); threads.length < plan.count;) {
    threads.push(colours[next]);
    for (let i = 0; i < gap.length; i++) {
      gap[i] = Math.min(gap[i], ciede2000(samples[i], samples[next]) * weights[i]);
    }
    next = gap.indexOf(Math.max(...gap));
  }
  for (let round = 0; round < ROUNDS; round++) settle(threads, colours, samples, weights);
  return nameThreads(plan, threads.map(toHex));
}

/** Moves each thread half-way to the mean of the colours nearest to it, weighted by the cube of the difference. */
function settle(threads: Rgb[], colours: readonly Rgb[], samples: readonly Lab[], weights: readonly number[]): void {
  const labs = threads.map((thread) => rgbToLab(thread));
  const sums = threads.map(() => ({ r: 0, g: 0, b: 0, w: 0 }));
  samples.forEach((sample, i) => {
    let best = Infinity;
    let at = 0;
    labs.forEach((lab, k) => {
      // Nothing so much lighter or darker can be nearest.
      if (Math.abs(lab.l - sample.l) > 20) return;
      const d = ciede2000(sample, lab);
      if (d < best) {
        best = d;
        at = k;
      }
    });
    const w = (best * weights[i]) ** 3;
    sums[at].r += w * colours[i].r;
    sums[at].g += w * colours[i].g;
    sums[at].b += w * colours[i].b;
    sums[at].w += w;
  });
  threads.forEach((thread, k) => {
    const { r, g, b, w } = sums[k];
    if (w > 0) threads[k] = { r: (thread.r + r / w) / 2, g: (thread.g + g / w) / 2, b: (thread.b + b / w) / 2 };
  });
}

function nameThreads(plan: ChartPlan, hexes: readonly string[]): ChartThread[] {
  const placed = hexes.map((hex) => {
    const lab = rgbToLab(fromHex(hex));
    const chroma = Math.sqrt(lab.a * lab.a + lab.b * lab.b);
    const hue = ((Math.atan2(lab.b, lab.a) * 180) / Math.PI + 360) % 360;
    const brownish = chroma < 28 && hue > 25 && hue < 100 && lab.l < 75;
    const family = chroma < 10 ? 13 : brownish ? 12 : Math.floor(hue / 30);
    return { hex, lab, family };
  });
  placed.sort((a, b) => a.family - b.family || b.lab.l - a.lab.l || (a.hex < b.hex ? -1 : 1));
  const counts = new Map<number, number>();
  return placed.map(({ hex, family }) => {
    const number = (counts.get(family) ?? 0) + 1;
    counts.set(family, number);
    const code = `${plan.prefix}-${String((family + 1) * 100 + number).padStart(4, '0')}`;
    return { code, name: `${plan.families[family]} ${number}`, hex, weight: 40, finish: plan.finish };
  });
}

/** A chart as CSV. */
export function chartCsv(threads: readonly ChartThread[]): string {
  const rows = threads.map((t) => `${t.code},${t.name},${t.hex},${t.weight},${t.finish}`);
  return ['code,name,hex,weight,finish', ...rows].join('\n') + '\n';
}

/** CIEDE2000 from random colours of the screen to their nearest thread. */
export function chartGaps(
  threads: readonly ChartThread[],
  tries: number,
): { mean: number; worst: number; within6: number } {
  const random = seededRandom(5);
  const labs = threads.map(({ hex }) => rgbToLab(fromHex(hex)));
  let sum = 0;
  let worst = 0;
  let within6 = 0;
  for (let i = 0; i < tries; i++) {
    const lab = rgbToLab({ r: random() * 255, g: random() * 255, b: random() * 255 });
    const best = labs.reduce((least, other) => Math.min(least, ciede2000(lab, other)), Infinity);
    sum += best;
    worst = Math.max(worst, best);
    if (best <= 6) within6++;
  }
  return { mean: sum / tries, worst, within6: within6 / tries };
}
