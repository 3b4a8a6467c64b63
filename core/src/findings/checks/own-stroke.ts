import { common, areaOf, offset } from '../../geometry/polygons.js';
import { ringsOf } from '../../pieces/piece.js';
import { leaveBare, type Check } from '../check.js';

/** So much of a stroke lies on the fill it belongs to. */
const LEAST_SHARE = 0.4;
/** Around the edge of a fill: half the width of a stroke, and a little. */
const SEAM_MM = 0.2;
const WIDEST_MM = 4;
/** As long as so much of the fill's outline. */
const LEAST_ROUND = 0.6;

/** A fill with a stroke of its own thread along its edge. */
export const OWN_STROKE: Check = {
  id: 'own-stroke',
  name: 'Fill and stroke of one thread',
  why: 'Nobody sees the stroke, and the edge gets twice the thread.',
  find: (examined) => {
    const { design } = examined;
    if (!design) return [];
    return design.pieces.flatMap((stroke, i) => {
      const narrow = stroke.family !== 'area' && stroke.widthMm <= WIDEST_MM && stroke.role === 'plain';
      if (!narrow || stroke.word !== undefined) return [];
      const fill = design.pieces.find((piece, k) => {
        if (k === i || piece.family !== 'area' || piece.thread !== stroke.thread || piece.gradient) return false;
        const { bounds: a } = piece;
        const { bounds: b } = stroke;
        const around = b.left <= a.left + 1 && b.top <= a.top + 1 && b.right >= a.right - 1 && b.bottom >= a.bottom - 1;
        if (!around || stroke.areaMm2 / stroke.widthMm < LEAST_ROUND * outlineMm(piece.bounds)) return false;
        return areaOf(common(ringsOf(stroke), offset(ringsOf(piece), SEAM_MM))) >= LEAST_SHARE * stroke.areaMm2;
      });
      if (!fill) return [];
      return [
        {
          level: 'waste' as const,
          text: 'A stroke of the same thread lies on the edge of a fill.',
          at: { x: stroke.bounds.left, y: (stroke.bounds.top + stroke.bounds.bottom) / 2 },
          pieces: [stroke.id, fill.id],
          harm: 1 + stroke.areaMm2 / fill.areaMm2,
          cost: { stitches: examined.pieceStitches()[i] },
          repairs: leaveBare(examined, stroke, 'Leave the stroke bare', false),
        },
      ];
    });
  },
};

const outlineMm = ({
  left,
  top,
  right,
  bottom,
}: {
  left: number;
  top: number;
  right: number;
  bottom: number;
}): number => 2 * (right - left + bottom - top);
