import type { Curve } from '../geometry/curve.js';
import { groupRings } from '../geometry/polygons.js';
import { areaWithin, boundsOf, distanceToRings, isInside } from '../geometry/polyline.js';
import type { PlacedShape } from '../artwork/place-artwork.js';
import type { Gradient } from '../artwork/artwork.js';
import { fromRings, type Area } from './area.js';
import type { AreaGradient } from './area-gradient.js';

/**
 * The shapes of vector artwork as areas, the later over the earlier.
 * @param labelOf label of a shape's colour, 0 where it shows nowhere
 * @param stopLabels labels of the stops of shapes with gradients
 */
export function artworkAreas(
  object: string,
  shapes: readonly PlacedShape[],
  labelOf: readonly number[],
  stopLabels: readonly (readonly number[] | undefined)[],
  hexOf: (label: number) => string,
  bare: ReadonlySet<number>,
): Area[] {
  return shapes.flatMap(({ outline, rings, line, gradient }, i): Area[] => {
    const label = labelOf[i];
    if (label === 0 || bare.has(label)) return [];
    const whole: Area = {
      origin: 'artwork',
      object,
      outline,
      rings,
      areaMm2: areaWithin(rings),
      paint: { label },
      hex: hexOf(label),
      layer: i + 1,
      line,
      fill: gradient && fillOf(gradient, stopLabels[i] ?? [], `art ${i + 1}`, bare),
      decisions: [],
    };
    return partsOf(whole);
  });
}

/** A gradient of the artwork with the colours its stops have become; none where they are one. */
function fillOf(
  { kind, x1, y1, x2, y2, stops }: Gradient,
  labels: readonly number[],
  id: string,
  bare: ReadonlySet<number>,
): AreaGradient | undefined {
  const painted = stops.map(({ at, hex }, k) => {
    const label = labels[k] ?? 0;
    return { at, hex, paint: label > 0 && !bare.has(label) ? { label } : undefined };
  });
  const different = new Set(painted.map(({ paint }) => paint?.label ?? 0)).size > 1;
  return different ? { id, shape: kind, x1, y1, x2, y2, stops: painted, layers: 'over' } : undefined;
}

/** Curves begin on the ring they are of, but for rounding. */
const NEAR = 0.03;

/** The parts of an area that do not touch, which are sewn one by one; each keeps its own curves and lines. */
function partsOf(area: Area): Area[] {
  if (area.rings.length < 2) return [area];
  const groups = groupRings(area.rings);
  if (groups.length < 2) return [area];
  return groups.map((rings) => {
    const [outer] = rings;
    const box = boundsOf([outer]);
    const inside = (curve: Curve): boolean => {
      const [x, y] = curve.points;
      if (x < box.left - NEAR || x > box.right + NEAR || y < box.top - NEAR || y > box.bottom + NEAR) return false;
      return isInside([outer], x, y) || distanceToRings([outer], x, y) < NEAR;
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
