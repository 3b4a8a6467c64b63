import type { Points } from '../geometry/vector.js';
import type { FoundPieces } from './found-pieces.js';
import { findAgain, type ToHoop } from './find-again.js';
import type { PieceDecision } from './piece-decisions.js';
import type { Piece } from './piece.js';
import { NO_CHOICES, type StitchChoices } from './sewn-as.js';

/** Decisions that change how a piece is sewn, but not what it is. */
export type StitchDecision = Extract<PieceDecision, { readonly kind: 'stitch' | 'guides' | 'entry' | 'exit' }>;

const KINDS: ReadonlySet<string> = new Set(['stitch', 'guides', 'entry', 'exit'] satisfies StitchDecision['kind'][]);

export const isStitchDecision = (decision: PieceDecision): decision is StitchDecision => KINDS.has(decision.kind);

/** Whether a decision has to be known before pieces are made: the corners of satin decide on its columns. */
export const shapesPieces = (decision: PieceDecision): boolean =>
  !isStitchDecision(decision) || (decision.kind === 'stitch' && 'corners' in decision.set);

/** What is chosen for a piece, with one more decision on it. */
export function choicesWith(choices: StitchChoices, decision: StitchDecision, toHoop: ToHoop): StitchChoices {
  switch (decision.kind) {
    case 'stitch':
      return { ...choices, values: { ...choices.values, ...decision.set } };
    case 'guides':
      return { ...choices, guides: decision.lines.map((line) => inHoop(line, toHoop)) };
    case 'entry':
      return { ...choices, entry: toHoop(decision.u, decision.v) };
    case 'exit':
      return { ...choices, exit: toHoop(decision.u, decision.v) };
  }
}

/** Places of an object's frame as places on the cloth. */
function inHoop(line: readonly number[], toHoop: ToHoop): Points {
  const out: Points = [];
  for (let i = 0; i + 1 < line.length; i += 2) {
    const { x, y } = toHoop(line[i], line[i + 1]);
    out.push(x, y);
  }
  return out;
}

/**
 * Carries out what was said about how single pieces are sewn. It comes after everything that makes pieces, so that such
 * a change makes none of them again.
 */
export function applyStitchDecisions(
  found: FoundPieces,
  decisions: readonly PieceDecision[],
  toHoopOf: (object: string) => ToHoop,
): FoundPieces {
  const pieces: Piece[] = found.pieces.slice();
  const lost: number[] = [];
  decisions.forEach((decision, index) => {
    if (!isStitchDecision(decision)) return;
    const toHoop = toHoopOf(decision.at.object);
    const at = findAgain(found.candidates, decision.at, toHoop);
    if (at < 0) {
      if (!found.lost.includes(index)) lost.push(index);
      return;
    }
    const piece = pieces[at];
    const choices = choicesWith(piece.choices ?? NO_CHOICES, decision, toHoop);
    pieces[at] = { ...piece, choices, decisions: [...new Set([...piece.decisions, index])] };
  });
  return { ...found, pieces, lost: [...found.lost, ...lost].sort((a, b) => a - b) };
}
