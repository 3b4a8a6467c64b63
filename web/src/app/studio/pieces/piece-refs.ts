import {
  candidatesOf,
  objectFrame,
  refOfPiece,
  wholeMm2Of,
  type Candidate,
  type Design,
  type DesignObject,
  type Piece,
  type PieceRef,
  type Yardstick,
} from '@open-kite/core';

const yardstick = ({ colours }: Pick<Design, 'colours'>, objects: readonly DesignObject[]): Yardstick => ({
  wholeMm2: (id) => wholeMm2Of(objects, id),
  colours,
});

/** What a piece of a design is called, so that it is found again. */
export const refIn = (design: Pick<Design, 'colours'>, piece: Piece, objects: readonly DesignObject[]): PieceRef =>
  refOfPiece(piece, yardstick(design, objects), objectFrame(objects, piece.object).toFrame);

/** Pieces among which references are found again. */
export const candidatesIn = (
  { colours }: Pick<Design, 'colours'>,
  pieces: readonly Piece[],
  objects: readonly DesignObject[],
): Candidate[] => candidatesOf(pieces, yardstick({ colours }, objects));
