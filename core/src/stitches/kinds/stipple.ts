import { distance, type Points } from '../../geometry/vector.js';
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
    stippleLoops(rings as number[][], openMm).map((loop) => runAlong(startAt(loop, entry), runStitchMm)),
});

/** A loop begun at its point nearest to where the needle comes from. */
function startAt(loop: Points, entry: { x: number; y: number } | undefined): Points {
  if (!entry) return loop;
  let best = 0;
  for (let i = 2; i < loop.length - 2; i += 2) {
    if (distance(loop[i], loop[i + 1], entry.x, entry.y) < distance(loop[best], loop[best + 1], entry.x, entry.y)) {
      best = i;
    }
  }
  return [...loop.slice(best, -2), ...loop.slice(0, best + 2)];
}
