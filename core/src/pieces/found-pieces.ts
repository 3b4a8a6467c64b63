import type { Paint } from './paint.js';
import type { Candidate } from './find-again.js';
import type { BarePiece, Piece } from './piece.js';

/** A piece to be sewn before another, or before or after all others; indices of pieces. */
export interface PieceMove {
  readonly piece: number;
  readonly before: number | 'first' | 'last';
}

/** An area that is not sewn because it is too small. */
export interface SmallArea {
  readonly object: string;
  readonly x: number;
  readonly y: number;
  readonly areaMm2: number;
  readonly hex: string;
}

/** Pieces found, and what was left out. */
export interface FoundPieces {
  readonly pieces: readonly Piece[];
  /** What decisions on each piece are matched with. */
  readonly candidates: readonly Candidate[];
  /** What each thread of the pieces is to be, in thread order: colours of the picture first. */
  readonly paints: readonly Paint[];
  readonly tooSmall: readonly SmallArea[];
  /** Pieces left bare, each with the decision that did it. */
  readonly bare: readonly BarePiece[];
  /** Decisions that found no piece, by their place in the list. */
  readonly lost: readonly number[];
  readonly moves: readonly PieceMove[];
}
