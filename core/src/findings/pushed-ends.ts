import { distanceToSegment } from '../geometry/polyline.js';
import type { Point } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import type { Fabric } from '../stitches/fabrics.js';

/** The last stitch of satin lies aslant, and its thread is round. */
const SLANT_MM = 0.3;

/** Whether a place lies where a column ends short of its shape on purpose: the cloth pushes its satin out to there. */
export function isPushedTo({ columns }: Piece, { x, y }: Point, { pushMm }: Fabric): boolean {
  const most = pushMm + SLANT_MM;
  return columns.some(({ rungs, closed }) => {
    if (closed || rungs.length < 8) return false;
    return [0, rungs.length - 4].some(
      (k) => distanceToSegment(x, y, rungs[k], rungs[k + 1], rungs[k + 2], rungs[k + 3]) < most,
    );
  });
}
