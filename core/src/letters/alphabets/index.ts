import type { StrokeAlphabet } from '../alphabet.js';
import { LINE_SCRIPT } from './line-script.js';
import { ROUND_SANS } from './round-sans.js';
import { ROPE_SLAB } from './rope-slab.js';

/** All stroke alphabets; the first is the usual one. A new one is a file beside this one and a line here. */
export const ALPHABETS: readonly StrokeAlphabet[] = [ROUND_SANS, ROPE_SLAB, LINE_SCRIPT];

/** The alphabet of a name; undefined where it is none of ours. */
export const alphabetOf = (id: string): StrokeAlphabet | undefined => ALPHABETS.find((own) => own.id === id);
