import type { StitchSettings } from '../stitches/generate.js';

/** When a thread is cut: never, where the next needle point is far, or at every way. */
export const TRIMS = ['never', 'beyond', 'always'] as const;
export type Trims = (typeof TRIMS)[number];

export interface SewSettings {
  readonly stitches: StitchSettings;
  /** Degrees by which the rows of neighbouring fills differ at least. */
  readonly angleStep: number;
  /** Overlap sewn later; by the fabric where it is null. */
  readonly overlapMm: number | null;
  /** The thread is cut when the next needle point is farther away than this. */
  readonly trimOverMm: number;
  /** Whether threads are cut at all, or at every way. */
  readonly trims: Trims;
  /** How threads are held where they begin and end, by its name. */
  readonly tie: string;
  /** Longer ways lead below pieces sewn later where they can. */
  readonly hideTravel: boolean;
  /** Nothing reaches under its neighbours: what is only looked at for a moment is there a third sooner. */
  readonly edgeToEdge?: boolean;
}
