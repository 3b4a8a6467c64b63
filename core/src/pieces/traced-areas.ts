import { placeCurve } from '../geometry/curve.js';
import { areaWithin } from '../geometry/polyline.js';
import { isSame } from '../colour/srgb.js';
import type { LabelMap } from '../trace/labels.js';
import type { Trace } from '../trace/trace.js';
import { flattenOutline, type Area } from './area.js';

/** Where a traced picture lies: its left and upper edge in mm around the middle of the hoop. */
export interface TracePlace {
  readonly left: number;
  readonly top: number;
  readonly pixelsPerMm: number;
}

/** The faces of a trace as areas, without those of colours that are left bare. */
export function tracedAreas(
  object: string,
  trace: Trace,
  map: LabelMap,
  place: TracePlace,
  bare: ReadonlySet<number>,
): Area[] {
  const scale = 1 / place.pixelsPerMm;
  const dx = place.left * place.pixelsPerMm;
  const dy = place.top * place.pixelsPerMm;
  // Ground that is sewn after all is sewn with the thread its colour has elsewhere.
  const twin = map.palette.findIndex((c, i) => i + 1 !== map.ground && isSame(c, map.palette[map.ground - 1])) + 1;
  return trace.faces.flatMap((face, index): Area[] => {
    if (bare.has(face.label)) return [];
    const outline = face.rings.map((ring) => placeCurve(ring, dx, dy, scale));
    const rings = flattenOutline(outline);
    const areaMm2 = areaWithin(rings);
    return [
      {
        origin: 'traced',
        object,
        outline,
        rings,
        areaMm2,
        paint: { label: face.label === map.ground && twin > 0 ? twin : face.label },
        hex: map.infos[face.label - 1].anchor.hex,
        layer: 0,
        face: index,
        decisions: [],
      },
    ];
  });
}
