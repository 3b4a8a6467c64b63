import type { Points } from '../geometry/vector.js';

/** Looks that a cloth which is laid on may have. */
export const CLOTH_LOOKS = ['plain', 'twill', 'felt', 'leather', 'velvet', 'check', 'dots'] as const;
export type ClothLook = (typeof CLOTH_LOOKS)[number];

/** A cloth of an applique. */
export interface ClothChoice {
  readonly look: ClothLook;
  readonly hex: string;
}

/** The cloth that the steps of an applique hold, and its edge in mm around the hoop's centre. */
export interface LaidCloth extends ClothChoice {
  readonly rings: readonly Points[];
}
