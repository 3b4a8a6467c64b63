import type { Check } from '../check.js';
import { BROKEN_OUTLINE } from './broken-outline.js';
import { COLUMN_END } from './column-end.js';
import { COVERS } from './covers.js';
import { CROWDED_POINTS } from './crowded-points.js';
import { DENSITY } from './density.js';
import { DOUBLED_OUTLINE } from './doubled-outline.js';
import { FRINGE } from './fringe.js';
import { GAP_OPENS } from './gap-opens.js';
import { HIDDEN_PIECE } from './hidden-piece.js';
import { HOLE } from './hole.js';
import { LATE_OUTLINE } from './late-outline.js';
import { LIKE_THE_CLOTH } from './like-the-cloth.js';
import { LONG_STITCH } from './long-stitch.js';
import { MISSING_TIE } from './missing-tie.js';
import { MIXED_WORD } from './mixed-word.js';
import { MORE_THREADS_THAN_NEEDLES } from './more-threads-than-needles.js';
import { NEEDLESS_TRIM } from './needless-trim.js';
import { NOTHING_TO_SEW } from './nothing-to-sew.js';
import { OUT_OF_HOOP } from './out-of-hoop.js';
import { OWN_STROKE } from './own-stroke.js';
import { ROWS_ALONG_EDGE } from './rows-along-edge.js';
import { SATIN_WIDTH } from './satin-width.js';
import { SELF_CROSSING } from './self-crossing.js';
import { SEWN_GROUND } from './sewn-ground.js';
import { SHORT_RUN } from './short-run.js';
import { SHORT_STITCHES } from './short-stitches.js';
import { SMALL_LETTERS } from './small-letters.js';
import { SMALL_OPENING } from './small-opening.js';
import { THIN_LINE_SINKS } from './thin-line-sinks.js';
import { THREAD_CHANGES } from './thread-changes.js';
import { TOO_LARGE } from './too-large.js';
import { TRIMS_IN_A_HEAP } from './trims-in-a-heap.js';
import { VISIBLE_WAY } from './visible-way.js';
import { WRONG_COLOUR } from './wrong-colour.js';
/** Everything that is looked for, in the order it is told. */
export const CHECKS: readonly Check[] = [
  NOTHING_TO_SEW,
  TOO_LARGE,
  OUT_OF_HOOP,
  LONG_STITCH,
  COVERS,
  CROWDED_POINTS,
  GAP_OPENS,
  HOLE,
  WRONG_COLOUR,
  COLUMN_END,
  MISSING_TIE,
  SATIN_WIDTH,
  SELF_CROSSING,
  ROWS_ALONG_EDGE,
  SMALL_LETTERS,
  MIXED_WORD,
  SMALL_OPENING,
  THIN_LINE_SINKS,
  SHORT_STITCHES,
  DENSITY,
  LIKE_THE_CLOTH,
  SEWN_GROUND,
  HIDDEN_PIECE,
  OWN_STROKE,
  DOUBLED_OUTLINE,
  BROKEN_OUTLINE,
  FRINGE,
  SHORT_RUN,
  NEEDLESS_TRIM,
  TRIMS_IN_A_HEAP,
  VISIBLE_WAY,
  LATE_OUTLINE,
  THREAD_CHANGES,
  MORE_THREADS_THAN_NEEDLES,
];
