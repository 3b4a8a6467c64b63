import { direction } from '../geometry/vector.js';
import type { Bounds } from '../geometry/polyline.js';
import { maskBounds, type Mask } from './mask.js';

/** How a picture lies on the cloth. */
export interface Placement {
  /** Size of the whole picture before it is turned or cut. */
  readonly widthMm: number;
  readonly heightMm: number;
  /** Degrees clockwise. */
  readonly turn: number;
  /** Left and right exchanged, before it is turned. */
  readonly mirror: boolean;
  /** What of it is used; all of it where there is none. */
  readonly mask: Mask | null;
  /** Where the middle of what is used lies, in mm around the hoop's centre; there where nothing is said. */
  readonly xMm?: number;
  readonly yMm?: number;
}

/** Where a prepared picture lies, in mm around the hoop's centre. */
export interface PictureBox {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** The same placement in the middle of the hoop: what a picture becomes does not depend on where it lies. */
export const centred = <T extends Placement>(placement: T): T =>
  placement.xMm || placement.yMm ? { ...placement, xMm: 0, yMm: 0 } : placement;

/** What a placed picture covers, in mm around its own middle: the box of its mask, or of the turned picture. */
export function placedFrame(placement: Placement): Bounds {
  if (placement.mask) return maskBounds(placement.mask);
  const { x, y } = direction(placement.turn);
  const w = (placement.widthMm * Math.abs(x) + placement.heightMm * Math.abs(y)) / 2;
  const h = (placement.widthMm * Math.abs(y) + placement.heightMm * Math.abs(x)) / 2;
  return { left: -w, top: -h, right: w, bottom: h };
}

/** Finished size of a placed picture in mm. */
export function finishedSize(placement: Placement): { widthMm: number; heightMm: number } {
  const { left, top, right, bottom } = placedFrame(placement);
  return { widthMm: right - left, heightMm: bottom - top };
}

/** Hoop coordinates (mm around the middle of the frame) of a place of the source picture, both given as shares of 1. */
export function sourceToHoop(placement: Placement, u: number, v: number): { x: number; y: number } {
  const frame = placedFrame(placement);
  const x = (placement.mirror ? 0.5 - u : u - 0.5) * placement.widthMm;
  const y = (v - 0.5) * placement.heightMm;
  const { x: cos, y: sin } = direction(placement.turn);
  return {
    x: x * cos - y * sin - (frame.left + frame.right) / 2 + (placement.xMm ?? 0),
    y: x * sin + y * cos - (frame.top + frame.bottom) / 2 + (placement.yMm ?? 0),
  };
}

/** Place of the source picture, as shares of its width and height, under a place of the hoop. */
export function hoopToSource(placement: Placement, x: number, y: number): { u: number; v: number } {
  const frame = placedFrame(placement);
  const px = x - (placement.xMm ?? 0) + (frame.left + frame.right) / 2;
  const py = y - (placement.yMm ?? 0) + (frame.top + frame.bottom) / 2;
  const { x: cos, y: sin } = direction(placement.turn);
  const u = (px * cos + py * sin) / placement.widthMm;
  return { u: (placement.mirror ? -u : u) + 0.5, v: (-px * sin + py * cos) / placement.heightMm + 0.5 };
}

/**
 * Gives a placed picture another finished size; its mask goes with it.
 * @param factorX how much wider, `factorY` how much higher; they differ only for pictures that are not turned, or
 * by quarter turns
 */
export function stretch<T extends Placement>(placement: T, factorX: number, factorY: number): T {
  const { mask } = placement;
  const onSide = Math.round(placement.turn / 90) % 2 !== 0;
  return {
    ...placement,
    widthMm: placement.widthMm * (onSide ? factorY : factorX),
    heightMm: placement.heightMm * (onSide ? factorX : factorY),
    mask: mask && {
      ...mask,
      x: mask.x * factorX,
      y: mask.y * factorY,
      widthMm: mask.widthMm * factorX,
      heightMm: mask.heightMm * factorY,
    },
  };
}

/** Largest side of a finished picture in mm. */
export const LARGEST_SIDE_MM = 400;

/** The placement, scaled down where its finished size is more than a hoop holds. */
export function withinHoop<T extends Placement>(placement: T): T {
  const { widthMm, heightMm } = finishedSize(placement);
  const factor = Math.min(1, LARGEST_SIDE_MM / widthMm, LARGEST_SIDE_MM / heightMm);
  return factor < 1 ? stretch(placement, factor, factor) : placement;
}
