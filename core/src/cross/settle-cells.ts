import { METRIC, squaredBy, writeMetric } from '../colour/colour-metric.js';
import type { CellGrid } from './grid.js';

/** Cells are seen blurred by this much, in cells. */
const SIGMA = 1;
const REACH = 3;
/** Sweeps over all cells, at most. */
const SWEEPS = 6;
/** Unlike neighbours beside a cell count once, those at its corners this much. */
const CORNER = 0.5;

/** What neighbours cost while cells are settled; squared CIEDE2000. */
export interface SettleCosts {
  /** Two neighbours of different threads. */
  readonly unlike: number;
  /** A cell without a like neighbour, besides. */
  readonly lonely: number;
}

/**
 * Gives each cell of a picture the thread that brings the grid nearest to it as it is seen from afar, cell by cell until
 * nothing is gained (iterated conditional modes, Besag 1986). Weighed are the difference of both, blurred over a cell, as
 * a quadratic form of CIEDE2000; the cells' own difference; and how many neighbours differ, since scattered cells cost
 * stitches.
 */
export class CellSettler {
  private readonly count: number;
  /** Metric at the blurred picture, and what a difference at a cell costs by itself, all it is blurred over together. */
  private readonly metric: Float32Array;
  private readonly own: Float32Array;
  /** Blurred difference, and the metric times it. */
  private readonly seen: Float32Array;
  private readonly pull: Float32Array;
  private readonly across: Float32Array;
  /** Cells around which something has changed since they were looked at: the others would choose as before. */
  private readonly stale: Uint8Array;

  /**
   * @param mean linear r, g, b of a cell, and the share of it that is to be sewn, four numbers each
   * @param blend share of what is seen from afar in what is weighed, 0 to 1; the rest is each cell by itself
   */
  constructor(
    private readonly grid: Pick<CellGrid, 'cols' | 'rows'>,
    private readonly mean: Float32Array,
    private readonly blend: number,
  ) {
    this.count = grid.cols * grid.rows;
    this.metric = new Float32Array(this.count * METRIC);
    this.own = new Float32Array(this.count * METRIC);
    this.seen = new Float32Array(this.count * 3);
    this.pull = new Float32Array(this.count * 3);
    this.across = new Float32Array(this.count * 3);
    this.stale = new Uint8Array(this.count);
    const wanted = [0, 0, 0];
    for (let i = 0; i < this.count; i++) {
      let weight = 0;
      wanted.fill(0);
      this.around(i, (j, tap) => {
        weight += tap;
        for (let c = 0; c < 3; c++) wanted[c] += mean[j * 4 + c] * tap;
      });
      writeMetric(wanted[0] / weight, wanted[1] / weight, wanted[2] / weight, this.metric, i * METRIC);
    }
    for (let i = 0; i < this.count; i++) {
      this.around(i, (j, tap) => {
        for (let k = 0; k < METRIC; k++) this.own[i * METRIC + k] += blend * tap * tap * this.metric[j * METRIC + k];
      });
      for (let k = 0; k < METRIC; k++) this.own[i * METRIC + k] += (1 - blend) * this.metric[i * METRIC + k];
    }
  }

  /**
   * @param linear linear r, g, b of each thread
   * @param thread thread of each cell, -1 for a bare one; changed in place
   * @returns root of the blurred difference, squared CIEDE2000, in the mean over the cells
   */
  settle(linear: readonly (readonly number[])[], thread: Int16Array, costs: SettleCosts, sweeps = SWEEPS): number {
    const flat = Float32Array.from(linear.flat());
    this.look(flat, thread);
    const { stale } = this;
    stale.fill(1);
    for (let sweep = 0; sweep < sweeps; sweep++) {
      let changed = 0;
      for (let k = 0; k < this.count; k++) {
        const i = sweep % 2 === 0 ? k : this.count - 1 - k;
        const from = thread[i];
        if (from < 0 || stale[i] === 0) continue;
        stale[i] = 0;
        const to = this.bestAt(i, flat, thread, costs);
        if (to === from) continue;
        thread[i] = to;
        changed++;
        this.markAround(i);
        const [dr, dg, db] = [0, 1, 2].map((c) => flat[to * 3 + c] - flat[from * 3 + c]);
        this.around(i, (j, tap) => {
          this.seen[j * 3] += tap * dr;
          this.seen[j * 3 + 1] += tap * dg;
          this.seen[j * 3 + 2] += tap * db;
          this.pullAt(j);
        });
      }
      if (changed === 0) break;
    }
    let sum = 0;
    for (let i = 0; i < this.count * 3; i += 3) {
      const squared =
        this.seen[i] * this.pull[i] + this.seen[i + 1] * this.pull[i + 1] + this.seen[i + 2] * this.pull[i + 2];
      sum += Math.sqrt(Math.max(0, squared));
    }
    return sum / this.count;
  }

  /** What a cell would choose depends on what is seen within reach, which depends on cells within reach of that. */
  private markAround(i: number): void {
    const { cols, rows } = this.grid;
    const [x, y] = [i % cols, Math.floor(i / cols)];
    const left = Math.max(0, x - 2 * REACH);
    const right = Math.min(cols, x + 2 * REACH + 1);
    for (let row = Math.max(0, y - 2 * REACH); row <= Math.min(rows - 1, y + 2 * REACH); row++) {
      this.stale.fill(1, row * cols + left, row * cols + right);
    }
  }

  /** How far a colour is from every cell, about CIEDE2000. */
  distances(colour: readonly number[]): Float32Array {
    const { metric, mean } = this;
    return Float32Array.from({ length: this.count }, (_, i) => {
      const [r, g, b] = [colour[0] - mean[i * 4], colour[1] - mean[i * 4 + 1], colour[2] - mean[i * 4 + 2]];
      return Math.sqrt(squaredBy(metric, i * METRIC, r, g, b));
    });
  }

  /** What is seen of some threads: their differences blurred along the rows, then down the columns. */
  private look(flat: Float32Array, thread: Int16Array): void {
    const { seen, mean, across, count } = this;
    const { cols } = this.grid;
    across.fill(0);
    seen.fill(0);
    for (let i = 0; i < count; i++) {
      const t = thread[i] * 3;
      if (t < 0) continue;
      const dr = flat[t] - mean[i * 4];
      const dg = flat[t + 1] - mean[i * 4 + 1];
      const db = flat[t + 2] - mean[i * 4 + 2];
      const x = i % cols;
      for (let k = Math.max(-REACH, -x); k <= Math.min(REACH, cols - 1 - x); k++) {
        const j = (i + k) * 3;
        across[j] += LINE[k + REACH] * dr;
        across[j + 1] += LINE[k + REACH] * dg;
        across[j + 2] += LINE[k + REACH] * db;
      }
    }
    for (let k = -REACH; k <= REACH; k++) {
      const shift = k * cols * 3;
      for (let j = Math.max(0, -shift); j < Math.min(count * 3, count * 3 - shift); j++) {
        seen[j + shift] += LINE[k + REACH] * across[j];
      }
    }
    for (let i = 0; i < count; i++) this.pullAt(i);
  }

  /** The thread that lessens what is weighed most, at a cell. */
  private bestAt(i: number, flat: Float32Array, thread: Int16Array, { unlike, lonely }: SettleCosts): number {
    const { metric, own, mean, blend, pull } = this;
    const from = thread[i];
    const m = i * METRIC;
    // Written out without a call for each tap: most of the time goes here.
    const { cols, rows } = this.grid;
    const [x, y] = [i % cols, Math.floor(i / cols)];
    const [left, right] = [Math.max(-REACH, -x), Math.min(REACH, cols - 1 - x)];
    let [pr, pg, pb] = [0, 0, 0];
    for (let dy = Math.max(-REACH, -y); dy <= Math.min(REACH, rows - 1 - y); dy++) {
      let tap = (dy + REACH) * SIDE + left + REACH;
      let j = (i + dy * cols + left) * 3;
      for (let dx = left; dx <= right; dx++, tap++, j += 3) {
        const weight = TAPS[tap];
        pr += pull[j] * weight;
        pg += pull[j + 1] * weight;
        pb += pull[j + 2] * weight;
      }
    }
    const [fr, fg, fb] = [flat[from * 3], flat[from * 3 + 1], flat[from * 3 + 2]];
    const [er, eg, eb] = [fr - mean[i * 4], fg - mean[i * 4 + 1], fb - mean[i * 4 + 2]];
    const rest = 1 - blend;
    // Slope of all that is weighed, at the thread there is.
    const sr = blend * pr + rest * (metric[m] * er + metric[m + 1] * eg + metric[m + 2] * eb);
    const sg = blend * pg + rest * (metric[m + 1] * er + metric[m + 3] * eg + metric[m + 4] * eb);
    const sb = blend * pb + rest * (metric[m + 2] * er + metric[m + 4] * eg + metric[m + 5] * eb);
    const like = this.likeAround(i, thread, flat.length / 3);
    let best = from;
    let least = -1e-6;
    for (let t = 0; t < like.length; t++) {
      if (t === from) continue;
      const dr = flat[t * 3] - fr;
      const dg = flat[t * 3 + 1] - fg;
      const db = flat[t * 3 + 2] - fb;
      const change =
        2 * (sr * dr + sg * dg + sb * db) +
        own[m] * dr * dr +
        own[m + 3] * dg * dg +
        own[m + 5] * db * db +
        2 * (own[m + 1] * dr * dg + own[m + 2] * dr * db + own[m + 4] * dg * db) +
        unlike * (like[from] - like[t]) +
        lonely * (Number(like[t] === 0) - Number(like[from] === 0));
      if (change < least) [least, best] = [change, t];
    }
    return best;
  }

  /** How many neighbours of a cell each thread has. */
  private likeAround(i: number, thread: Int16Array, threads: number): Float32Array {
    const { cols, rows } = this.grid;
    if (this.like.length !== threads) this.like = new Float32Array(threads);
    const { like } = this;
    like.fill(0);
    const [x, y] = [i % cols, Math.floor(i / cols)];
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const inside = x + dx >= 0 && x + dx < cols && y + dy >= 0 && y + dy < rows;
        if ((dx === 0 && dy === 0) || !inside) continue;
        const t = thread[i + dy * cols + dx];
        if (t >= 0) like[t] += dx !== 0 && dy !== 0 ? CORNER : 1;
      }
    }
    return like;
  }
  private like = new Float32Array(0);

  private pullAt(i: number): void {
    const { metric, seen, pull } = this;
    const [m, k] = [i * METRIC, i * 3];
    const [r, g, b] = [seen[k], seen[k + 1], seen[k + 2]];
    pull[k] = metric[m] * r + metric[m + 1] * g + metric[m + 2] * b;
    pull[k + 1] = metric[m + 1] * r + metric[m + 3] * g + metric[m + 4] * b;
    pull[k + 2] = metric[m + 2] * r + metric[m + 4] * g + metric[m + 5] * b;
  }

  /** Does something with each cell a cell is blurred over, and with the share that falls there. */
  private around(i: number, act: (j: number, tap: number) => void): void {
    const { cols, rows } = this.grid;
    const [x, y] = [i % cols, Math.floor(i / cols)];
    for (let dy = Math.max(-REACH, -y); dy <= Math.min(REACH, rows - 1 - y); dy++) {
      for (let dx = Math.max(-REACH, -x); dx <= Math.min(REACH, cols - 1 - x); dx++) {
        act(i + dy * cols + dx, TAPS[(dy + REACH) * SIDE + dx + REACH]);
      }
    }
  }
}

const SIDE = 2 * REACH + 1;
/** Blur over a cell: taps along a line that sum to one, and those of the square. */
const LINE = kernel();
const TAPS = Float32Array.from({ length: SIDE * SIDE }, (_, k) => LINE[Math.floor(k / SIDE)] * LINE[k % SIDE]);

function kernel(): Float32Array {
  const line = Float32Array.from({ length: SIDE }, (_, k) => Math.exp(-((k - REACH) ** 2) / (2 * SIGMA * SIGMA)));
  const sum = line.reduce((a, b) => a + b, 0);
  return line.map((tap) => tap / sum);
}
