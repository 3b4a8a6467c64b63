import type { Points } from '../geometry/vector.js';

/** Looks that a cloth which is laid on may have. */
export const CLOTH_LOOKS = ['plain', 'twill', 'felt', 'leather', 'velvet', 'check', 'dots', 'print'] as const;
export type ClothLook = (typeof CLOTH_LOOKS)[number];

/** A print: one of the project's pictures, laid side by side, so wide on the cloth. */
export interface PrintChoice {
  readonly source: string;
  readonly widthMm: number;
}

/** A cloth of an applique. */
export interface ClothChoice {
  readonly look: ClothLook;
  readonly hex: string;
  /** What is printed on it, where its look is a print; plain where nothing is said. */
  readonly print?: PrintChoice;
}

/** What a print looks like: small, since the cloth is seen from afar, six hexadecimal digits a pixel. */
export interface PrintedTile {
  readonly width: number;
  readonly height: number;
  readonly pixels: string;
}

/** The cloth that the steps of an applique hold, and its edge in mm around the hoop's centre. */
export interface LaidCloth extends ClothChoice {
  readonly rings: readonly Points[];
}
