import { METRIC, writeMetric } from '../colour/colour-metric.js';
import type { CellGrid } from './grid.js';

/** Cells are seen blurred by this much, in cells. */
const SIGMA = 1;
const REACH = 3;
const SWEEPS = 6;
/** Unlike neighbours beside a cell count once, those at its corners this much. */
const CORNER = 0.5;

/** What cells are settled by. */
export interface SettleSettings {
  /** Share of what is seen from afar in what is weighed, 0 to 1; the rest is each cell by itself. */
  readonly blend: number;
  /** What two neighbours of different threads cost, in squared CIEDE2000 of a cell. */
  readonly unlike: number;
  /** What a cell without a like neighbour costs besides. */
  readonly lonely: number;
}

/**
 * Gives each cell the thread that brings the grid nearest to the picture as it is seen from afar, cell by cell until
 * nothing is gained (iterated conditional modes, Besag 1986). Weighed are the difference of both, blurred over a cell, as
 * a quadratic form of CIEDE2000; the cells' own difference; and how many neighbours differ, since scattered cells cost
 * stitches.
 * @param mean linear r, g, b of a cell, and the share of it that is to be sewn, four numbers each
 * @param linear linear r, g, b of each thread
 * @param thread thread of each cell, -1 for a bare one; changed in place
 */
export function settleCells(
  { cols, rows }: CellGrid,
  mean: Float32Array,
  linear: readonly (readonly [number, number, number])[],
  thread: Int16Array,
  { blend, unlike, lonely }: SettleSettings,
): void {
  const count = cols * rows;
  const taps = kernel();
  const side = 2 * REACH + 1;
  const around = (i: number, act: (j: number, tap: number) => void): void => {
    const [x, y] = [i % cols, Math.floor(i / cols)];
    for (let dy = Math.max(-REACH, -y); dy <= Math.min(REACH, rows - 1 - y); dy++) {
      for (let dx = Math.max(-REACH, -x); dx <= Math.min(REACH, cols - 1 - x); dx++) {
        act(i + dy * cols + dx, taps[(dy + REACH) * side + dx + REACH]);
      }
    }
  };
  const flat = Float32Array.from(linear.flat());
  const away = (i: number, c: number): number => (thread[i] < 0 ? 0 : flat[thread[i] * 3 + c] - mean[i * 4 + c]);
  // Of every cell: the blurred difference, the metric at the blurred picture, and both multiplied.
  const seen = new Float32Array(count * 3);
  const metric = new Float32Array(count * METRIC);
  const pull = new Float32Array(count * 3);
  const wanted = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    let weight = 0;
    wanted.fill(0);
    around(i, (j, tap) => {
      weight += tap;
      for (let c = 0; c < 3; c++) {
        seen[i * 3 + c] += away(j, c) * tap;
        wanted[c] += mean[j * 4 + c] * tap;
      }
    });
    writeMetric(wanted[0] / weight, wanted[1] / weight, wanted[2] / weight, metric, i * METRIC);
    pullAt(i);
  }
  function pullAt(i: number): void {
    const [m, k] = [i * METRIC, i * 3];
    const [r, g, b] = [seen[k], seen[k + 1], seen[k + 2]];
    pull[k] = metric[m] * r + metric[m + 1] * g + metric[m + 2] * b;
    pull[k + 1] = metric[m + 1] * r + metric[m + 3] * g + metric[m + 4] * b;
    pull[k + 2] = metric[m + 2] * r + metric[m + 4] * g + metric[m + 5] * b;
  }
  // What a difference at a cell costs by itself, all it is blurred over taken together.
  const own = new Float32Array(count * METRIC);
  for (let i = 0; i < count; i++) {
    around(i, (j, tap) => {
      for (let k = 0; k < METRIC; k++) own[i * METRIC + k] += blend * tap * tap * metric[j * METRIC + k];
    });
    for (let k = 0; k < METRIC; k++) own[i * METRIC + k] += (1 - blend) * metric[i * METRIC + k];
  }
  const like = new Float32Array(linear.length);
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let changed = 0;
    for (let k = 0; k < count; k++) {
      const i = sweep % 2 === 0 ? k : count - 1 - k;
      const from = thread[i];
      if (from < 0) continue;
      let [pr, pg, pb] = [0, 0, 0];
      around(i, (j, tap) => {
        pr += pull[j * 3] * tap;
        pg += pull[j * 3 + 1] * tap;
        pb += pull[j * 3 + 2] * tap;
      });
      const m = i * METRIC;
      const [er, eg, eb] = [away(i, 0), away(i, 1), away(i, 2)];
      const rest = 1 - blend;
      // Slope of all that is weighed, at the thread there is.
      const sr = blend * pr + rest * (metric[m] * er + metric[m + 1] * eg + metric[m + 2] * eb);
      const sg = blend * pg + rest * (metric[m + 1] * er + metric[m + 3] * eg + metric[m + 4] * eb);
      const sb = blend * pb + rest * (metric[m + 2] * er + metric[m + 4] * eg + metric[m + 5] * eb);
      countLike(i);
      let best = from;
      let least = -1e-6;
      for (let t = 0; t < linear.length; t++) {
        if (t === from) continue;
        const dr = flat[t * 3] - flat[from * 3];
        const dg = flat[t * 3 + 1] - flat[from * 3 + 1];
        const db = flat[t * 3 + 2] - flat[from * 3 + 2];
        const gain =
          2 * (sr * dr + sg * dg + sb * db) +
          own[m] * dr * dr +
          own[m + 3] * dg * dg +
          own[m + 5] * db * db +
          2 * (own[m + 1] * dr * dg + own[m + 2] * dr * db + own[m + 4] * dg * db) +
          unlike * (like[from] - like[t]) +
          lonely * (Number(like[t] === 0) - Number(like[from] === 0));
        if (gain < least) [least, best] = [gain, t];
      }
      if (best === from) continue;
      thread[i] = best;
      changed++;
      around(i, (j, tap) => {
        for (let c = 0; c < 3; c++) seen[j * 3 + c] += tap * (flat[best * 3 + c] - flat[from * 3 + c]);
        pullAt(j);
      });
    }
    if (changed === 0) break;
  }
  /** How many neighbours of a cell each thread has. */
  function countLike(i: number): void {
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
  }
}

/** Blur over a cell, as a square of taps that sum to one. */
function kernel(): Float32Array {
  const line = Array.from({ length: 2 * REACH + 1 }, (_, k) => Math.exp(-((k - REACH) ** 2) / (2 * SIGMA * SIGMA)));
  const sum = line.reduce((a, b) => a + b, 0);
  return Float32Array.from(line.flatMap((a) => line.map((b) => (a * b) / (sum * sum))));
}
