import type { Curve } from '../geometry/curve.js';
import type { Point, Points } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import type { Way } from '../stitches/stitch-kind.js';

/** A piece moved to where stitches of its shape are always made, and how far it was moved. */
export interface InPlace {
  readonly piece: Piece;
  readonly way: Way;
  readonly dx: number;
  readonly dy: number;
}

/** Coordinates are taken in micrometres, as the names of shapes are: the same letter elsewhere is the same to the bit. */
const PER_MM = 1000;

/**
 * Letters move with every character that is typed and stay what they are: their stitches are made at the corner of their
 * box, wherever they stand, and moved there.
 * @param reaches whether the piece reaches under what is sewn later, which lies elsewhere
 * @returns undefined for all that is no letter by itself
 */
export function inPlace(piece: Piece, way: Way, reaches: boolean): InPlace | undefined {
  const { guides, ramp } = piece.choices;
  const isAlone = piece.reading !== undefined && piece.family === 'column' && !reaches;
  if (!isAlone || (guides?.length ?? 0) > 0 || ramp) return undefined;
  const { left: dx, top: dy } = piece.bounds;
  const point = ({ x, y }: Point): Point => ({ x: rounded(x - dx), y: rounded(y - dy) });
  const points = (list: Points): Points => list.map((v, i) => rounded(v - (i % 2 === 0 ? dx : dy)));
  const curve = (own: Curve): Curve => ({ ...own, points: points(own.points) });
  return {
    piece: {
      ...piece,
      outline: piece.outline.map(curve),
      paths: piece.paths.map(curve),
      columns: piece.columns.map((own) => ({ ...own, rungs: points(own.rungs), spine: points(own.spine) })),
      anchor: point(piece.anchor),
    },
    way: {
      entry: way.entry && point(way.entry),
      exit: way.exit && point(way.exit),
      next: way.next && point(way.next),
    },
    dx,
    dy,
  };
}

const rounded = (mm: number): number => Math.round(mm * PER_MM) / PER_MM;

/** Stitches made in place, where their piece stands. */
export const movedBack = (runs: readonly Points[], { dx, dy }: InPlace): Points[] =>
  runs.map((run) => run.map((v, i) => v + (i % 2 === 0 ? dx : dy)));
