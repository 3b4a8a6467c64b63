import type { Piece } from '../pieces/piece.js';
import { planAngles } from '../stitches/angles.js';
import type { Way } from '../stitches/stitch-kind.js';
import { planWays } from './plan-ways.js';
import type { SewSettings } from './sew-settings.js';

/** What is decided about all pieces before any is sewn. */
export interface SewingPlan {
  /** Angle of each piece's rows, in degrees. */
  readonly angles: readonly number[];
  /** Where pieces are entered and left, by place in the order. */
  readonly ways: readonly Way[];
}

/** Plans angles, entries and exits. */
export function planSewing(pieces: readonly Piece[], order: readonly number[], settings: SewSettings): SewingPlan {
  const { stitches, angleStep, trimOverMm } = settings;
  return { angles: planAngles(pieces, stitches.angle, angleStep), ways: planWays(pieces, order, trimOverMm) };
}
