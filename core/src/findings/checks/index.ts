import type { Check } from '../check.js';
import { COVERS } from './covers.js';
import { CROWDED_POINTS } from './crowded-points.js';
import { DENSITY } from './density.js';
import { FRINGE } from './fringe.js';
import { GAP_OPENS } from './gap-opens.js';
import { HIDDEN_PIECE } from './hidden-piece.js';
import { LIKE_THE_CLOTH } from './like-the-cloth.js';
import { LONG_STITCH } from './long-stitch.js';
import { MISSING_TIE } from './missing-tie.js';
import { MORE_THREADS_THAN_NEEDLES } from './more-threads-than-needles.js';
import { NEEDLESS_TRIM } from './needless-trim.js';
import { NOTHING_TO_SEW } from './nothing-to-sew.js';
import { OUT_OF_HOOP } from './out-of-hoop.js';
import { ROWS_ALONG_EDGE } from './rows-along-edge.js';
import { SATIN_WIDTH } from './satin-width.js';
import { SEWN_GROUND } from './sewn-ground.js';
import { SHORT_RUN } from './short-run.js';
import { SHORT_STITCHES } from './short-stitches.js';
import { SMALL_LETTERS } from './small-letters.js';
import { THIN_LINE_SINKS } from './thin-line-sinks.js';
import { THREAD_CHANGES } from './thread-changes.js';
import { TOO_LARGE } from './too-large.js';

/** Everything that is looked for, in the order it is told. */
export const CHECKS: readonly Check[] = [
  NOTHING_TO_SEW,
  TOO_LARGE,
  OUT_OF_HOOP,
  LONG_STITCH,
  COVERS,
  CROWDED_POINTS,
  GAP_OPENS,
  MISSING_TIE,
  SATIN_WIDTH,
  ROWS_ALONG_EDGE,
  SMALL_LETTERS,
  THIN_LINE_SINKS,
  SHORT_STITCHES,
  DENSITY,
  LIKE_THE_CLOTH,
  SEWN_GROUND,
  HIDDEN_PIECE,
  FRINGE,
  SHORT_RUN,
  NEEDLESS_TRIM,
  THREAD_CHANGES,
  MORE_THREADS_THAN_NEEDLES,
];
