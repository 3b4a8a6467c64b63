import { boundsOf } from '../../geometry/polyline.js';
import type { Points } from '../../geometry/vector.js';
import type { RenderProblem } from '../methods/render-method.js';

/** A face is seen from so many rows on: fewer go through eyes and mouth. */
const LEAST_ROWS = 25;

/**
 * What somebody marked as what matters most, and is too small for its rows.
 * @param favoured rings in mm
 * @param spacingMm distance of rows
 */
export function hiddenFaces(favoured: readonly Points[], spacingMm: number): RenderProblem[] {
  return favoured.flatMap((ring) => {
    const { left, top, right, bottom } = boundsOf([ring]);
    const high = bottom - top;
    if (high >= LEAST_ROWS * spacingMm) return [];
    const text =
      `What matters most is ${high.toFixed(0)} mm high: rows ${spacingMm.toFixed(1)} mm apart leave little of eyes and mouth. ` +
      `From ${(LEAST_ROWS * spacingMm).toFixed(0)} mm on they are seen; closer rows, or thread painting, show them sooner.`;
    return [{ text, x: (left + right) / 2, y: (top + bottom) / 2 }];
  });
}
