import { closedFrom, nearestPoint } from '../../geometry/polyline.js';
import { runAlong } from '../running.js';
import { stippleLoops } from '../stipple-line.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** A line that wanders over the whole shape and never crosses itself, as quilters sew it. */
export const STIPPLE = stitchKind({
  id: 'stipple',
  name: 'Stipple',
  hint: 'A line that wanders over the shape and never crosses itself, as on quilts.',
  family: 'area',
  options: {
    openMm: OPTION.mm('Distance of the line from itself', 1, 10, 2),
    runStitchMm: OPTION.runStitch,
  },
  sew: ({ rings }, { openMm, runStitchMm }, _ground, { entry }) =>
    stippleLoops(rings, openMm).map((loop) => {
      const start = entry ? nearestPoint(loop, entry.x, entry.y).at : 0;
      return runAlong(closedFrom(loop, start), runStitchMm);
    }),
});
