import { CORNERS } from '../../trace/spine-stretches.js';
import { againstPush } from '../against-push.js';
import { satinSpacingOn } from '../fabrics.js';
import { satin } from '../satin.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** Stitches from edge to edge of a column. */
export const SATIN = stitchKind({
  id: 'satin',
  name: 'Satin column',
  hint: 'Stitches from edge to edge, close together: letters, outlines, narrow shapes.',
  family: 'column',
  covers: true,
  options: {
    spacingMm: OPTION.mm('Spacing on the outer side', 0.25, 1.5, 0.4, 'satinSpacingMm'),
    corners: {
      type: 'choice',
      label: 'Corners',
      choices: CORNERS,
      usual: 'mitre',
      follows: 'corners',
    },
  },
  sew: ({ columns, rings, reachAt }, { spacingMm: set }, { fabric, underlay, ...against }, way) => {
    const spacingMm = set * satinSpacingOn(fabric);
    const pushed = againstPush(columns, fabric.pushMm, reachAt);
    return satin(pushed, rings, { ...against, spacingMm, underlay, reachAt }, way);
  },
});
