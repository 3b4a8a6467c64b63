import type { GradientChoice } from './gradient-choice.js';
import type { PieceKind } from './sewn-as.js';
import type { PieceRef, ThreadChoice } from './piece-ref.js';

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
