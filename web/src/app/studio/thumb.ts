import { svgPath, type Bounds, type Curve } from '@open-kite/core';

/** A shape drawn small: its path, and the square of the hoop that is shown. */
export interface ThumbShape {
  readonly path: string;
  readonly viewBox: string;
  /** Side of that square in mm. */
  readonly side: number;
}

/**
 * Shows a piece in the middle of a square with some room around it.
 * @param shown mm that the square shows; as many as the piece needs where it is not given
 */
export function thumbOf(
  piece: { readonly outline: readonly Curve[]; readonly bounds: Bounds },
  shown?: number,
): ThumbShape {
  const { left, top, right, bottom } = piece.bounds;
  const side = (shown ?? Math.max(right - left, bottom - top, 1)) * 1.15;
  const x = (left + right - side) / 2;
  const y = (top + bottom - side) / 2;
  return {
    side,
    path: piece.outline.map((curve) => svgPath(curve, side > 20 ? 1 : 2, true)).join(''),
    viewBox: `${x.toFixed(2)} ${y.toFixed(2)} ${side.toFixed(2)} ${side.toFixed(2)}`,
  };
}
