import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { Recipe } from '../recipe/recipe.js';

/** How bad a finding is: the machine will stumble, it may, or thread and time are wasted. */
export const LEVELS = ['problem', 'advice', 'waste'] as const;
export type Level = (typeof LEVELS)[number];

/** What a finding costs as it is, where that can be told. */
export interface Cost {
  readonly stitches?: number;
  readonly trims?: number;
  readonly changes?: number;
  readonly mm2?: number;
}

/** Something that is done to the recipe, so that a finding goes away. Plain data: it travels between workers and is shown first. */
export interface Repair {
  readonly id: string;
  /** What it does, as a button says it. */
  readonly label: string;
  /** Whether no shape that can be seen changes. */
  readonly safe: boolean;
  /** Said of single pieces. */
  readonly decisions?: readonly PieceDecision[];
  /** Said of all pieces, or of the order. */
  readonly stitches?: Partial<Recipe['stitches']>;
  readonly order?: Partial<Recipe['order']>;
  /** Pictures whose plain ground is left bare. */
  readonly bareGround?: readonly string[];
}

/** Something about a design that will or may go wrong at the machine, or is wasted. */
export interface Finding {
  /** Check that found it. */
  readonly kind: string;
  readonly level: Level;
  /** What it is, in a few words. */
  readonly text: string;
  /** Why it matters at the machine. */
  readonly why: string;
  /** Where, in mm around the hoop's centre; absent where it is about the whole design. */
  readonly at?: { readonly x: number; readonly y: number };
  /** Names of the pieces it is about. */
  readonly pieces: readonly string[];
  /** How much worse it is than its limit: 1 is just over it. Sorts findings of a kind. */
  readonly harm: number;
  readonly cost?: Cost;
  readonly repairs: readonly Repair[];
}
