import type { KindFamily } from '../../pieces/sewn-as.js';
import type { StitchKind } from '../stitch-kind.js';
import { CONTOUR } from './contour.js';
import { CROSS_HATCH } from './cross-hatch.js';
import { GRADIENT } from './gradient.js';
import { MOTIF_FILL } from './motif-fill.js';
import { MOTIF_LINE } from './motif-line.js';
import { RUNNING } from './running.js';
import { SATIN } from './satin.js';
import { SPIRAL } from './spiral.js';
import { STIPPLE } from './stipple.js';
import { TATAMI } from './tatami.js';
import { TURNING } from './turning.js';
import { ZIGZAG } from './zigzag.js';

/** All stitch kinds. A new one is a file beside this one and a line here: everything else reads this list. */
export const STITCH_KINDS: readonly StitchKind[] = [
  RUNNING,
  MOTIF_LINE,
  SATIN,
  ZIGZAG,
  TATAMI,
  TURNING,
  CONTOUR,
  SPIRAL,
  CROSS_HATCH,
  GRADIENT,
  MOTIF_FILL,
  STIPPLE,
];

const BY_ID = new Map(STITCH_KINDS.map((kind) => [kind.id, kind]));

/** Whether there is a stitch kind of that name. */
export const isStitchKind = (id: unknown): id is string => typeof id === 'string' && BY_ID.has(id);

/**
 * Looks a stitch kind up.
 * @throws RangeError if there is none of that name; the message lists those there are.
 */
export function stitchKindOf(id: string): StitchKind {
  const kind = BY_ID.get(id);
  if (!kind) throw new RangeError(`stitch kind: there is no "${id}"; known are ${[...BY_ID.keys()].join(', ')}`);
  return kind;
}

/** What a stitch kind needs to know of a piece. */
export const familyOf = (id: string): KindFamily => stitchKindOf(id).family;
