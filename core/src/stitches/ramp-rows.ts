import { shareAt, type Ramp } from '../geometry/ramp.js';

/** Rows that are left out still take this much of one: the way back has to find its place. */
const LEFT_OUT = 1e-3;
const STEP_MM = 0.1;
/** Rows that lie side by side where nearly everything is covered. */
const BUNDLE = 2;
/** Share from which on they do: what is bare between two bundles is then narrower than a row, by a third. */
const DENSE = 0.75;
/** Less than this between two bundles shows nothing of what lies below. */
const SHOWS_MM = 0.02;

/** Where across the way nothing but rows of one thread is seen. */
export interface Band {
  readonly from: number;
  readonly to: number;
}

/**
 * Places at which the rows of a linear ramp lie, in mm from the start of its way: wherever the integral of the share, plus a
 * half, passes a whole number.
 * @param length of the way in mm
 */
export function rampRows(ramp: Ramp, length: number, spacing: number, top: number, bottom: number): number[] {
  if (ramp.rows === 'lattice') return latticeRows(ramp, length, spacing, top, bottom);
  const scale = new RowScale(ramp.cover, length, spacing, bottom);
  const within = (y: number): boolean => y > top && y < bottom;
  const bands = ramp.rows === 'bundled' ? bundles(ramp.cover, length, spacing, top, bottom) : [];
  const rows: number[] = [];
  let next = 0;
  for (let row = Math.ceil(scale.to(top) - 0.5); row + 0.5 < scale.to(bottom); row++) {
    const y = scale.from(row + 0.5);
    while (next < bands.length && bands[next].to < y) next++;
    if (!(bands[next]?.from <= y)) rows.push(y);
  }
  for (const { from } of bands) for (let k = 0; k < BUNDLE; k++) rows.push(from + (k + 0.5) * spacing);
  return rows.filter(within).sort((a, b) => a - b);
}

/**
 * Bands in which the rows of a thread that covers nearly everything lie side by side, so that what shows between them of the
 * thread below is gathered, and the rest of that thread can be left out.
 */
export function bundles(
  cover: readonly number[],
  length: number,
  spacing: number,
  top: number,
  bottom: number,
): readonly Band[] {
  const scale = new RowScale(cover, length, spacing, bottom);
  const out: Band[] = [];
  for (let k = Math.floor(scale.to(top) / BUNDLE); k * BUNDLE < scale.to(bottom); k++) {
    const middle = (scale.from(k * BUNDLE) + scale.from((k + 1) * BUNDLE)) / 2;
    const half = (BUNDLE * spacing) / 2;
    if (shareAt(cover, middle / length) >= DENSE) out.push({ from: middle - half, to: middle + half });
  }
  return out;
}

/** Rows of the thread below that show between bundles. */
export function rowsBetween(bands: readonly Band[], spacing: number): number[] {
  return bands.flatMap(({ to }, k) => {
    const gap = (bands[k + 1]?.from ?? Infinity) - to;
    return gap < SHOWS_MM || gap > spacing ? [] : [to + gap / 2];
  });
}

/** From places along the way to the number of rows before them, and back; counted from the start of the way. */
class RowScale {
  private readonly rows: Float64Array;
  private readonly first: number;

  constructor(cover: readonly number[], length: number, spacing: number, bottom: number) {
    const count = Math.max(1, Math.ceil(Math.max(bottom, length) / STEP_MM) + 1);
    this.rows = new Float64Array(count + 1);
    const grown = (share: number): number => Math.max(LEFT_OUT, share) * (STEP_MM / spacing);
    // Before the way the first share holds.
    this.first = grown(cover[0]);
    for (let k = 0; k < count; k++) {
      this.rows[k + 1] = this.rows[k] + grown(shareAt(cover, ((k + 0.5) * STEP_MM) / length));
    }
  }

  to(y: number): number {
    if (y < 0) return (y / STEP_MM) * this.first;
    const k = Math.min(this.rows.length - 2, Math.floor(y / STEP_MM));
    return this.rows[k] + (this.rows[k + 1] - this.rows[k]) * (y / STEP_MM - k);
  }

  from(row: number): number {
    if (row < 0) return (row / this.first) * STEP_MM;
    let low = 0;
    let high = this.rows.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.rows[middle] <= row) low = middle;
      else high = middle;
    }
    return (low + (row - this.rows[low]) / (this.rows[high] - this.rows[low])) * STEP_MM;
  }
}

/** Rows of an even lattice that a thread gets: those its share takes, but not those the threads over it take. */
function latticeRows(ramp: Ramp, length: number, spacing: number, top: number, bottom: number): number[] {
  const first = Math.floor(top / spacing);
  const count = Math.ceil(bottom / spacing) - first;
  const taken = (list: readonly number[]): ((row: number) => boolean) => {
    // Counted from the start of the way, so that two threads agree.
    const from = Math.min(0, first);
    const sums = new Float64Array(Math.max(1, first + count - from + 1));
    for (let k = 1; k < sums.length; k++) {
      sums[k] = sums[k - 1] + shareAt(list, ((from + k - 0.5) * spacing) / length);
    }
    return (row) => Math.floor(sums[row - from + 1] + 0.5) > Math.floor(sums[row - from] + 0.5);
  };
  const own = taken(ramp.cover);
  const others = (ramp.over ?? []).map(taken);
  const out: number[] = [];
  for (let row = first; row < first + count; row++) {
    const y = (row + 0.5) * spacing;
    if (y > top && y < bottom && own(row) && !others.some((other) => other(row))) out.push(y);
  }
  return out;
}
