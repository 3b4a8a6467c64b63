/** How much of a fill's rows is sewn from place to place. */
export interface Ramp {
  readonly shape: 'linear' | 'radial';
  /** Of a linear one start and end in mm; of a radial one the middle, and a point where it ends. */
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  /** Share of a solid fill at evenly spaced places from start to end; before and beyond, the first and the last hold. */
  readonly cover: readonly number[];
  /**
   * How rows of a linear ramp lie: by themselves; in bundles where nearly everything is covered, so that rows of the thread
   * below can be left out there; or, in one layer, on a lattice that all threads share.
   */
  readonly rows: 'even' | 'bundled' | 'lattice';
  /** Shares of the threads sewn over this one, under whose rows its own are left out; none where it lies below everywhere. */
  readonly over?: readonly (readonly number[])[];
  /** Places, as shares of the way, between which there are any rows. */
  readonly from: number;
  readonly to: number;
}

/** A list of shares at a place, in between the two nearest. */
export function shareAt(list: readonly number[], t: number): number {
  const at = Math.min(1, Math.max(0, t)) * (list.length - 1);
  const k = Math.min(list.length - 2, Math.floor(at));
  return list[k] + (list[k + 1] - list[k]) * (at - k);
}

/** Length of the way in mm. */
export const lengthOfRamp = ({ x1, y1, x2, y2 }: Ramp): number =>
  Math.max(0.1, Math.sqrt((x2 - x1) ** 2 + (y2 - y1) ** 2));

/**
 * Order in which five rows beside each other are left out: no two neighbours follow each other. Of more rows the last one
 * that is left lies so far from the next that it stands out; of fewer, the steps between shares do.
 */
const ORDER = [0, 3, 1, 4, 2];

/** Share from which on a row of a radial ramp is sewn. */
export const thresholdOf = (row: number): number => {
  const n = ORDER.length;
  return (ORDER[((row % n) + n) % n] + 0.5) / n;
};
