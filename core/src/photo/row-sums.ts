import { METRIC } from '../colour/colour-metric.js';
import type { Lattice } from './lattice.js';
import { KERNEL, REACH } from './soft-colours.js';

/** Numbers a column: gradient r, g, b; what is shown times the gradient; what is shown r, g, b. */
export const SUMS = 7;

/** What the sums are made of; all arrays are read when a column is summed. */
export interface RowSources {
  readonly lattice: Lattice;
  /** M times the blurred difference, three numbers a cell. */
  readonly pull: Float32Array;
  readonly shown: Float32Array;
  readonly metric: Float32Array;
  /** Weight of the difference of each cell by itself. */
  readonly sharp: Float32Array;
}

/**
 * Prefix sums along one row of the gradient of the energy and of what is shown. A column is computed when somebody asks
 * for sums beyond it, and again only where something changed: sweeps look at few windows of a row that was swept before.
 */
export class RowSums {
  /** From `SUMS * column` on: the sums of all columns before it. True up to the column that was asked for. */
  readonly sums: Float64Array;
  /** The pull mixed down the columns, and the gradient of every column. */
  private readonly down: Float64Array;
  private readonly gradient: Float64Array;
  private readonly hasDown: Uint8Array;
  private readonly hasGradient: Uint8Array;
  private row = 0;
  private valid = 0;

  constructor(private readonly sources: RowSources) {
    const { cols } = sources.lattice;
    this.sums = new Float64Array((cols + 1) * SUMS);
    this.down = new Float64Array(cols * 3);
    this.gradient = new Float64Array(cols * 3);
    this.hasDown = new Uint8Array(cols);
    this.hasGradient = new Uint8Array(cols);
  }

  /** Another row, or the same after anything may have changed. */
  begin(row: number): void {
    this.row = row;
    this.valid = 0;
    this.hasDown.fill(0);
    this.hasGradient.fill(0);
  }

  /** The pull changed in these columns, what is shown within them. */
  changed(from: number, to: number): void {
    const { cols } = this.sources.lattice;
    const left = Math.max(0, from - REACH);
    this.hasDown.fill(0, Math.max(0, from), Math.min(cols, to + 1));
    this.hasGradient.fill(0, left, Math.min(cols, to + 1 + REACH));
    if (left < this.valid) this.valid = left;
  }

  /** Makes the sums true for all columns before one. */
  upTo(end: number): void {
    if (end <= this.valid) return;
    const { sums, gradient, hasGradient } = this;
    const { lattice, shown } = this.sources;
    const from = this.row * lattice.cols;
    for (let c = this.valid; c < end; c++) {
      if (hasGradient[c] === 0) this.gradientAt(c);
      const g0 = gradient[c * 3];
      const g1 = gradient[c * 3 + 1];
      const g2 = gradient[c * 3 + 2];
      const i = (from + c) * 3;
      const s0 = shown[i];
      const s1 = shown[i + 1];
      const s2 = shown[i + 2];
      const o = c * SUMS;
      sums[o + 7] = sums[o] + g0;
      sums[o + 8] = sums[o + 1] + g1;
      sums[o + 9] = sums[o + 2] + g2;
      sums[o + 10] = sums[o + 3] + g0 * s0 + g1 * s1 + g2 * s2;
      sums[o + 11] = sums[o + 4] + s0;
      sums[o + 12] = sums[o + 5] + s1;
      sums[o + 13] = sums[o + 6] + s2;
    }
    this.valid = end;
  }

  private downAt(c: number): void {
    const { cols, rows } = this.sources.lattice;
    const { pull } = this.sources;
    const low = Math.max(-REACH, -this.row);
    const high = Math.min(REACH, rows - 1 - this.row);
    let a0 = 0;
    let a1 = 0;
    let a2 = 0;
    let at = ((this.row + low) * cols + c) * 3;
    const step = cols * 3;
    for (let k = low; k <= high; k++) {
      const g = KERNEL[k + REACH];
      a0 += g * pull[at];
      a1 += g * pull[at + 1];
      a2 += g * pull[at + 2];
      at += step;
    }
    this.down[c * 3] = a0;
    this.down[c * 3 + 1] = a1;
    this.down[c * 3 + 2] = a2;
    this.hasDown[c] = 1;
  }

  private gradientAt(c: number): void {
    const { lattice, shown, sharp, metric } = this.sources;
    const { cols, inside, wanted } = lattice;
    const { down, hasDown, gradient } = this;
    let g0 = 0;
    let g1 = 0;
    let g2 = 0;
    const low = Math.max(0, c - REACH);
    const high = Math.min(cols - 1, c + REACH);
    for (let x = low; x <= high; x++) {
      if (hasDown[x] === 0) this.downAt(x);
      const w = KERNEL[x - c + REACH];
      g0 += w * down[x * 3];
      g1 += w * down[x * 3 + 1];
      g2 += w * down[x * 3 + 2];
    }
    const i = this.row * cols + c;
    if (inside[i]) {
      const s = sharp[i];
      const k = i * METRIC;
      const d0 = shown[i * 3] - wanted[i * 3];
      const d1 = shown[i * 3 + 1] - wanted[i * 3 + 1];
      const d2 = shown[i * 3 + 2] - wanted[i * 3 + 2];
      g0 += s * (metric[k] * d0 + metric[k + 1] * d1 + metric[k + 2] * d2);
      g1 += s * (metric[k + 1] * d0 + metric[k + 3] * d1 + metric[k + 4] * d2);
      g2 += s * (metric[k + 2] * d0 + metric[k + 4] * d1 + metric[k + 5] * d2);
    }
    gradient[c * 3] = g0;
    gradient[c * 3 + 1] = g1;
    gradient[c * 3 + 2] = g2;
    this.hasGradient[c] = 1;
  }
}
