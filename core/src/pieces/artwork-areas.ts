import type { Curve } from '../geometry/curve.js';
import { groupRings, unite } from '../geometry/polygons.js';
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
  const edged = ownStrokes(shapes, labelOf);
  const strokes = new Set(edged.values());
  return shapes.flatMap(({ outline, rings, line, gradient }, i): Area[] => {
    const label = labelOf[i];
    if (label === 0 || bare.has(label) || strokes.has(i)) return [];
    const stroke = edged.get(i);
    if (stroke !== undefined) {
      const united = fromRings(unite(rings, shapes[stroke].rings));
      const layer = Math.max(i, stroke) + 1;
      const whole = { origin: 'artwork', object, paint: { label }, hex: hexOf(label), layer, decisions: [] } as const;
      return partsOf({ ...whole, ...united });
    }
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

/** Shapes are looked through for the stroke of a fill no further than this. */
const FAR = 400;

/**
 * Fills that have a line of their own colour along their edge: that is one shape with a wider edge, and no second layer of
 * thread. Where both are not drawn one after the other, nothing between them may lie there.
 * @returns for the index of each such fill that of its line
 */
function ownStrokes(shapes: readonly PlacedShape[], labelOf: readonly number[]): Map<number, number> {
  const found = new Map<number, number>();
  const taken = new Set<number>();
  const boxes = shapes.map(({ rings }) => boundsOf(rings));
  const apart = (a: number, b: number): boolean => {
    const [p, q] = [boxes[a], boxes[b]];
    return p.left > q.right || q.left > p.right || p.top > q.bottom || q.top > p.bottom;
  };
  shapes.forEach(({ shape, line, gradient }, i) => {
    if (line || gradient || labelOf[i] === 0) return;
    for (let j = Math.max(0, i - 1); j < Math.min(shapes.length, i + FAR); j++) {
      const other = shapes[j];
      if (!other.line || taken.has(j) || labelOf[j] !== labelOf[i] || !isAlong(other.shape.curves, shape.curves))
        continue;
      const between = shapes.slice(Math.min(i, j) + 1, Math.max(i, j));
      if (!between.every((_, k) => apart(Math.min(i, j) + 1 + k, j))) break;
      found.set(i, j);
      taken.add(j);
      break;
    }
  });
  return found;
}

/** Whether curves follow the same points. */
function isAlong(a: readonly Curve[], b: readonly Curve[]): boolean {
  if (a.length !== b.length) return false;
  return a.every(({ points }, i) => {
    const other = b[i].points;
    const n = Math.min(points.length, other.length);
    // One may say its first point once more at its end.
    if (Math.max(points.length, other.length) - n > 2) return false;
    for (let k = 0; k < n; k++) if (Math.abs(points[k] - other[k]) > 1e-3) return false;
    return true;
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
    const box = boundsOf([rings[0]]);
    const inside = (curve: Curve): boolean => {
      const [x, y] = curve.points;
      if (x < box.left - NEAR || x > box.right + NEAR || y < box.top - NEAR || y > box.bottom + NEAR) return false;
      // What lies in an opening is of another part: a ring within a ring.
      return isInside(rings, x, y) || distanceToRings(rings, x, y) < NEAR;
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
