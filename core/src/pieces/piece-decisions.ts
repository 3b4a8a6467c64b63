import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { fromHex } from '../colour/srgb.js';
import type { Bounds } from '../geometry/polyline.js';
import { isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Anchor } from '../trace/colour-decisions.js';

/** What a decision on a piece holds on to: its colour and a place inside it, as for colours, and its size. */
export interface PieceAnchor extends Anchor {
  /** Area as a share of the whole picture, so that it stays the same when the picture is scaled. */
  readonly share: number;
}

/** Something the user said about a piece. */
export interface PieceDecision {
  /** Nothing is sewn there; what is beside it keeps its shape. */
  readonly kind: 'bare';
  readonly at: PieceAnchor;
}

/** A piece a decision may mean. */
export interface Candidate {
  readonly rings: readonly Points[];
  readonly bounds: Bounds;
  /** Colour before the light is changed. */
  readonly hex: string;
  readonly share: number;
}

/** A piece found at the place of a decision may differ in colour (CIEDE2000) and in area by this much. */
const FAR_IN_COLOUR = 12;
const TIMES_LARGER = 4;

/**
 * The piece a decision means: the one at its place, of its colour and about its size.
 * @param x place in mm around the middle of the hoop; `y` likewise
 * @returns its index, or -1 where there is none
 */
export function findPieceAt(candidates: readonly Candidate[], anchor: PieceAnchor, x: number, y: number): number {
  const lab = rgbToLab(fromHex(anchor.hex));
  return candidates.findIndex(({ rings, bounds, hex, share }) => {
    if (x < bounds.left || x > bounds.right || y < bounds.top || y > bounds.bottom) return false;
    const times = share / Math.max(1e-9, anchor.share);
    if (times > TIMES_LARGER || times < 1 / TIMES_LARGER) return false;
    if (ciede2000(lab, rgbToLab(fromHex(hex))) > FAR_IN_COLOUR) return false;
    return isInside(rings, x, y);
  });
}
