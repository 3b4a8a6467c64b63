import { contourRows } from '../contour-rows.js';
import { fillWithRows } from '../curved-fill.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** Rows along the outline, one inside the other. */
export const CONTOUR = stitchKind({
  id: 'contour',
  name: 'Contour fill',
  hint: 'Rows along the outline, one inside the other, joined like a spiral.',
  family: 'area',
  covers: true,
  options: { spacingMm: OPTION.spacing, fillStitchMm: OPTION.fillStitch },
  sew: ({ rings }, { spacingMm, fillStitchMm }, { compensationMm, fabric }, way) => {
    const spacing = spacingMm * fabric.spacing;
    // Pull across rows along the edge is small: half of what rows that end there need.
    return fillWithRows(contourRows(rings, spacing, spacing / 2 - compensationMm / 2), rings, {
      stitchLengthMm: fillStitchMm,
      spacingMm: spacing,
      compensationMm: 0,
      ...way,
    });
  },
});
