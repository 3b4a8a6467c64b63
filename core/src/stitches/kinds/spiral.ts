import { boundsOf } from '../../geometry/polyline.js';
import { distance } from '../../geometry/vector.js';
import { fillWithRows } from '../curved-fill.js';
import { curvedRows } from '../curved-rows.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

const STEP_MM = 0.25;

/** Round rows about the middle of the shape. */
export const SPIRAL = stitchKind({
  id: 'spiral',
  name: 'Spiral fill',
  hint: 'Round rows about the middle of the shape, each going over into the next.',
  family: 'area',
  covers: true,
  options: { spacingMm: OPTION.spacing, fillStitchMm: OPTION.fillStitch },
  sew: ({ rings, middle }, { spacingMm, fillStitchMm }, { compensationMm, fabric }, way) => {
    const spacing = spacingMm * fabric.spacing;
    const box = boundsOf(rings);
    const [left, top] = [box.left - 1, box.top - 1];
    const width = Math.ceil((box.right - left + 1) / STEP_MM) + 1;
    const height = Math.ceil((box.bottom - top + 1) / STEP_MM) + 1;
    const values = new Float64Array(width * height);
    for (let i = 0; i < values.length; i++) {
      const x = left + (i % width) * STEP_MM;
      const y = top + Math.floor(i / width) * STEP_MM;
      values[i] = distance(x, y, middle.x, middle.y) / spacing;
    }
    const rows = curvedRows(rings, { width, height, left, top, step: STEP_MM, values });
    return fillWithRows(rows, rings, {
      stitchLengthMm: fillStitchMm,
      spacingMm: spacing,
      compensationMm,
      pattern: 'sand',
      ...way,
    });
  },
});
