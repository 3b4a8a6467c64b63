import { number, object, string } from 'yup';
import { chain, scaleOf } from '../../artwork/matrix.js';
import { flatten, flattenRing, type Curve } from '../../geometry/curve.js';
import { fillRings, thicken, type Rings } from '../../geometry/polygons.js';
import { boundsOf } from '../../geometry/polyline.js';
import { direction, type Point, type Points } from '../../geometry/vector.js';
import { fromRings, type Area } from '../../pieces/area.js';
import { MOST_COPIES, pathCurve } from '../../pieces/drawn.js';
import { FLATNESS_MM } from '../../pieces/piece.js';
import { limited, oneOf, paths, pieceRef, threadChoice } from '../../settings/fields.js';
import { LIMITS, MOST_NODES, MOST_PATHS } from '../../settings/limits.js';
import { STITCH_KINDS } from '../../stitches/kinds/index.js';
import { baseFields, placeSchema } from '../base-schema.js';
import type { ShapeObject } from '../design-object.js';
import { objectKind, type ObjectPlace } from './object-kind.js';

/** Sewn in the kind that its width asks for. */
const BY_WIDTH = 'auto';

const schema = object({
  kind: string().required(),
  ...baseFields,
  place: placeSchema,
  role: oneOf('role', ['piece', 'hole']),
  paths: paths('a shape', MOST_PATHS, MOST_NODES),
  widthMm: limited('lineWidthMm'),
  as: oneOf('stitch kind', [BY_WIDTH, ...STITCH_KINDS.map(({ id }) => id)]),
  passes: number().strict(true).required().oneOf([0, 1, 2, 3], 'passes must be 0 to 3, got ${value}'),
  paint: threadChoice(),
  copies: object({
    count: number()
      .strict(true)
      .required()
      .integer('copies must be a whole number')
      .min(1)
      .max(MOST_COPIES, `copies must be at most ${MOST_COPIES}, got \${value}`),
    radius: number().strict(true).required().min(0).max(400, 'copies: the ring is too large'),
  })
    .noUnknown('copies: not known: ${unknown}')
    .required(),
  replaces: pieceRef().nullable().defined(),
}).noUnknown('a shape has settings that are not known: ${unknown}');

const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;

/** Shapes and lines of the user's own. */
export const SHAPE = objectKind<ShapeObject>({
  id: 'shape',
  name: 'Shape',
  hint: 'a shape, a line or a hole drawn by hand',
  schema: schema as never,
  needs: () => [],
  placed: (object, by) => {
    const [least, most] = LIMITS.lineWidthMm;
    const widthMm = Math.min(most, Math.max(least, object.widthMm * scaleOf(by)));
    return { ...object, place: chain(by, object.place), widthMm: Math.round(widthMm * 1000) / 1000 };
  },
  areas: (object, place) => {
    const shapes = shapesOf(object, place);
    if (object.role === 'hole') return { areas: [], hole: shapes.flatMap(({ rings }) => rings) };
    const { paint, hex } = place.paintOf(object.paint);
    const areas = shapes.flatMap(({ rings, paths: lines, outline }, k): Area[] => {
      if (rings.length === 0) return [];
      const shape = outline ? { ...fromRings(rings), outline } : fromRings(rings);
      return [
        {
          origin: 'drawn',
          object: object.id,
          part: k === 0 ? undefined : String(k + 1),
          ...shape,
          paint,
          hex,
          layer: place.layer,
          line: lines && { paths: lines, widthMm: object.widthMm },
          keep: true,
          as: object.as === 'auto' ? undefined : object.as,
          passes: object.passes,
          decisions: [],
        },
      ];
    });
    return { areas, replaces: object.replaces ?? undefined };
  },
});

interface DrawnShape {
  readonly rings: Rings;
  /** Middle of a line. */
  readonly paths?: readonly Curve[];
  /** Curves of the outline, where they are the rings' own. */
  readonly outline?: readonly Curve[];
}

/** A shape and its copies. */
function shapesOf(shape: ShapeObject, { toHoop, unitMm }: ObjectPlace): DrawnShape[] {
  const usable = shape.paths.filter(({ nodes }) => nodes.length >= 2);
  if (usable.length === 0) return [];
  const curves = usable.map((path) => pathCurve(path, toHoop));
  const isLine = usable.every(({ closed }) => !closed) && shape.role === 'piece';
  const { count, radius } = shape.copies;
  const box = boundsOf(curves.map((curve) => flatten(curve, 0.1)));
  // The first copy stays where it was drawn; the others stand around a place below it.
  const middle = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 + radius * unitMm };
  return Array.from({ length: Math.max(1, count) }, (_, k): DrawnShape => {
    const placed = k > 0 ? curves.map((curve) => turned(curve, middle, (360 * k) / count)) : curves;
    if (isLine) {
      const runs = placed.map((curve) => flatten(curve, FLATNESS_MM));
      return { rings: thicken(runs, shape.widthMm, false, ROUND), paths: placed };
    }
    const raw = placed.map((curve) => flattenRing(curve, FLATNESS_MM)).filter((ring) => ring.length >= 6);
    const rings = fillRings(raw, 'evenodd');
    return rings.length === 1 && raw.length === 1 ? { rings, outline: placed } : { rings };
  });
}

/** A curve turned around a place. */
function turned(curve: Curve, { x: cx, y: cy }: Point, degrees: number): Curve {
  const { x: cos, y: sin } = direction(degrees);
  const points: Points = [];
  for (let i = 0; i < curve.points.length; i += 2) {
    const x = curve.points[i] - cx;
    const y = curve.points[i + 1] - cy;
    points.push(cx + x * cos - y * sin, cy + x * sin + y * cos);
  }
  return { points, kinds: curve.kinds };
}
