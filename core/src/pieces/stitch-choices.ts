import type { Points } from '../geometry/vector.js';
import type { FoundPieces } from './found-pieces.js';
import { findAgain, movedFrame, type ToHoop } from './find-again.js';
import type { PieceDecision } from './piece-decisions.js';
import type { Piece } from './piece.js';
import { NO_CHOICES, type HandRow, type StitchChoices } from './sewn-as.js';

/** Decisions that change how a piece is sewn, but not what it is. */
export type StitchDecision = Extract<
  PieceDecision,
  { readonly kind: 'stitch' | 'guides' | 'entry' | 'exit' | 'connect' | 'stop' | 'rows' }
>;

const KINDS: ReadonlySet<string> = new Set([
  'stitch',
  'guides',
  'entry',
  'exit',
  'connect',
  'stop',
  'rows',
] satisfies StitchDecision['kind'][]);

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
    case 'connect':
      return { ...choices, connect: { how: decision.how, line: inHoop(decision.line, toHoop) } };
    case 'stop':
      return choices;
    case 'rows':
      return withRows(choices, decision.rows, toHoop);
    case 'exit':
      return { ...choices, exit: toHoop(decision.u, decision.v) };
  }
}

/** Needle points by hand: the piece is entered at the first, and left at the last. */
function withRows(choices: StitchChoices, numbers: readonly number[], toHoop: ToHoop): StitchChoices {
  const rows: HandRow[] = [];
  for (let i = 0; i + 2 < numbers.length; i += 3) {
    const { x, y } = toHoop(numbers[i], numbers[i + 1]);
    rows.push([x, y, numbers[i + 2]]);
  }
  if (rows.length === 0) return { ...choices, rows: undefined, entry: undefined, exit: undefined };
  const [entry, exit] = [rows[0], rows[rows.length - 1]].map(([x, y]) => ({ x, y }));
  return { ...choices, rows, entry, exit };
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
    const frame = movedFrame(toHoop, piece.moved);
    const choices = choicesWith(piece.choices ?? NO_CHOICES, decision, frame);
    const stopBefore = decision.kind === 'stop' ? decision.stop : piece.stopBefore;
    pieces[at] = {
      ...piece,
      choices,
      passes: passesOf(piece, choices),
      stopBefore,
      decisions: [...new Set([...piece.decisions, index])],
    };
  });
  return { ...found, pieces, lost: [...found.lost, ...lost].sort((a, b) => a - b) };
}

/** How often a line is sewn over: as it was said with its stitch kind, or else beside it; 0 goes by its width. */
function passesOf({ chosen, passes }: Piece, { values }: StitchChoices): number {
  const said = values['passes'];
  return !chosen && typeof said === 'number' ? said : passes;
}
