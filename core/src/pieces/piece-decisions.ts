import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { fromHex } from '../colour/srgb.js';
import { boundsOf, distanceToRings, isInside, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Anchor } from '../trace/colour-decisions.js';
import type { GradientChoice } from './gradient-areas.js';
import type { PieceKind } from './piece.js';

/** What a decision on a piece holds on to: its colour and a place inside it, as for colours, and its size. */
export interface PieceAnchor extends Anchor {
  /** Area as a share of the whole picture, so that it stays the same when the picture is scaled. */
  readonly share: number;
}

/** A piece as decisions name it: by its anchor, or by its name if it was drawn by hand. */
export type PieceRef = PieceAnchor | { readonly drawn: string };

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
  /** Lines its rows follow: shares of the source picture's sides, u and v in turn. */
  | { readonly kind: 'guides'; readonly at: PieceRef; readonly lines: number[][] }
  /** A gradient is laid over it, or taken away where it is null. */
  | { readonly kind: 'gradient'; readonly at: PieceRef; readonly fill: GradientChoice | null }
  /** Where the needle comes in, or leaves. */
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

/** A piece a decision may mean. */
export interface Candidate {
  readonly drawn?: string;
  readonly rings: readonly Points[];
  readonly bounds: Bounds;
  /** Colour before the light is changed. */
  readonly hex: string;
  readonly share: number;
}

/** A place in the hoop: mm around its middle. */
export type ToHoop = (u: number, v: number) => { readonly x: number; readonly y: number };

/** A piece found at the place of a decision may differ in colour (CIEDE2000) and in area by this much. */
const FAR_IN_COLOUR = 12;
const TIMES_LARGER = 4;
/** A piece that lies beside the place must be this near, in mm, and of nearly the same size. */
const BESIDE_MM = 1.5;
const TIMES_LARGER_BESIDE = 1.6;
/** A piece of another colour must be of just the same size. */
const TIMES_LARGER_RECOLOURED = 1.1;

export function candidateOf(rings: readonly Points[], hex: string, share: number, drawn?: string): Candidate {
  return { rings, bounds: boundsOf(rings), hex, share, drawn };
}

/**
 * The piece a decision means: of those at its place and of its colour the one nearest in size; failing that, one of the
 * same size close by.
 * @returns its index, or -1 where there is none
 */
export function findPieceAt(candidates: readonly Candidate[], ref: PieceRef, toHoop: ToHoop): number {
  if ('drawn' in ref) return candidates.findIndex((candidate) => candidate.drawn === ref.drawn);
  const { x, y } = toHoop(ref.u, ref.v);
  const lab = rgbToLab(fromHex(ref.hex));
  let best = -1;
  let least = Infinity;
  candidates.forEach(({ drawn, rings, bounds, hex, share }, i) => {
    if (drawn !== undefined) return;
    const apart = Math.max(bounds.left - x, x - bounds.right, bounds.top - y, y - bounds.bottom);
    if (apart > BESIDE_MM) return;
    const times = Math.max(share, 1e-9) / Math.max(1e-9, ref.share);
    const larger = Math.max(times, 1 / times);
    if (larger > TIMES_LARGER) return;
    const far = ciede2000(lab, rgbToLab(fromHex(hex)));
    // Colours that were put together change the colour of a piece, but not its shape.
    if (far > FAR_IN_COLOUR && larger > TIMES_LARGER_RECOLOURED) return;
    let score = larger + far / FAR_IN_COLOUR;
    if (apart > 0 || !isInside(rings, x, y)) {
      if (larger > TIMES_LARGER_BESIDE) return;
      const gap = distanceToRings(rings, x, y);
      if (gap > BESIDE_MM) return;
      // Worse than whatever the place lies in.
      score += 10 + gap;
    }
    if (score < least) {
      least = score;
      best = i;
    }
  });
  return best;
}
