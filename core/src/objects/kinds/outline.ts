import { array, boolean, object, string } from 'yup';
import { curveThrough } from '../../geometry/curve.js';
import { groupRings, offset, thicken, unite, type LineStyle } from '../../geometry/polygons.js';
import type { Points } from '../../geometry/vector.js';
import { fromRings, type Area } from '../../pieces/area.js';
import type { StitchChoices } from '../../pieces/sewn-as.js';
import { flag, hex, limited, measure, oneOf, pieceRef, threadChoice } from '../../settings/fields.js';
import { familyOf, STITCH_KINDS } from '../../stitches/kinds/index.js';
import { baseFields } from '../base-schema.js';
import { sourceField } from '../source-field.js';
import { CORNERS, type Corners } from '../../trace/spine-stretches.js';
import { CLOTH_LOOKS } from '../../pieces/laid-cloth.js';
import { USUAL_APPLIQUE, type OutlineObject } from '../design-object.js';
import {
  begunAt,
  crossingOf,
  EDGE_BEGINS,
  EDGE_ENDS,
  openBand,
  outermost,
  toTips,
  withGaps,
  type EdgeRun,
} from '../edge-runs.js';
import { PATCH_FORMS, patchAround } from '../patch-form.js';
import { objectKind, type ObjectPlace } from './object-kind.js';

/** Stitch kinds that go along an edge. */
export const OUTLINE_KINDS: readonly { readonly id: string; readonly name: string }[] = [
  ...STITCH_KINDS.filter(({ id, family }) => family === 'line' || id === 'satin' || id === 'zigzag'),
  { id: 'applique', name: 'Applique' },
];

/** Pieces that one outline goes around at most. */
const MOST_PIECES = 200;

const schema = object({
  kind: string().required(),
  ...baseFields,
  of: string().strict(true).max(40).nullable().defined(),
  pieces: array(pieceRef()).max(MOST_PIECES).optional(),
  closeMm: measure('closeMm', 0, 20).optional(),
  form: oneOf(
    'form',
    PATCH_FORMS.map(({ id }) => id),
  ).optional(),
  corners: oneOf(
    'corners',
    CORNERS.map(({ id }) => id),
  ).optional(),
  gaps: boolean().strict(true).oneOf([true], 'gaps may only be true').optional(),
  ends: oneOf(
    'ends',
    EDGE_ENDS.map(({ id }) => id),
  ).optional(),
  begins: oneOf('begins', EDGE_BEGINS).optional(),
  applique: object({
    placement: flag(),
    tackDown: oneOf('tack-down', ['zigzag', 'running', 'none']),
    cut: flag(),
    cover: oneOf('cover', ['none', ...STITCH_KINDS.map(({ id }) => id)]),
    inside: measure('inside', 0, 1),
    cloth: object({
      look: oneOf('cloth', CLOTH_LOOKS),
      hex: hex('the cloth'),
      print: object({ source: sourceField(), widthMm: measure('print.widthMm', 5, 400) })
        .noUnknown()
        .optional()
        .default(undefined),
    })
      .noUnknown()
      .required(),
    laid: boolean().strict(true).oneOf([false], 'laid may only be false').optional(),
  })
    .noUnknown('applique: not known: ${unknown}')
    .optional()
    .default(undefined),
  offsetMm: limited('offsetMm'),
  widthMm: limited('outlineMm'),
  as: oneOf(
    'outline',
    OUTLINE_KINDS.map(({ id }) => id),
  ),
  paint: threadChoice(),
}).noUnknown('an outline has settings that are not known: ${unknown}');

/** How the outer side of a border goes around its corners: a mitre as long as its width allows, a point drawn out farther. */
const JOINS: Readonly<Record<Corners, LineStyle>> = {
  mitre: { cap: 'round', join: 'miter', miterLimit: 3 },
  round: { cap: 'round', join: 'round', miterLimit: 2 },
  point: { cap: 'round', join: 'miter', miterLimit: 5 },
};
/** Width of the ring a line along an edge is measured as. */
const LINE_MM = 0.4;

/** Lines along edges, borders among them. */
export const OUTLINE = objectKind<OutlineObject>({
  id: 'outline',
  name: 'Outline',
  hint: 'satin, a line or an applique along the edge of another object, which it follows',
  schema: schema as never,
  needs: ({ of }) => (of === null ? [] : [of]),
  areas: (outline, place) => {
    const edge = edgeFor(outline, place);
    if (edge.length === 0) return { areas: [] };
    const join = JOINS[outline.corners ?? place.corners];
    const rings = outline.offsetMm === 0 ? edge : offset(edge, outline.offsetMm, join);
    return rings.length === 0 ? { areas: [] } : { areas: areasAlong(outline, rings, join, place) };
  },
});

/** Edges it goes along: of single pieces, of an object, or of everything below. */
function edgeFor({ of, pieces, closeMm, form }: OutlineObject, place: ObjectPlace): readonly Points[] {
  const rings = pieces && pieces.length > 0 ? place.ringsOfPieces(pieces) : place.ringsOf(of);
  if (!rings || rings.length === 0) return [];
  if (form !== undefined) return [patchAround(form, rings)];
  if (closeMm === undefined) return rings;
  const closed = closeMm > 0 ? offset(offset(rings, closeMm / 2), -closeMm / 2) : rings;
  // The outer ring of each part that does not touch another.
  return groupRings(closed).flatMap(([outer]) => (outer ? [outer] : []));
}

function areasAlong(outline: OutlineObject, rings: readonly Points[], join: LineStyle, place: ObjectPlace): Area[] {
  const { paint, hex: seen } = place.paintOf(outline.paint);
  const { ends = 'butt', begins, gaps } = outline;
  const crossing = gaps ? crossingOf(rings, place.ringsBeside(outline.of, outline.pieces ?? []), outline.widthMm) : [];
  const whole = (along: readonly Points[]): EdgeRun[] =>
    along.map((points) => ({ points: begins ? begunAt(points, begins) : points, closed: true }));
  const runsOf = (along: readonly Points[], width: number): EdgeRun[] => withGaps(whole(along), crossing, ends, width);
  const band = (width: number, along: readonly EdgeRun[]): Points[] => {
    const rounds = along.flatMap(({ points, closed }) => (closed ? [points] : []));
    const open = along.flatMap(({ points, closed }) => (closed ? [] : openBand(points, width, ends, join)));
    const around = thicken(rounds, width, true, join);
    return open.length === 0 ? around : unite(around, open);
  };
  const curvesOf = (along: readonly EdgeRun[], width: number) =>
    along.map(({ points, closed }) =>
      curveThrough(closed ? [...points, points[0], points[1]] : toTips(points, width, ends)),
    );
  /** @param begun the runs among which the one lies that begins where it is said */
  const choicesOf = (along: readonly EdgeRun[], begun = along): StitchChoices | undefined => {
    const entry = begins && outermost(along, begins);
    const first = begins && outermost(begun, begins);
    const isFirst = entry !== undefined && entry.x === first?.x && entry.y === first.y;
    const values: Record<string, string> = outline.corners ? { corners: outline.corners } : {};
    return outline.corners || isFirst ? { values, guides: [], ...(isFirst ? { entry } : {}) } : undefined;
  };
  const area = (layer: number, shape: Points[], as: string, choices?: StitchChoices): Area => ({
    origin: 'outline',
    object: outline.id,
    ...fromRings(shape),
    paint,
    hex: seen,
    layer: place.layer + layer,
    as,
    keep: true,
    cut: false,
    choices,
    decisions: [],
  });
  const line = (layer: number, as: string, along = whole(rings), begun = along): Area => ({
    ...area(layer, band(LINE_MM, along), as, choicesOf(along, begun)),
    passes: 1,
    line: { paths: curvesOf(along, LINE_MM), widthMm: LINE_MM },
  });
  const wide = (layer: number, as: string, along: readonly EdgeRun[], begun: readonly EdgeRun[]): Area => ({
    ...area(layer, band(outline.widthMm, along), as, choicesOf(along, begun)),
    line: { paths: curvesOf(along, outline.widthMm), widthMm: outline.widthMm },
  });
  /** A border between two gaps is a piece of its own. */
  const sewn = (layer: number, as: string, along = rings): Area[] => {
    const isLine = familyOf(as) === 'line';
    const runs = runsOf(along, isLine ? LINE_MM : outline.widthMm);
    const parts = runs.some(({ closed }) => !closed) ? runs.map((run) => [run]) : [runs];
    return parts.flatMap((part) => {
      if (part.length === 0) return [];
      return [isLine ? line(layer, as, part, runs) : wide(layer, as, part, runs)];
    });
  };
  if (outline.as !== 'applique') return sewn(2, outline.as);
  const { placement, tackDown, cut, cover, inside, cloth, laid } = outline.applique ?? USUAL_APPLIQUE;
  // A cover that lies more on the cloth, or less, is moved inwards or outwards by that.
  const shift = (0.5 - inside) * outline.widthMm;
  const coverRings = shift === 0 || cover === 'none' ? rings : offset(rings, shift, join);
  const tackWidth = Math.max(LEAST_TACK_MM, outline.widthMm * TACK_SHARE);
  const steps: Area[] = [];
  if (placement) steps.push({ ...line(0, 'running'), part: 'placement', role: 'placement' });
  if (tackDown !== 'none') {
    const tack =
      tackDown === 'running'
        ? line(1, 'running')
        : area(1, band(tackWidth, whole(rings)), 'zigzag', choicesOf(whole(rings)));
    steps.push({ ...tack, part: 'tack-down', role: 'tack-down', stopBefore: placement });
  }
  if (cover !== 'none' && coverRings.length > 0) {
    const covers = sewn(2, cover, coverRings);
    const stopBefore = cut && steps.length > 0;
    covers.forEach((each, i) => {
      const part = i === 0 ? 'cover' : `cover, ${i + 1}`;
      steps.push({ ...each, part, role: 'cover', stopBefore: stopBefore && i === 0 });
    });
  }
  return laid === false ? steps : steps.map((step) => ({ ...step, cloth: { ...cloth, rings } }));
}

/** A tack-down is so much narrower than its cover, which hides it. */
const TACK_SHARE = 0.6;
const LEAST_TACK_MM = 1.2;
