import { rampFill } from '../ramp-fill.js';
import { OPTION, stitchKind } from '../stitch-kind.js';
import { tatamiWhole } from '../tatami-whole.js';

/** Rows that open along a direction, so that one thread fades into another. */
export const GRADIENT = stitchKind({
  id: 'gradient',
  name: 'Density gradient',
  hint: 'Rows that open along a direction: one thread fades into the next, or into the cloth.',
  family: 'area',
  parted: true,
  options: { spacingMm: OPTION.spacing, fillStitchMm: OPTION.mm('Stitch in rows', 1.5, 7, 4), pattern: OPTION.grain },
  sew: ({ rings, ramp }, { spacingMm, fillStitchMm, pattern }, { compensationMm, fabric }, way) => {
    // Nothing is sewn below: the threads of a gradient carry each other.
    const settings = {
      spacingMm: spacingMm * fabric.spacing,
      stitchLengthMm: fillStitchMm,
      compensationMm,
      pattern,
      ...way,
    };
    return ramp ? rampFill(rings, ramp, settings) : tatamiWhole(rings, { ...settings, angle: 0 });
  },
});
