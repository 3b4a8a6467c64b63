import { flatten, flattenRing, type Curve } from '../geometry/curve.js';
import { fillRings, subtract, thicken, type Rings } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import { direction, type Points } from '../geometry/vector.js';
import { fromRings, type Area, type Paint } from './area.js';
import { pathCurve, type DrawnPiece } from './drawn.js';
import { candidateOf, findPieceAt, type ThreadChoice, type ToHoop } from './piece-decisions.js';
import { FLATNESS_MM } from './piece.js';

/** Drawn pieces lie over everything else. */
export const DRAWN_LAYER = 1_000_000;

const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;

export interface DrawnPlace {
  readonly toHoop: ToHoop;
  readonly wholeMm2: number;
  /** Paint of a choice, and its colour before the light is changed. */
  readonly paintOf: (choice: ThreadChoice) => { readonly paint: Paint; readonly hex: string };
}

/**
 * Adds what was drawn by hand to the areas found: pieces on top, holes cut through what lies there. Pieces that were
 * made from a found one take its place.
 */
export function addDrawn(found: readonly Area[], drawn: readonly DrawnPiece[], place: DrawnPlace): Area[] {
  let areas = withoutReplaced(found, drawn, place);
  drawn.forEach((piece, i) => {
    const layer = DRAWN_LAYER + i;
    if (piece.role === 'hole') {
      const rings = shapesOf(piece, place.toHoop).flatMap(({ rings: r }) => r);
      areas = areas.flatMap((area) => cutHole(area, rings));
      return;
    }
    const { paint, hex } = place.paintOf(piece.paint);
    shapesOf(piece, place.toHoop).forEach(({ rings, paths, outline }, k) => {
      const shape = outline ? { ...fromRings(rings), outline } : fromRings(rings);
      if (rings.length === 0) return;
      areas.push({
        origin: 'drawn',
        drawn: k === 0 ? piece.id : `${piece.id}/${k + 1}`,
        ...shape,
        paint,
        hex,
        layer,
        line: paths && { paths, widthMm: piece.widthMm },
        keep: true,
        as: piece.as === 'auto' ? undefined : piece.as,
        passes: piece.passes,
        decisions: [],
      });
    });
  });
  return areas;
}

/** The areas found, without those that somebody has drawn anew. */
function withoutReplaced(found: readonly Area[], drawn: readonly DrawnPiece[], place: DrawnPlace): Area[] {
  const anchors = drawn.flatMap(({ replaces }) => (replaces ? [replaces] : []));
  if (anchors.length === 0) return found.slice();
  const candidates = found.map((a) => candidateOf(a.rings, a.hex, a.areaMm2 / place.wholeMm2, a.drawn));
  const gone = new Set(anchors.map((anchor) => findPieceAt(candidates, anchor, place.toHoop)));
  return found.filter((_, i) => !gone.has(i));
}

interface DrawnShape {
  readonly rings: Rings;
  /** Middle of a line. */
  readonly paths?: readonly Curve[];
  /** Curves of the outline, where they are the rings' own. */
  readonly outline?: readonly Curve[];
}

/** A drawn piece and its copies. */
function shapesOf(piece: DrawnPiece, toHoop: ToHoop): DrawnShape[] {
  const usable = piece.paths.filter(({ nodes }) => nodes.length >= 2);
  if (usable.length === 0) return [];
  const curves = usable.map((path) => pathCurve(path, toHoop));
  const isLine = usable.every(({ closed }) => !closed) && piece.role === 'piece';
  const { count, radiusMm } = piece.copies;
  const box = boundsOf(curves.map((curve) => flatten(curve, 0.1)));
  const centre = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
  return Array.from({ length: Math.max(1, count) }, (_, k): DrawnShape => {
    const placed = count > 1 ? curves.map((curve) => turned(curve, centre, (360 * k) / count, radiusMm)) : curves;
    if (isLine) {
      const runs = placed.map((curve) => flatten(curve, FLATNESS_MM));
      return { rings: thicken(runs, piece.widthMm, false, ROUND), paths: placed };
    }
    const raw = placed.map((curve) => flattenRing(curve, FLATNESS_MM)).filter((ring) => ring.length >= 6);
    const rings = fillRings(raw, 'evenodd');
    return rings.length === 1 && raw.length === 1 ? { rings, outline: placed } : { rings };
  });
}

/** A curve moved up from the centre of a ring and turned around it. */
function turned(curve: Curve, centre: { x: number; y: number }, degrees: number, radius: number): Curve {
  const { x: cos, y: sin } = direction(degrees);
  const points: Points = [];
  for (let i = 0; i < curve.points.length; i += 2) {
    const x = curve.points[i] - centre.x;
    const y = curve.points[i + 1] - centre.y - radius;
    points.push(centre.x + x * cos - y * sin, centre.y + x * sin + y * cos);
  }
  return { points, kinds: curve.kinds };
}

function cutHole(area: Area, hole: Rings): Area[] {
  const before = boundsOf(area.rings);
  const box = boundsOf(hole);
  if (box.right < before.left || box.left > before.right || box.bottom < before.top || box.top > before.bottom) {
    return [area];
  }
  const rest = subtract(area.rings, hole);
  if (rest.length === 0) return [];
  return [{ ...area, ...fromRings(rest), face: undefined, line: undefined }];
}
