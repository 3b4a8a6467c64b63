import { curveThroughNodes, flattenRing, type CurveNode } from '../geometry/curve.js';
import { offset } from '../geometry/polygons.js';
import { boundsOf, isInside } from '../geometry/polyline.js';
import { direction, type Points } from '../geometry/vector.js';
import { MASK_SHAPES } from '../picture/mask.js';

const FLATNESS = 0.02;
/** Corners of a rectangular patch are rounded by this share of its shorter side. */
const CORNER_SHARE = 0.16;
/** What lies farthest out is looked for in so many directions. */
const DIRECTIONS = 96;
/** A form may lie this far above or below what it goes around, as shares of its height: pointed ones need less room so. */
const SHIFTS = [-0.16, -0.08, 0, 0.08, 0.16];
const STEPS = 24;

const corner = (x: number, y: number): CurveNode => [x, y, 0, 0, 0, 0];

/** A straight top, straight sides, and a foot that comes to a point. */
const CREST: readonly CurveNode[] = [
  corner(-0.5, -0.5),
  corner(0.5, -0.5),
  [0.5, 0.06, 0, 0, 0, 0.2],
  [0, 0.5, 0.26, -0.08, -0.26, -0.08],
  [-0.5, 0.06, 0, 0.2, 0, 0],
];

interface PatchKind {
  readonly id: string;
  readonly name: string;
  /** Whether it is as wide as it is high. */
  readonly regular?: boolean;
  /** Its outline around the origin, so wide and high, in mm. */
  readonly ring: (width: number, height: number) => Points;
}

const through =
  (nodes: readonly CurveNode[]) =>
  (width: number, height: number): Points =>
    flattenRing(
      curveThroughNodes(nodes, true, (u, v) => [u * width, v * height]),
      FLATNESS,
    );

function roundedRectangle(width: number, height: number): Points {
  const radius = CORNER_SHARE * Math.min(width, height);
  const [x, y] = [width / 2 - radius, height / 2 - radius];
  const [ring] = offset([[-x, -y, x, -y, x, y, -x, y]], radius, { join: 'round', miterLimit: 2 });
  return ring;
}

/** Forms a patch may have. */
export const PATCH_FORMS = [
  { id: 'round', name: 'Round', regular: true, ring: through(MASK_SHAPES.circle) },
  { id: 'oval', name: 'Oval', ring: through(MASK_SHAPES.ellipse) },
  { id: 'rectangle', name: 'Rectangle, rounded corners', ring: roundedRectangle },
  { id: 'shield', name: 'Shield', ring: through(MASK_SHAPES.shield) },
  { id: 'crest', name: 'Crest', ring: through(CREST) },
  { id: 'hexagon', name: 'Hexagon', ring: through(MASK_SHAPES.hexagon) },
] as const satisfies readonly PatchKind[];

export type PatchForm = (typeof PATCH_FORMS)[number]['id'];

/**
 * The smallest patch of a form that holds all of some rings, in mm: as broad as they are, or regular.
 * @throws RangeError for a form that is not known
 */
export function patchAround(form: PatchForm, rings: readonly Points[]): Points {
  const kind = PATCH_FORMS.find(({ id }) => id === form) as PatchKind | undefined;
  if (!kind) throw new RangeError(`patch: there is no form "${String(form)}"`);
  const box = boundsOf(rings);
  const [x, y] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
  const [wide, high] = [Math.max(0.1, box.right - box.left), Math.max(0.1, box.bottom - box.top)];
  const side = Math.max(wide, high);
  const [w, h] = kind.regular ? [side, side] : [wide, high];
  const points = farthest(rings);
  const placed = (size: number, shift: number): Points =>
    kind.ring(w * size, h * size).map((v, i) => v + (i % 2 === 0 ? x : y + shift * h * size));
  const holds = (size: number, shift: number): boolean => {
    const ring = [placed(size, shift)];
    for (let i = 0; i < points.length; i += 2) if (!isInside(ring, points[i], points[i + 1])) return false;
    return true;
  };
  let best = { size: Infinity, shift: 0 };
  for (const shift of SHIFTS) {
    let [low, high] = [0.5, 4];
    // No use where it would have to be larger than another one.
    if (best.size < Infinity && !holds(best.size, shift)) continue;
    for (let k = 0; k < STEPS; k++) {
      const middle = (low + high) / 2;
      if (holds(middle, shift)) high = middle;
      else low = middle;
    }
    if (high < best.size - 1e-6 || (high < best.size + 1e-6 && shift === 0)) best = { size: high, shift };
  }
  return placed(best.size, best.shift);
}

/** Of rings the points that lie farthest out, one for each of many directions. */
function farthest(rings: readonly Points[]): Points {
  const out: Points = [];
  for (let k = 0; k < DIRECTIONS; k++) {
    const { x: dx, y: dy } = direction((360 * k) / DIRECTIONS);
    let [most, px, py] = [-Infinity, 0, 0];
    for (const ring of rings) {
      for (let i = 0; i < ring.length; i += 2) {
        const far = ring[i] * dx + ring[i + 1] * dy;
        if (far > most) [most, px, py] = [far, ring[i], ring[i + 1]];
      }
    }
    out.push(px, py);
  }
  return out;
}
