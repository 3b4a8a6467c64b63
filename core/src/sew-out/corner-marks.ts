import { QUARTER } from '../artwork/outlines.js';
import type { Bounds } from '../geometry/polyline.js';
import { newShape } from '../objects/shape-of-piece.js';
import type { ShapeObject } from '../objects/design-object.js';
import type { Point } from '../geometry/vector.js';
import type { DrawnPath } from '../pieces/drawn.js';
import type { CurveNode } from '../geometry/curve.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { ThreadChoice } from '../pieces/piece-ref.js';

/** A mark is a dot inside a ring: nothing else on a sewn piece has one middle twice. */
export const DOT_MM = 1.5;
export const RING_MM = { outer: 3.7, inner: 2.6 } as const;
/** Marks lie on the cloth by such ids, one a corner, clockwise from the upper left. */
const MARK_IDS = ['corner-mark-1', 'corner-mark-2', 'corner-mark-3', 'corner-mark-4'] as const;

/** Four marks at the corners of a box around the middle, by which a photograph of the sewn design is laid over it. */
export function cornerMarks(halfWidthMm: number, halfHeightMm: number, paint: ThreadChoice): CornerMarks {
  const corners = [
    { x: -halfWidthMm, y: -halfHeightMm },
    { x: halfWidthMm, y: -halfHeightMm },
    { x: halfWidthMm, y: halfHeightMm },
    { x: -halfWidthMm, y: halfHeightMm },
  ];
  const objects = corners.flatMap(({ x, y }, k): ShapeObject[] => [
    { ...newShape(`${MARK_IDS[k]}-dot`, null, [circle(x, y, DOT_MM)], paint), name: 'Corner mark', as: 'satin' },
    {
      ...newShape(MARK_IDS[k], null, [circle(x, y, RING_MM.outer), circle(x, y, RING_MM.inner)], paint),
      name: 'Corner mark',
      as: 'satin',
    },
  ]);
  // Thread from a dot to its ring would make one thing of both.
  const decisions = objects.map(({ id }): PieceDecision => ({
    kind: 'connect',
    at: { object: id },
    how: 'cut',
    line: [],
  }));
  return { objects, decisions };
}

/** Marks as objects of a design, and what is said of them. */
export interface CornerMarks {
  readonly objects: readonly ShapeObject[];
  readonly decisions: readonly PieceDecision[];
}

/** Middles of the marks of a design, clockwise from the upper left; none where it has not all four. */
export function marksOf(pieces: readonly { readonly object: string; readonly bounds: Bounds }[]): Point[] | undefined {
  const found = MARK_IDS.map((id) => pieces.find(({ object }) => object === id));
  const marks = found.flatMap((piece) =>
    piece ? [{ x: (piece.bounds.left + piece.bounds.right) / 2, y: (piece.bounds.top + piece.bounds.bottom) / 2 }] : [],
  );
  return marks.length === MARK_IDS.length ? marks : undefined;
}

/** Whether an object is part of a mark: nothing is measured on it. */
export const isMark = (object: string): boolean => object.startsWith('corner-mark-');

/** A circle of four curves. */
export function circle(x: number, y: number, r: number): DrawnPath {
  const k = r * QUARTER;
  const nodes: CurveNode[] = [
    [x + r, y, 0, -k, 0, k],
    [x, y + r, k, 0, -k, 0],
    [x - r, y, 0, k, 0, -k],
    [x, y - r, -k, 0, k, 0],
  ];
  return { closed: true, nodes };
}
