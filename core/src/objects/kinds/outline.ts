import { object, string } from 'yup';
import { curveThrough } from '../../geometry/curve.js';
import { offset, thicken } from '../../geometry/polygons.js';
import type { Points } from '../../geometry/vector.js';
import { fromRings, type Area } from '../../pieces/area.js';
import { limited, oneOf, text, threadChoice } from '../../settings/fields.js';
import { familyOf, STITCH_KINDS } from '../../stitches/kinds/index.js';
import { baseFields } from '../base-schema.js';
import type { OutlineObject } from '../design-object.js';
import { objectKind, type ObjectPlace } from './object-kind.js';

/** Stitch kinds that go along an edge. */
export const OUTLINE_KINDS: readonly { readonly id: string; readonly name: string }[] = [
  ...STITCH_KINDS.filter(({ id, family }) => family === 'line' || id === 'satin' || id === 'zigzag'),
  { id: 'applique', name: 'Applique' },
];

const schema = object({
  kind: string().required(),
  ...baseFields,
  of: text('of', 40),
  offsetMm: limited('offsetMm'),
  widthMm: limited('outlineMm'),
  as: oneOf(
    'outline',
    OUTLINE_KINDS.map(({ id }) => id),
  ),
  paint: threadChoice(),
}).noUnknown('an outline has settings that are not known: ${unknown}');

const STYLE = { cap: 'round', join: 'round', miterLimit: 2 } as const;
/** Width of the ring a line along an edge is measured as. */
const LINE_MM = 0.4;

/** Lines along edges, borders among them. */
export const OUTLINE = objectKind<OutlineObject>({
  id: 'outline',
  name: 'Outline',
  hint: 'satin, a line or an applique along the edge of another object, which it follows',
  schema: schema as never,
  needs: ({ of }) => [of],
  areas: (outline, place) => {
    const edge = place.ringsOf(outline.of) as readonly Points[] | undefined;
    if (!edge || edge.length === 0) return { areas: [] };
    const rings = outline.offsetMm === 0 ? edge : offset(edge, outline.offsetMm);
    return rings.length === 0 ? { areas: [] } : { areas: areasAlong(outline, rings, place) };
  },
});

function areasAlong(outline: OutlineObject, rings: readonly Points[], place: ObjectPlace): Area[] {
  const { paint, hex } = place.paintOf(outline.paint);
  const band = (width: number): Points[] => thicken(rings, width, true, STYLE);
  const along = rings.map((ring) => curveThrough([...ring, ring[0], ring[1]]));
  const area = (layer: number, shape: Points[], as: string): Area => ({
    origin: 'outline',
    object: outline.id,
    ...fromRings(shape),
    paint,
    hex,
    layer: place.layer + layer,
    as,
    keep: true,
    cut: false,
    decisions: [],
  });
  const line = (layer: number, as: string): Area => ({
    ...area(layer, band(LINE_MM), as),
    passes: 1,
    line: { paths: along, widthMm: LINE_MM },
  });
  if (outline.as !== 'applique') {
    const { as, widthMm } = outline;
    return [familyOf(as) === 'line' ? line(2, as) : { ...area(2, band(widthMm), as), line: { paths: along, widthMm } }];
  }
  return [
    { ...line(0, 'running'), part: 'placement', role: 'placement' },
    {
      ...area(1, band(Math.max(1.2, outline.widthMm * 0.6)), 'zigzag'),
      part: 'tack-down',
      role: 'tack-down',
      stopBefore: true,
    },
    { ...area(2, band(outline.widthMm), 'satin'), part: 'cover', role: 'cover', stopBefore: true },
  ];
}
