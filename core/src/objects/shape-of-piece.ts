import { IDENTITY } from '../artwork/matrix.js';
import { curvePath, type DrawnPath } from '../pieces/drawn.js';
import type { Piece } from '../pieces/piece.js';
import { LIMITS } from '../settings/limits.js';
import type { ThreadChoice } from '../pieces/piece-ref.js';
import type { ShapeObject } from './design-object.js';

/** A new shape around some paths. */
export const newShape = (
  id: string,
  on: string | null,
  paths: readonly DrawnPath[],
  paint: ThreadChoice,
): ShapeObject => ({
  kind: 'shape',
  id,
  name: '',
  on,
  hidden: false,
  locked: false,
  place: IDENTITY,
  role: 'piece',
  paths,
  widthMm: 0.8,
  as: 'auto',
  passes: 0,
  paint,
  copies: { count: 1, radius: on === null ? 15 : 0.15 },
  replaces: null,
});

/**
 * A found piece as a shape of the user's own: sewn as it was, with its outline, or with its middle where it is a line.
 * @param on object it is to lie on, and `toFrame` from the cloth to that one's frame
 */
export function shapeOfPiece(
  piece: Piece,
  id: string,
  on: string | null,
  toFrame: (x: number, y: number) => { readonly u: number; readonly v: number },
  paint: ThreadChoice,
): ShapeObject {
  const isLine = piece.family === 'line' && piece.paths.length > 0;
  const curves = isLine ? piece.paths : piece.outline;
  const paths = curves.map((curve) => rounded(curvePath(curve, !isLine, toFrame)));
  return {
    ...newShape(id, on, paths, paint),
    // Only lines have a width; what is wider than any line is none.
    widthMm: Math.min(LIMITS.lineWidthMm[1], Math.max(0.2, Number(piece.widthMm.toFixed(2)))),
    as: piece.chosen || isLine ? piece.kind : 'auto',
    passes: piece.passes,
  };
}

/** A millionth of the picture is finer than any needle. */
export function rounded({ closed, nodes }: DrawnPath): DrawnPath {
  const round = (v: number): number => Math.round(v * 1e6) / 1e6;
  return {
    closed,
    nodes: nodes.map(([u, v, a, b, c, d]) => [round(u), round(v), round(a), round(b), round(c), round(d)]),
  };
}
