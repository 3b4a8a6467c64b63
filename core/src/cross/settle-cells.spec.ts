import { seededRandom } from '../geometry/chance.js';
import { METRIC, writeMetric } from '../colour/colour-metric.js';
import { cellGrid, type CellGrid } from './grid.js';
import { CellSettler, type SettleCosts } from './settle-cells.js';

interface Settings extends SettleCosts {
  readonly blend: number;
}

type Rgb = readonly [number, number, number];

const TAPS = [-3, -2, -1, 0, 1, 2, 3].map((k) => Math.exp((-k * k) / 2));
const SUM = TAPS.reduce((a, b) => a + b, 0);

/** What settling lessens, added up the long way. */
function weighed(
  { cols, rows }: CellGrid,
  mean: Float32Array,
  linear: readonly Rgb[],
  thread: Int16Array,
  { blend, unlike, lonely }: Settings,
): number {
  const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= cols || y >= rows ? -1 : y * cols + x);
  const away = (i: number): number[] =>
    [0, 1, 2].map((c) => (thread[i] < 0 ? 0 : linear[thread[i]][c] - mean[i * 4 + c]));
  const form = (m: Float32Array, [r, g, b]: readonly number[]): number =>
    m[0] * r * r + m[3] * g * g + m[5] * b * b + 2 * (m[1] * r * g + m[2] * r * b + m[4] * g * b);
  let sum = 0;
  for (let i = 0; i < cols * rows; i++) {
    const [x, y] = [i % cols, Math.floor(i / cols)];
    const [seen, wanted] = [
      [0, 0, 0],
      [0, 0, 0],
    ];
    let weight = 0;
    TAPS.forEach((ty, ky) =>
      TAPS.forEach((tx, kx) => {
        const j = at(x + kx - 3, y + ky - 3);
        if (j < 0) return;
        const tap = (tx * ty) / (SUM * SUM);
        weight += tap;
        away(j).forEach((v, c) => (seen[c] += v * tap));
        for (let c = 0; c < 3; c++) wanted[c] += mean[j * 4 + c] * tap;
      }),
    );
    const metric = new Float32Array(METRIC);
    writeMetric(wanted[0] / weight, wanted[1] / weight, wanted[2] / weight, metric, 0);
    sum += blend * form(metric, seen);
    if (thread[i] < 0) continue;
    sum += (1 - blend) * form(metric, away(i));
    let like = 0;
    for (const [dx, dy] of [-1, 0, 1].flatMap((v) => [-1, 0, 1].map((u) => [u, v]))) {
      const j = dx === 0 && dy === 0 ? -1 : at(x + dx, y + dy);
      if (j >= 0 && thread[j] === thread[i]) like += dx !== 0 && dy !== 0 ? 0.5 : 1;
    }
    // Either of two cells counts its like neighbour; a pair is weighed once.
    sum -= (unlike * like) / 2;
    if (like === 0) sum += lonely;
  }
  return sum;
}

describe('settled cells', () => {
  const threads: readonly Rgb[] = [
    [0.05, 0.06, 0.1],
    [0.3, 0.25, 0.2],
    [0.7, 0.65, 0.5],
    [0.4, 0.1, 0.08],
  ];

  function sample(seed: number): { grid: CellGrid; mean: Float32Array; thread: Int16Array } {
    const random = seededRandom(seed);
    const grid = cellGrid({ left: 0, top: 0, width: 11, height: 9 }, 1);
    const count = grid.cols * grid.rows;
    const mean = new Float32Array(count * 4);
    const thread = new Int16Array(count);
    for (let i = 0; i < count; i++) {
      const k = (i % grid.cols) / grid.cols;
      mean.set([0.1 + 0.5 * k, 0.1 + 0.4 * k * random(), 0.1 + 0.3 * k, 1], i * 4);
      thread[i] = random() < 0.1 ? -1 : Math.floor(random() * threads.length);
    }
    return { grid, mean, thread };
  }

  it('leave nothing that one other thread in a single cell would better', () => {
    const cases: readonly (readonly [number, Settings])[] = [
      [1, { blend: 0.96, unlike: 0, lonely: 0 }],
      [2, { blend: 0.96, unlike: 2, lonely: 0 }],
      [3, { blend: 0.5, unlike: 1, lonely: 0 }],
      [4, { blend: 0, unlike: 0, lonely: 0 }],
    ];
    for (const [seed, settings] of cases) {
      const { grid, mean, thread } = sample(seed);
      const before = weighed(grid, mean, threads, thread, settings);
      const bare = [...thread].map((t) => t < 0);
      // A call ends after some sweeps, whether or not it is done.
      const settler = new CellSettler(grid, mean, settings.blend);
      for (let k = 0; k < 10; k++) settler.settle(threads, thread, settings);
      const after = weighed(grid, mean, threads, thread, settings);
      expect(after).toBeLessThan(before);
      expect([...thread].map((t) => t < 0)).toEqual(bare);
      for (let i = 0; i < thread.length; i++) {
        if (thread[i] < 0) continue;
        for (let t = 0; t < threads.length; t++) {
          const other = thread.slice();
          other[i] = t;
          expect(weighed(grid, mean, threads, other, settings))
            .withContext(`cell ${i}, thread ${t}`)
            .toBeGreaterThan(after - 1e-3 * Math.abs(after) - 1e-3);
        }
      }
    }
  });

  it('blend two threads for a shade between them, and leave no cell alone if that costs much', () => {
    const grid = cellGrid({ left: 0, top: 0, width: 30, height: 30 }, 1);
    const mean = new Float32Array(900 * 4);
    for (let i = 0; i < 900; i++) mean.set([0.4, 0.36, 0.3, 1], i * 4);
    const shareOfLight = (settings: Settings): { light: number; alone: number } => {
      const thread = new Int16Array(900);
      new CellSettler(grid, mean, settings.blend).settle(threads.slice(1, 3), thread, settings);
      const like = (i: number): boolean =>
        [-31, -30, -29, -1, 1, 29, 30, 31].some((step) => {
          const away = Math.abs((((i % 30) + 30) % 30) - ((((i + step) % 30) + 30) % 30));
          return away <= 1 && thread[i + step] === thread[i];
        });
      return {
        light: thread.filter((t) => t === 1).length / 900,
        alone: Array.from(thread.keys()).filter((i) => !like(i)).length,
      };
    };
    // A quarter of the lighter thread mixes to the shade.
    expect(shareOfLight({ blend: 1, unlike: 0, lonely: 0 }).light).toBeCloseTo(0.25, 1);
    expect(shareOfLight({ blend: 0, unlike: 0, lonely: 0 }).light).toBe(0);
    expect(shareOfLight({ blend: 1, unlike: 2, lonely: 1000 }).alone).toBe(0);
  });
});
