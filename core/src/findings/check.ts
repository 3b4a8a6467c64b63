import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { Piece } from '../pieces/piece.js';
import type { PieceRef } from '../pieces/piece-ref.js';
import type { Examined } from './examined.js';
import type { Finding, Repair } from './finding.js';

/** One thing that is looked for. */
export interface Check {
  readonly id: string;
  /** What it is called where findings are grouped. */
  readonly name: string;
  /** Why it matters at the machine, in a sentence. */
  readonly why: string;
  /** What it finds; limits depend on fabric, thread and machine. */
  readonly find: (examined: Examined) => Omit<Finding, 'kind' | 'why'>[];
}

/** The other parts that are left of the shape a piece is of: what is said of one holds for all of them. */
function otherParts(piece: Piece, pieces: readonly Piece[]): Piece[] {
  const { object, layer, shapeMm2, areaMm2 } = piece;
  if (shapeMm2 <= areaMm2) return [];
  return pieces.filter((p) => p !== piece && p.object === object && p.layer === layer && p.shapeMm2 === shapeMm2);
}

/**
 * A repair that says something of one piece; none where the piece cannot be named by itself.
 * @param fits whether another part of its shape may be meant by it as well: kinds are said of the whole shape
 */
export function sayOf(
  examined: Examined,
  piece: Piece,
  repair: Omit<Repair, 'decisions'>,
  say: (at: PieceRef) => PieceDecision,
  fits: (part: Piece) => boolean = () => false,
): Repair[] {
  const others = otherParts(piece, examined.design?.pieces ?? []);
  const at = others.every(fits) ? examined.refOf(piece) : undefined;
  return at ? [{ ...repair, decisions: [say(at)] }] : [];
}

/** Leaves a piece bare. */
export const leaveBare = (examined: Examined, piece: Piece, label = 'Leave it bare', safe = false): Repair[] =>
  sayOf(examined, piece, { id: 'bare', label, safe }, (at) => ({ kind: 'bare', at }));

/** Sews a piece in another kind. */
export const sewAs = (examined: Examined, piece: Piece, as: string, label: string, passes = 0): Repair[] =>
  sayOf(
    examined,
    piece,
    { id: as, label, safe: false },
    (at) => ({ kind: 'sew', at, as, passes }),
    // Parts that are sewn alike, and about as wide, go on so.
    ({ kind, widthMm }) => kind === piece.kind && widthMm <= 2 * piece.widthMm,
  );

export const mm = (value: number, digits = 1): string => `${value.toFixed(digits)} mm`;
