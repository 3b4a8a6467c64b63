import type { Curve } from '../geometry/curve.js';
import { groupRings } from '../geometry/polygons.js';
import { areaWithin, distanceToRings, isInside } from '../geometry/polyline.js';
import type { PlacedShape } from '../artwork/place-artwork.js';
import { fromRings, type Area } from './area.js';

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
    const whole: Area = {
      origin: 'artwork',
      outline,
      rings,
      areaMm2: areaWithin(rings),
      paint: { label },
      hex: hexOf(label),
      layer: i + 1,
      line,
      gradient: gradient && gradient.stops.map((stop) => stop.hex).join(' '),
      decisions: [],
    };
    return partsOf(whole);
  });
}

/** The parts of an area that do not touch, which are sewn one by one; each keeps its own curves and lines. */
function partsOf(area: Area): Area[] {
  if (area.rings.length < 2) return [area];
  const groups = groupRings(area.rings);
  if (groups.length < 2) return [area];
  return groups.map((rings) => {
    const [outer] = rings;
    const inside = (curve: Curve): boolean => {
      const [x, y] = curve.points;
      return isInside([outer], x, y) || distanceToRings([outer], x, y) < 0.03;
    };
    const outline = area.outline.filter(inside);
    const paths = area.line?.paths.filter(inside) ?? [];
    return {
      ...area,
      ...(outline.length === rings.length ? { outline, rings, areaMm2: areaWithin(rings) } : fromRings(rings)),
      line: area.line && paths.length > 0 ? { ...area.line, paths } : undefined,
    };
  });
}
