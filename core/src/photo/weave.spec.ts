import { toEnd } from '../geometry/pauses.js';
import { ciede2000, linearToLab } from '../colour/ciede2000.js';
import { seededRandom } from '../geometry/chance.js';
import { METRIC, writeMetric } from '../colour/colour-metric.js';
import type { Lattice } from './lattice.js';
import { Weave } from './weave.js';

const COLS = 40;
const ROWS = 30;

function latticeOf(
  colour: (x: number, y: number) => number[],
  inside: (x: number, y: number) => boolean = () => true,
): Lattice {
  const count = COLS * ROWS;
  const lattice = {
    cols: COLS,
    rows: ROWS,
    x: new Float32Array(count),
    y: new Float32Array(count),
    pitch: 0.4,
    inside: new Uint8Array(count),
    wanted: new Float32Array(count * 3),
  };
  for (let i = 0; i < count; i++) {
    const [c, r] = [i % COLS, Math.floor(i / COLS)];
    lattice.x[i] = c * 0.4;
    lattice.y[i] = r * 0.4;
    lattice.inside[i] = inside(c, r) ? 1 : 0;
    lattice.wanted.set(colour(c / COLS, r / ROWS), i * 3);
  }
  return lattice;
}

const THREADS = Float32Array.from([0, 0, 0, 0.02, 0.02, 0.03, 0.5, 0.1, 0.05, 0.1, 0.3, 0.5, 0.9, 0.85, 0.7]);
const OPTIONS = {
  colours: THREADS,
  changeCost: 1,
  leastCells: 3,
  evenCells: 3,
  sharpness: 0.15,
  farthestBare: Infinity,
};
const CLOTH = [0.9, 0.88, 0.82] as const;

/** What is shown, mixed with a Gaussian of 1.25 cells, against what is wanted: the mean difference in CIEDE2000. */
function seenDifference(weave: Weave): number {
  const { lattice, shown } = weave;
  const kernel = Array.from({ length: 9 }, (_, k) => Math.exp(-((k - 4) ** 2) / (2 * 1.25 ** 2)));
  const mix = (values: Float32Array, c: number, r: number): [number, number, number] => {
    const sum = [0, 0, 0, 0];
    for (let dy = -4; dy <= 4; dy++) {
      for (let dx = -4; dx <= 4; dx++) {
        const [x, y] = [c + dx, r + dy];
        if (x < 0 || y < 0 || x >= COLS || y >= ROWS) continue;
        const w = kernel[dx + 4] * kernel[dy + 4];
        for (let j = 0; j < 3; j++) sum[j] += w * values[(y * COLS + x) * 3 + j];
        sum[3] += w;
      }
    }
    return [sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3]];
  };
  let total = 0;
  for (let r = 0; r < ROWS; r++) {
    for (let c = 0; c < COLS; c++) {
      total += ciede2000(linearToLab(...mix(shown, c, r)), linearToLab(...mix(lattice.wanted, c, r)));
    }
  }
  return total / (COLS * ROWS);
}

const sweep = (weave: Weave, down: boolean): void => {
  const steps = weave.sweep(down);
  while (!steps.next().done);
};

describe('the metric of colours', () => {
  it('tells small differences as CIEDE2000 does', () => {
    const random = seededRandom(4);
    const metric = new Float32Array(METRIC);
    for (let k = 0; k < 60; k++) {
      const a = [0.08 + random() * 0.8, 0.08 + random() * 0.8, 0.08 + random() * 0.8];
      const d = [0, 1, 2].map(() => (random() - 0.5) * 0.006);
      writeMetric(a[0], a[1], a[2], metric, 0);
      const [x, y, z] = d;
      const m = metric;
      const square = m[0] * x * x + m[3] * y * y + m[5] * z * z + 2 * (m[1] * x * y + m[2] * x * z + m[4] * y * z);
      const real = ciede2000(linearToLab(a[0], a[1], a[2]), linearToLab(a[0] + x, a[1] + y, a[2] + z));
      // The turn of blue and the weight of hue are left out.
      expect(Math.sqrt(square))
        .withContext(a.join())
        .toBeGreaterThan(real * 0.6);
      expect(Math.sqrt(square))
        .withContext(a.join())
        .toBeLessThan(real * 1.5 + 0.02);
    }
  });
});

describe('Weave', () => {
  const ramp = (): Lattice => latticeOf((u, v) => [0.05 + 0.7 * u, 0.08 + 0.3 * u, 0.1 + 0.3 * v]);

  it('comes nearer to the picture with its sweeps', () => {
    const weave = new Weave(ramp(), OPTIONS, CLOTH);
    toEnd(weave.begin());
    const first = seenDifference(weave);
    for (let k = 0; k < 4; k++) sweep(weave, k % 2 === 0);
    const last = seenDifference(weave);
    expect(last).toBeLessThan(first);
    expect(last).toBeLessThan(first * 0.97);
  });

  it('makes no run shorter than is allowed', () => {
    const weave = new Weave(ramp(), OPTIONS, CLOTH);
    toEnd(weave.begin());
    for (let k = 0; k < 3; k++) sweep(weave, k % 2 === 0);
    let short = 0;
    let all = 0;
    for (let r = 0; r < ROWS; r++) {
      for (let c = 0; c < COLS;) {
        let end = c + 1;
        while (end < COLS && weave.label[r * COLS + end] === weave.label[r * COLS + c]) end++;
        all++;
        if (end - c < 3 && weave.label[r * COLS + c] > 0) short++;
        c = end;
      }
    }
    // What begin leaves at the end of a row may be shorter.
    expect(short / all).toBeLessThan(0.06);
  });

  it('sews a plain picture in the one thread it is of, and leaves the cloth bare where it is the cloth', () => {
    const plain = new Weave(
      latticeOf(() => [0.1, 0.3, 0.5]),
      OPTIONS,
      CLOTH,
    );
    toEnd(plain.begin());
    sweep(plain, true);
    expect(new Set(plain.label)).toEqual(new Set([3]));
    const bare = new Weave(
      latticeOf(() => [...CLOTH]),
      OPTIONS,
      CLOTH,
    );
    toEnd(bare.begin());
    sweep(bare, true);
    expect(new Set(bare.label)).toEqual(new Set([0]));
  });

  it('never places a thread outside, nor where it is barred, nor one that is closed', () => {
    const weave = new Weave(
      latticeOf(
        (u) => [0.05 + 0.7 * u, 0.1, 0.1],
        (c) => c < 20,
      ),
      OPTIONS,
      CLOTH,
    );
    toEnd(weave.begin());
    for (let i = 0; i < COLS * ROWS; i++) weave.ban(i, 2);
    weave.enforceBans();
    weave.restrict([2, 3]);
    sweep(weave, true);
    sweep(weave, false);
    weave.label.forEach((label, i) => {
      if (i % COLS >= 20) expect(label).toBe(0);
      expect(label).not.toBe(2);
    });
  });

  it('leaves no cloth bare that is far from the picture, and lets it be again where something lies', () => {
    // A little lighter than the thread: left alone, specks of cloth would make up for what is too dark.
    const blue = latticeOf(() => [0.2, 0.37, 0.54]);
    const light = latticeOf(() => [0.45, 0.56, 0.65]);
    const woven = (farthestBare: number, lattice = blue): Weave => {
      const colours = Float32Array.from([0, 0, 0, 0.1, 0.3, 0.5]);
      const weave = new Weave(lattice, { ...OPTIONS, colours, farthestBare }, CLOTH);
      toEnd(weave.begin());
      for (const down of [true, false, true]) sweep(weave, down);
      return weave;
    };
    expect(woven(Infinity).label.filter((label) => label === 0).length).toBeGreaterThan(20);
    // Where no thread is near, cloth is one of the colours that mix.
    expect(woven(25, light).label.filter((label) => label === 0).length).toBeGreaterThan(20);
    const full = woven(25);
    expect(new Set(full.label)).toEqual(new Set([1]));
    full.drop([5, 6, 7]);
    full.measure();
    sweep(full, true);
    expect([...full.label.subarray(5, 8)]).toEqual([1, 1, 1]);
    // What is sewn may show, whatever its colour.
    full.settle(1);
    full.restrict([]);
    sweep(full, true);
    expect(new Set(full.label)).toEqual(new Set([0]));
  });

  it('tells where the picture is even along its rows', () => {
    const weave = new Weave(
      latticeOf((u) => (u < 0.5 ? [0.3, 0.3, 0.3] : [0.3 + 0.6 * (u - 0.5), 0.3, 0.3])),
      { ...OPTIONS, evenCells: 10 },
      CLOTH,
    );
    expect(weave.evenness(4)).toBe(1);
    expect(weave.evenness(COLS - 8)).toBeLessThan(1);
    expect(new Weave(ramp(), OPTIONS, CLOTH).evenness(4)).toBe(0);
  });

  it('takes what was sewn as what lies below', () => {
    const weave = new Weave(
      latticeOf(() => [0.1, 0.3, 0.5]),
      OPTIONS,
      CLOTH,
    );
    toEnd(weave.begin());
    weave.settle(3);
    expect(new Set(weave.label)).toEqual(new Set([0]));
    expect(weave.base[1]).toBeCloseTo(0.3, 5);
    weave.stain(7, 1, 0.5);
    expect(weave.shown[7 * 3]).toBeCloseTo((0.1 + 0.02) / 2, 5);
  });

  it('begins with lines as long as they are to be at least, so that a mixed area has few shorter ones', () => {
    const even = latticeOf(() => [0.3, 0.3, 0.27]);
    const lengths = (evenCells: number): number[] => {
      const weave = new Weave(even, { ...OPTIONS, evenCells }, CLOTH);
      toEnd(weave.begin());
      for (const down of [true, false, true]) toEnd(weave.sweep(down));
      const out: number[] = [];
      for (let r = 0; r < ROWS; r++) {
        for (let c = 0, from = 0; c < COLS; c++) {
          const next = c + 1 < COLS ? weave.label[r * COLS + c + 1] : -1;
          if (next === weave.label[r * COLS + c]) continue;
          // The first of a row may be shorter, and what is left over at its end.
          if (from > 0 && c + 1 < COLS) out.push(c + 1 - from);
          from = c + 1;
        }
      }
      return out;
    };
    const shorter = (all: number[]): number => all.filter((n) => n < 10).length / all.length;
    expect(shorter(lengths(10))).toBeLessThan(shorter(lengths(3)) * 0.7);
  });

  it('lays no dash of a strange thread in an even area, where another is as near as can be', () => {
    // A little darker than the red thread: dashes of the dark one would mix to it, and be seen.
    const even = latticeOf(() => [0.455, 0.092, 0.0468]);
    const weave = new Weave(even, { ...OPTIONS, evenCells: 18, changeCost: 0, sharpness: 0 }, CLOTH);
    for (const done of weave.begin()) expect(done).toBeLessThan(1);
    for (let k = 0; k < 4; k++) for (const done of weave.sweep(k % 2 === 0)) expect(done).toBeLessThan(1);
    expect(new Set(weave.label)).toEqual(new Set([2]));
    // A number of its own changes nothing of that.
    weave.twin(1);
    weave.restrict([1, 2, 3, 4, 5]);
    for (const done of weave.sweep(true)) expect(done).toBeLessThan(1);
    expect(new Set(weave.label)).toEqual(new Set([2]));
  });
});
