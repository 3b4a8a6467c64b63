import { IDENTITY, type Bounds, type Matrix } from '@open-kite/core';
import type { Place } from '../stage/camera';

// Maps of the cloth that gestures and typed numbers mean; all in mm.

/** What the frame of chosen things can be taken hold of by. */
export type FramePart = 'nw' | 'ne' | 'se' | 'sw' | 'turn' | 'inside';

/** Smaller than this share nothing is scaled in one go. */
const LEAST_SCALE = 0.02;
/** Turns snap to this many degrees with Shift held. */
const SNAP_DEGREES = 15;

export const moved = (dx: number, dy: number): Matrix => ({ ...IDENTITY, e: dx, f: dy });

/** A map of directions that leaves a place where it is. */
export const about = ({ x, y }: Place, a: number, b: number, c: number, d: number): Matrix => ({
  a,
  b,
  c,
  d,
  e: x - a * x - c * y,
  f: y - b * x - d * y,
});

export const scaled = (at: Place, sx: number, sy: number): Matrix => about(at, sx, 0, 0, sy);

export function turned(at: Place, degrees: number): Matrix {
  // Quarter turns are exact: what stands upright stays so.
  const quarter = Math.round(degrees / 90);
  const exact = Math.abs(degrees - quarter * 90) < 1e-9;
  const t = (degrees * Math.PI) / 180;
  const cos = exact ? [1, 0, -1, 0][((quarter % 4) + 4) % 4] : Math.cos(t);
  const sin = exact ? [0, 1, 0, -1][((quarter % 4) + 4) % 4] : Math.sin(t);
  return about(at, cos, sin, -sin, cos);
}

/** Left and right, or top and bottom, exchanged. */
export const mirrored = (at: Place, axis: 'x' | 'y'): Matrix =>
  scaled(at, axis === 'x' ? -1 : 1, axis === 'y' ? -1 : 1);

export const middleOf = ({ left, top, right, bottom }: Bounds): Place => ({
  x: (left + right) / 2,
  y: (top + bottom) / 2,
});

export const cornersOf = ({
  left,
  top,
  right,
  bottom,
}: Bounds): Readonly<Record<'nw' | 'ne' | 'se' | 'sw', Place>> => ({
  nw: { x: left, y: top },
  ne: { x: right, y: top },
  se: { x: right, y: bottom },
  sw: { x: left, y: bottom },
});

const OPPOSITE = { nw: 'se', ne: 'sw', se: 'nw', sw: 'ne' } as const;

/**
 * What pulling a part of a frame from one place to another means.
 * @param free a move keeps to one direction and a turn to steps, `loose` a scale changes the proportion
 */
export function pulled(part: FramePart, box: Bounds, from: Place, to: Place, free: boolean, loose: boolean): Matrix {
  if (part === 'inside') {
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    if (!free) return moved(dx, dy);
    return Math.abs(dx) >= Math.abs(dy) ? moved(dx, 0) : moved(0, dy);
  }
  if (part === 'turn') {
    const { x, y } = middleOf(box);
    const angle = (place: Place): number => (Math.atan2(place.y - y, place.x - x) * 180) / Math.PI;
    const degrees = angle(to) - angle(from);
    return turned({ x, y }, free ? Math.round(degrees / SNAP_DEGREES) * SNAP_DEGREES : degrees);
  }
  const corners = cornersOf(box);
  const fixed = corners[OPPOSITE[part]];
  const corner = corners[part];
  const [cx, cy] = [corner.x - fixed.x, corner.y - fixed.y];
  // Where the corner itself would be: it need not have been taken hold of exactly.
  const [px, py] = [cx + to.x - from.x, cy + to.y - from.y];
  const most = (share: number): number => (Number.isFinite(share) ? Math.max(LEAST_SCALE, share) : 1);
  if (loose) return scaled(fixed, most(px / cx), most(py / cy));
  const share = most((px * cx + py * cy) / (cx * cx + cy * cy));
  return scaled(fixed, share, share);
}
