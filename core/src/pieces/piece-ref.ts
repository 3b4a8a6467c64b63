import type { Anchor } from '../trace/colour-decisions.js';

/** What a decision on a piece holds on to: its colour and a place inside it, as for colours, and its size. */
export interface PieceAnchor extends Anchor {
  /** Area as a share of the whole picture, so that it stays the same when the picture is scaled. */
  readonly share: number;
}

/**
 * A piece as decisions, selections and the order name it: the object it is of, and which of its pieces. Pieces that a
 * picture's trace finds go by an anchor in that picture, those of other objects by their part; an object of one piece
 * needs neither.
 */
export interface PieceRef {
  readonly object: string;
  readonly anchor?: PieceAnchor;
  readonly part?: string;
}

/** A thread somebody chose: that of a colour of the picture, one of a chart, or simply a colour. */
export type ThreadChoice =
  { readonly like: Anchor } | { readonly hex: string } | { readonly chart: string; readonly code: string };
