import { joinCurves, reverseCurve, flatten, type Curve } from '../geometry/curve.js';
import { signedArea } from '../geometry/polyline.js';
import type { Boundaries } from './boundaries.js';
import { COLOUR_BITS, THIN_PART } from './line-parts.js';

/** An area's outline: its outer ring first, then its holes, as closed curves made of shared arcs. */
export interface Face {
  readonly component: number;
  readonly label: number;
  /** Whether it is a line that runs into a solid area of its own colour. */
  readonly linePart: boolean;
  readonly rings: readonly Curve[];
}

/** Assembles the outlines of all areas that are not bare from the fitted arcs. */
export function assembleFaces(bounds: Boundaries, curves: readonly Curve[]): Face[] {
  const { arcs, components, stride } = bounds;
  const rings = new Map<number, Curve[]>();
  const addRing = (component: number, ring: Curve): void => {
    if (components.label[component] === 0) return;
    const list = rings.get(component);
    if (list) list.push(ring);
    else rings.set(component, [ring]);
  };

  // Directed arcs by the corner and direction they leave in: index * 2, + 1 when walked backwards.
  const leaving = new Map<number, number>();
  arcs.forEach((arc, i) => {
    if (arc.closed) {
      addRing(arc.left, curves[i]);
      addRing(arc.right, reverseCurve(curves[i]));
      return;
    }
    leaving.set(arc.corners[0] * 4 + arc.firstStep, i * 2);
    leaving.set(arc.corners[arc.corners.length - 1] * 4 + ((arc.lastStep + 2) & 3), i * 2 + 1);
  });
  const walked = new Uint8Array(arcs.length * 2);
  for (let start = 0; start < walked.length; start++) {
    const first = arcs[start >> 1];
    if (walked[start] || first.closed) continue;
    const parts: Curve[] = [];
    let at = start;
    while (!walked[at]) {
      walked[at] = 1;
      const arc = arcs[at >> 1];
      const backwards = (at & 1) === 1;
      parts.push(backwards ? reverseCurve(curves[at >> 1]) : curves[at >> 1]);
      const corner = backwards ? arc.corners[0] : arc.corners[arc.corners.length - 1];
      const step = backwards ? (arc.firstStep + 2) & 3 : arc.lastStep;
      // The area lies to the left: the first boundary found when turning from the left is its next.
      const next = [3, 0, 1].map((turn) => leaving.get(corner * 4 + ((step + turn) & 3))).find((v) => v !== undefined);
      if (next === undefined) {
        throw new Error(`outline: no way on at corner ${corner % stride}, ${Math.floor(corner / stride)}`);
      }
      at = next;
    }
    addRing((start & 1) === 1 ? first.right : first.left, joinCurves(parts));
  }

  const faces: Face[] = [];
  for (const [component, list] of [...rings].sort((a, b) => a[0] - b[0])) {
    const sizes = list.map((ring) => Math.abs(signedArea(flatten(ring, 0.5))));
    const order = list.map((_, i) => i).sort((a, b) => sizes[b] - sizes[a] || a - b);
    const label = components.label[component];
    const linePart = (label & THIN_PART) !== 0;
    faces.push({ component, label: label & COLOUR_BITS, linePart, rings: order.map((i) => list[i]) });
  }
  return faces;
}
