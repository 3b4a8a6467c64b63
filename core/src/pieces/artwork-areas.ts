import { signedArea } from '../geometry/polyline.js';
import type { PlacedShape } from '../artwork/place-artwork.js';
import type { Area } from './area.js';

/**
 * The shapes of vector artwork as areas, the later over the earlier.
 * @param labelOf label of a shape's colour, 0 where it shows nowhere
 */
export function artworkAreas(
  shapes: readonly PlacedShape[],
  labelOf: readonly number[],
  hexOf: (label: number) => string,
  bare: ReadonlySet<number>,
): Area[] {
  return shapes.flatMap(({ shape, outline, rings, line }, i): Area[] => {
    const label = labelOf[i];
    if (label === 0 || bare.has(label)) return [];
    const { gradient } = shape;
    return [
      {
        origin: 'artwork',
        outline,
        rings,
        areaMm2: Math.abs(rings.reduce((sum, ring) => sum + signedArea(ring), 0)),
        paint: { label },
        hex: hexOf(label),
        layer: i + 1,
        line,
        gradient: gradient && gradient.stops.map((stop) => stop.hex).join(' '),
        decisions: [],
      },
    ];
  });
}
