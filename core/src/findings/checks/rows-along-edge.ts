import { angleBetween, straightEdges } from '../../stitches/angles.js';
import { sayOf, type Check } from '../check.js';

/** Rows nearer to the direction of a long straight edge than this make saw-teeth along it. */
const LEAST_ANGLE = 20;
/** Edges shorter than this share of the outline do not matter. */
const LONG_SHARE = 0.22;

/** Rows of a fill that run along a straight edge. */
export const ROWS_ALONG_EDGE: Check = {
  id: 'rows-along-edge',
  name: 'Rows along an edge',
  why: 'Along such an edge the ends of the rows make teeth instead of a line.',
  find: (examined) => {
    const { design } = examined;
    if (!design) return [];
    return design.pieces.flatMap((piece, i) => {
      if (piece.kind !== 'tatami' || piece.choices.guides.length > 0) return [];
      const angle = design.rowAngles[i];
      const edges = straightEdges(piece).filter(({ share }) => share >= LONG_SHARE);
      const along = edges.filter((edge) => angleBetween(angle, edge.angle) < LEAST_ANGLE);
      if (along.length === 0) return [];
      const better = betterAngle(
        angle,
        edges.map((edge) => edge.angle),
      );
      return [
        {
          level: 'advice' as const,
          text: `Rows ${Math.round(angleBetween(angle, along[0].angle))}° from a straight edge.`,
          at: piece.anchor,
          pieces: [piece.id],
          harm: 1 + (LEAST_ANGLE - angleBetween(angle, along[0].angle)) / LEAST_ANGLE,
          repairs: sayOf(examined, piece, { id: 'turn', label: `Turn its rows to ${better}°`, safe: true }, (at) => ({
            kind: 'stitch',
            at,
            set: { angle: better },
          })),
        },
      ];
    });
  },
};

/** The angle nearest to one that crosses all edges best. */
function betterAngle(angle: number, edges: readonly number[]): number {
  let best = angle;
  let most = -Infinity;
  for (let k = -12; k < 12; k++) {
    const tried = Math.round(angle + k * 7.5);
    const least = Math.min(45, ...edges.map((edge) => angleBetween(tried, edge)));
    const worth = least - Math.abs(k) * 0.1;
    if (worth > most) [most, best] = [worth, tried];
  }
  return best > 90 ? best - 180 : best <= -90 ? best + 180 : best;
}
