import type { Matrix } from '../artwork/matrix.js';
import type { GradientChoice } from './gradient-choice.js';
import type { ConnectChoice, PieceKind } from './sewn-as.js';
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
  /** Lies elsewhere, is larger or turned: a map of its object's own frame. */
  | { readonly kind: 'place'; readonly at: PieceRef; readonly by: Matrix }
  /** Options of its stitch kind; later ones are added to those said before. */
  | { readonly kind: 'stitch'; readonly at: PieceRef; readonly set: Readonly<Record<string, number | string>> }
  /** Lines its rows follow, in its object's own frame: u and v in turn. */
  | { readonly kind: 'guides'; readonly at: PieceRef; readonly lines: number[][] }
  /** A gradient is laid over it, or taken away where it is null. */
  | { readonly kind: 'gradient'; readonly at: PieceRef; readonly fill: GradientChoice | null }
  /** The way to it is cut, kept, or led along a line in its object's own frame. */
  | { readonly kind: 'connect'; readonly at: PieceRef; readonly how: ConnectChoice['how']; readonly line: number[] }
  /** The machine waits for the operator before it, or not. */
  | { readonly kind: 'stop'; readonly at: PieceRef; readonly stop: boolean }
  /** Its needle points by hand, in its object's own frame: u, v and command in turn. */
  | { readonly kind: 'rows'; readonly at: PieceRef; readonly rows: number[] }
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
  place: ['by'],
  stitch: ['set'],
  guides: ['lines'],
  gradient: ['fill'],
  connect: ['how', 'line'],
  stop: ['stop'],
  rows: ['rows'],
  entry: ['u', 'v'],
  exit: ['u', 'v'],
};
