import { lineWiderOn } from '../fabrics.js';
import { runningLine } from '../running.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** A line of single stitches, once, twice or three times over, or as often as its width needs. */
export const RUNNING = stitchKind({
  id: 'running',
  name: 'Running line',
  hint: 'Single stitches one after the other; as wide as drawn, or once, twice, three times over.',
  family: 'line',
  options: { runStitchMm: OPTION.runStitch },
  sew: ({ runs, widthMm, passes }, { runStitchMm }, { fabric }, { entry }) => [
    runningLine(runs, { stitchLengthMm: runStitchMm, widthMm: widthMm + lineWiderOn(fabric), passes }, entry),
  ],
});
