import { lengthOf } from '../../geometry/polyline.js';
import { fillWithRows } from '../curved-fill.js';
import { curvedRows } from '../curved-rows.js';
import { guideField, slopeAt } from '../guide-field.js';
import { middleLine } from '../middle-line.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** Every other row is left out where rows lie nearer than this share of the spacing. */
const CROWDED = 0.6;

/** Rows that follow lines drawn by the user. */
export const TURNING = stitchKind({
  id: 'turning',
  name: 'Turning fill',
  hint: 'Rows that follow guide lines, or the middle of the shape where none is drawn.',
  family: 'area',
  covers: true,
  guided: true,
  options: {
    spacingMm: OPTION.spacing,
    fillStitchMm: OPTION.fillStitch,
    pattern: OPTION.grain,
  },
  sew: ({ rings, guides, middle }, { spacingMm, fillStitchMm, pattern }, { compensationMm, fabric }, way) => {
    const spacing = spacingMm * fabric.spacing;
    const drawn = guides.filter((line) => lengthOf(line) > 0.5);
    const lines = drawn.length > 0 ? drawn : [middleLine(rings, middle)];
    const field = guideField(rings, lines, spacing);
    const isKept = (row: number, x: number, y: number): boolean =>
      row % 2 === 0 || slopeAt(field, x, y) * spacing < 1 / CROWDED;
    const rows = curvedRows(rings, field, isKept);
    return fillWithRows(rows, rings, {
      stitchLengthMm: fillStitchMm,
      spacingMm: spacing,
      compensationMm,
      pattern,
      ...way,
    });
  },
});
