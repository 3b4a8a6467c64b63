import { METRIC, squaredBy } from '../../colour/colour-metric.js';

/** What a share of ink costs by itself: thread that helps nothing is not sewn. */
const PER_INK = 2;
const PER_SHARE = 0.5;
/** Layers at one place beyond what was asked for cost this, squared. */
const TOO_MUCH = 400;
/** Rows of a thread that differs much from what it lies on are seen as stripes. */
const STRIPES = 0.001;
/** A row is at least one line of thread, which lies as wide as this in the open. */
const LEAST_WIDTH_MM = 0.42;

/** Inks that may be laid over a ground, one over the other in their order. */
export interface Inks {
  /** Linear r, g, b, three numbers an ink. */
  readonly colours: Float32Array;
  /** Layers at one place at most. */
  readonly most: number;
  /** Least share that rows of an ink cover where it is sewn at all. */
  readonly least: number;
}

/** Least share rows of a distance can cover. */
export const leastShare = (spacingMm: number): number => Math.min(0.9, LEAST_WIDTH_MM / spacingMm);

/**
 * Finds how much of each ink of a set comes nearest to a colour. With all but one held, what is seen is linear in that one:
 * they are set by turns.
 */
export class InkMixer {
  /** Shares of all inks; 0 of those that are not in the set. */
  readonly shares: Float64Array;
  private readonly count: number;
  /** Colours below each ink. */
  private readonly below: Float64Array;

  constructor(private readonly inks: Inks) {
    this.count = inks.colours.length / 3;
    this.shares = new Float64Array(this.count);
    this.below = new Float64Array((this.count + 1) * 3);
  }

  /**
   * Sets the shares and returns their cost.
   * @param set inks that may be used, one bit each
   * @param ground linear r, g, b below, from `at` on
   */
  solve(
    set: number,
    ground: Float32Array,
    wanted: Float32Array,
    at: number,
    metric: Float32Array,
    sweeps: number,
  ): number {
    const { shares, below, count } = this;
    const { colours, most, least } = this.inks;
    const m = (at / 3) * METRIC;
    for (let k = 0; k < count; k++) shares[k] = (set >> k) & 1 ? least : 0;
    below[0] = ground[at];
    below[1] = ground[at + 1];
    below[2] = ground[at + 2];
    const layUpTo = (end: number, from: number): void => {
      for (let k = from; k < end; k++) {
        const c = shares[k];
        const o = k * 3;
        below[o + 3] = below[o] + c * (colours[o] - below[o]);
        below[o + 4] = below[o + 1] + c * (colours[o + 1] - below[o + 1]);
        below[o + 5] = below[o + 2] + c * (colours[o + 2] - below[o + 2]);
      }
    };
    layUpTo(count, 0);
    const end = count * 3;
    for (let sweep = 0; sweep < sweeps; sweep++) {
      let moved = 0;
      for (let k = 0; k < count; k++) {
        if (!((set >> k) & 1)) continue;
        let through = 1;
        for (let j = k + 1; j < count; j++) through *= 1 - shares[j];
        const o = k * 3;
        // What is seen is a + c b.
        const b0 = through * (colours[o] - below[o]);
        const b1 = through * (colours[o + 1] - below[o + 1]);
        const b2 = through * (colours[o + 2] - below[o + 2]);
        const c = shares[k];
        const a0 = below[end] - c * b0 - wanted[at];
        const a1 = below[end + 1] - c * b1 - wanted[at + 1];
        const a2 = below[end + 2] - c * b2 - wanted[at + 2];
        const square = squaredBy(metric, m, b0, b1, b2);
        const cross =
          metric[m] * b0 * a0 +
          metric[m + 3] * b1 * a1 +
          metric[m + 5] * b2 * a2 +
          metric[m + 1] * (b0 * a1 + b1 * a0) +
          metric[m + 2] * (b0 * a2 + b2 * a0) +
          metric[m + 4] * (b1 * a2 + b2 * a1);
        const best = square > 1e-9 ? -(cross + PER_SHARE / 2) / square : least;
        const now = best < least ? least : best > 1 ? 1 : best;
        moved += Math.abs(now - c);
        shares[k] = now;
        layUpTo(count, k);
      }
      if (moved < 0.004) break;
    }
    let sum = 0;
    let stripes = 0;
    let used = 0;
    for (let k = 0; k < count; k++) {
      const c = shares[k];
      if (c === 0) continue;
      used++;
      sum += c;
      const o = k * 3;
      stripes +=
        c *
        (1 - c) *
        squaredBy(metric, m, colours[o] - below[o], colours[o + 1] - below[o + 1], colours[o + 2] - below[o + 2]);
    }
    const over = Math.max(0, sum - most);
    const square = squaredBy(
      metric,
      m,
      below[end] - wanted[at],
      below[end + 1] - wanted[at + 1],
      below[end + 2] - wanted[at + 2],
    );
    return square + PER_SHARE * sum + PER_INK * used + TOO_MUCH * over * over + STRIPES * stripes;
  }
}
