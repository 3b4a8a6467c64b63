import { satin } from '../satin.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** An open zigzag over a column, on the run that led there. */
export const ZIGZAG = stitchKind({
  id: 'zigzag',
  name: 'Zigzag',
  hint: 'Open stitches from edge to edge, cloth between them.',
  family: 'column',
  options: { openMm: OPTION.mm('Distance of the points', 0.8, 6, 2) },
  sew: ({ columns, rings }, { openMm }, { compensationMm, runStitchMm }, { entry }) =>
    satin(columns, rings, { spacingMm: openMm, compensationMm, runStitchMm, underlay: 'none' }, { entry }),
});
