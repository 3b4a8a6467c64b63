import { isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { maskOfRings } from './area-mask.js';

const SCALE = 6;

/**
 * A quick answer to whether places lie in a shape: from pixels where the edge is far, exactly where it is near.
 * Worth it where many places are asked for.
 */
export function createInsideTest(rings: readonly Points[]): (x: number, y: number) => boolean {
  const { width, height, inside, radius, left, top, scale } = maskOfRings(rings, SCALE);
  return (x, y) => {
    const px = Math.floor((x - left) * scale);
    const py = Math.floor((y - top) * scale);
    if (px < 0 || py < 0 || px >= width || py >= height) return false;
    const i = py * width + px;
    return radius[i] > 1.6 ? inside[i] === 1 : isInside(rings, x, y);
  };
}
