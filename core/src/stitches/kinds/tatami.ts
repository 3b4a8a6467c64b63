import { OPTION, stitchKind } from '../stitch-kind.js';
import { fillUnderlayOf } from '../underlay.js';
import { tatamiWhole } from '../tatami-whole.js';

/** Level rows, the usual fill. */
export const TATAMI = stitchKind({
  id: 'tatami',
  name: 'Tatami fill',
  hint: 'Even rows with the needle points offset from row to row: for everything wide.',
  family: 'area',
  covers: true,
  options: {
    spacingMm: OPTION.spacing,
    fillStitchMm: OPTION.fillStitch,
    angle: OPTION.angle,
    pattern: OPTION.grain,
  },
  sew: ({ rings }, { spacingMm, fillStitchMm, angle, pattern }, { compensationMm, pullAt, underlay, fabric }, way) =>
    tatamiWhole(rings, {
      angle,
      spacingMm: spacingMm * fabric.spacing,
      stitchLengthMm: fillStitchMm,
      compensationMm,
      pullAt,
      pattern,
      underlay: fillUnderlayOf(underlay, fabric),
      ...way,
    }),
});
