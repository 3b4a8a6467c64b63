import type { DesignObject } from '../objects/design-object.js';
import { objectFrame } from '../objects/frames.js';
import type { FoundPieces } from '../pieces/found-pieces.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import { applyStitchDecisions } from '../pieces/stitch-choices.js';
import { rampPieces } from './gradient-ramps.js';
import { step } from './step.js';

interface DressInputs {
  readonly found: FoundPieces;
  /** Thread of each paint of the pieces. */
  readonly threadOf: readonly number[];
  readonly decisions: readonly PieceDecision[];
  readonly objects: readonly DesignObject[];
  /** Colours of the threads and of the cloth, where rows of a gradient lie by them. */
  readonly hexes: readonly string[] | null;
  readonly clothHex: string | null;
}

/** Pieces with their threads, and with what is said about how single ones are sewn; none is made anew. */
export const dressStep = step('pieces as they are sewn', (inputs: DressInputs): FoundPieces => {
  const { found, threadOf, decisions, objects, hexes, clothHex } = inputs;
  const pieces = found.pieces.map((piece) => ({ ...piece, thread: threadOf[piece.thread] }));
  const decided = applyStitchDecisions({ ...found, pieces }, decisions, (id) => objectFrame(objects, id).toHoop);
  if (hexes === null) return decided;
  const threads = hexes.map((hex) => ({ hex }));
  return { ...decided, pieces: rampPieces(decided, found.paints, threadOf, threads, clothHex ?? '#ffffff') };
});
