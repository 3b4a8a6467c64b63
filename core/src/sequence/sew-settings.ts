import type { StitchSettings } from '../stitches/generate.js';

export interface SewSettings {
  readonly stitches: StitchSettings;
  /** Degrees by which the rows of neighbouring fills differ at least. */
  readonly angleStep: number;
  /** Reach under neighbours sewn later; by the fabric where it is null. */
  readonly overlapMm: number | null;
  /** The thread is cut when the next needle point is farther away than this. */
  readonly trimOverMm: number;
  /** Longer ways lead below pieces sewn later where they can. */
  readonly hideTravel: boolean;
}
