import { STITCH, type StitchList } from './stitch-list.js';
import { stitchLength } from './figures.js';

/** How many stitches have each length. */
export interface StitchLengths {
  /** Width of a bin in mm; the last one holds what is longer as well. */
  readonly binMm: number;
  readonly counts: readonly number[];
}

/** Lengths of the stitches of a list; where the needle only begins is no stitch of a length. */
export function stitchLengthsOf(list: StitchList, binMm = 0.5, bins = 16): StitchLengths {
  const counts = Array.from({ length: bins }, () => 0);
  for (let i = 0; i < list.count; i++) {
    const length = list.command[i] === STITCH ? stitchLength(list, i) : 0;
    if (length > 0) counts[Math.min(bins - 1, Math.floor(length / binMm))]++;
  }
  return { binMm, counts };
}
