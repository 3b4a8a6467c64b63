import { ciede2000, linearToLab, rgbToLab, toHex, type ChartThread, type Lab } from '@open-kite/core';
import { seededRandom } from '../artwork/random.js';

interface ChartPlan {
  readonly id: string;
  readonly name: string;
  readonly prefix: string;
  readonly count: number;
  readonly finish: string;
  readonly seed: number;
  readonly families: readonly string[];
}

/** Invented charts; names follow hue families in this order: reds round to pinks, then browns and greys. */
export const CHART_PLANS: readonly ChartPlan[] = [
  {
    id: 'saltline',
    name: 'Saltline polyester',
    prefix: 'SL',
    count: 160,
    finish: 'bright',
    seed: 11,
    families: ['Ember', 'Buoy', 'Wick', 'Sandbar', 'Gorse', 'Kelp', 'Tidepool', 'Fjord', 'Deepwater', 'Dusk', 'Heather', 'Sea pink', 'Rope', 'Mussel'],
  },
  {
    id: 'dunegrass',
    name: 'Dunegrass cotton',
    prefix: 'DG',
    count: 100,
    finish: 'matt',
    seed: 23,
    families: ['Rosehip', 'Rowan', 'Lichen', 'Marram', 'Samphire', 'Fern', 'Mist', 'Brook', 'Slate', 'Iris', 'Thistle', 'Thrift', 'Driftwood', 'Pebble'],
  },
  {
    id: 'lanternsilk',
    name: 'Lanternsilk rayon',
    prefix: 'LS',
    count: 220,
    finish: 'silky',
    seed: 37,
    families: ['Scarlet lamp', 'Flare', 'Candle', 'Honey', 'Absinth', 'Bottle', 'Lagoon', 'Harbour', 'Midnight', 'Violet hour', 'Plum', 'Carnival', 'Copper', 'Smoke'],
  },
];

/**
 * Spreads threads over all colours sRGB can show: the next thread is the colour farthest (CIEDE2000) from those
 * there are (Gonzalez 1985), then each moves towards the middle of the colours nearest to it.
 */
export function makeChart(plan: ChartPlan): ChartThread[] {
  const random = seededRandom(plan.seed);
  const samples: Lab[] = [];
  const colours: [number, number, number][] = [];
  const steps = 17;
  for (let r = 0; r < steps; r++) {
    for (let g = 0; g < steps; g++) {
      for (let b = 0; b < steps; b++) {
        const rgb = [r, g, b].map((v) => Math.round((v * 255) / (steps - 1))) as [number, number, number];
        colours.push(rgb);
        samples.push(rgbToLab({ r: rgb[0], g: rgb[1], b: rgb[2] }));
      }
    }
  }
  const chosen: number[] = [Math.floor(random() * samples.length)];
  const gap = samples.map((s) => ciede2000(s, samples[chosen[0]]));
  while (chosen.length < plan.count) {
    let far = 0;
    for (let i = 1; i < gap.length; i++) if (gap[i] > gap[far]) far = i;
    chosen.push(far);
    for (let i = 0; i < gap.length; i++) gap[i] = Math.min(gap[i], ciede2000(samples[i], samples[far]));
  }
  return nameThreads(
    plan,
    chosen.map((i) => {
      // Real threads do not reach the brightest corners of the screen's colours: a little is taken off.
      const [r, g, b] = colours[i];
      return { hex: toHex({ r: 6 + r * 0.955, g: 6 + g * 0.955, b: 6 + b * 0.955 }) };
    }),
  );
}

function nameThreads(plan: ChartPlan, threads: { hex: string }[]): ChartThread[] {
  const placed = threads.map(({ hex }) => {
    const n = parseInt(hex.slice(1), 16);
    const lab = rgbToLab({ r: n >> 16, g: (n >> 8) & 255, b: n & 255 });
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

/** Largest and mean CIEDE2000 from random colours of the screen to their nearest thread. */
export function chartGaps(threads: readonly ChartThread[], tries: number): { mean: number; worst: number } {
  const random = seededRandom(5);
  const labs = threads.map(({ hex }) => {
    const n = parseInt(hex.slice(1), 16);
    return rgbToLab({ r: n >> 16, g: (n >> 8) & 255, b: n & 255 });
  });
  let sum = 0;
  let worst = 0;
  for (let i = 0; i < tries; i++) {
    const [r, g, b] = [random(), random(), random()];
    const lab = linearToLab(r * r, g * g, b * b);
    const best = labs.reduce((least, other) => Math.min(least, ciede2000(lab, other)), Infinity);
    sum += best;
    worst = Math.max(worst, best);
  }
  return { mean: sum / tries, worst };
}

