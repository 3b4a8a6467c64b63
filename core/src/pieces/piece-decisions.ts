import type { Anchor } from '../trace/colour-decisions.js';
import type { GradientChoice } from './gradient-areas.js';
import type { PieceKind } from './piece.js';

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

/** Something the user said about a piece; they hold in the order they were said. */
export type PieceDecision =
  /** Nothing is sewn there; what is beside it keeps its shape. */
  | { readonly kind: 'bare'; readonly at: PieceRef }
  /** Sewn however small it is. */
  | { readonly kind: 'keep'; readonly at: PieceRef }
  /** Sewn this way, whatever its width; passes of a running line, 0 by its width. */
  | { readonly kind: 'sew'; readonly at: PieceRef; readonly as: PieceKind; readonly passes: number }
  /** Sewn with another thread. */
  | { readonly kind: 'thread'; readonly at: PieceRef; readonly to: ThreadChoice }
  /** Sewn just before another piece, or before or after all others. */
  | { readonly kind: 'order'; readonly at: PieceRef; readonly before: PieceRef | 'first' | 'last' }
  /** Becomes one piece with another, whose thread it takes. */
  | { readonly kind: 'join'; readonly at: PieceRef; readonly to: PieceRef }
  /** Falls into the parts that do not touch; a net of lines into its branches. */
  | { readonly kind: 'apart'; readonly at: PieceRef }
  /** What lies above is cut out of it, or it is kept whole below. */
  | { readonly kind: 'hidden'; readonly at: PieceRef; readonly cut: boolean }
  /** Options of its stitch kind; later ones are added to those said before. */
  | { readonly kind: 'stitch'; readonly at: PieceRef; readonly set: Readonly<Record<string, number | string>> }
  /** Lines its rows follow, in its object's own frame: u and v in turn. */
  | { readonly kind: 'guides'; readonly at: PieceRef; readonly lines: number[][] }
  /** A gradient is laid over it, or taken away where it is null. */
  | { readonly kind: 'gradient'; readonly at: PieceRef; readonly fill: GradientChoice | null }
  /** Where the needle comes in, or leaves, in its object's own frame. */
  | { readonly kind: 'entry' | 'exit'; readonly at: PieceRef; readonly u: number; readonly v: number };

/** What each kind of decision carries besides its piece. */
export const PIECE_DECISIONS: Readonly<Record<PieceDecision['kind'], readonly string[]>> = {
  bare: [],
  keep: [],
  sew: ['as', 'passes'],
  thread: ['to'],
  order: ['before'],
  join: ['to'],
  apart: [],
  hidden: ['cut'],
  stitch: ['set'],
  guides: ['lines'],
  gradient: ['fill'],
  entry: ['u', 'v'],
  exit: ['u', 'v'],
};
