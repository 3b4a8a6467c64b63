import { IDENTITY } from '../artwork/matrix.js';
import type { TextChoices } from '../letters/layout.js';
import { FIRST_TEXT } from '../letters/new-letters.js';
import type { ThreadChoice } from '../pieces/piece-ref.js';
import type { LettersObject } from './design-object.js';

/** A text as an object of a design, in the middle of the cloth. */
export const newLetters = (id: string, choices: Partial<TextChoices>, paint: ThreadChoice): LettersObject => ({
  kind: 'letters',
  id,
  name: '',
  on: null,
  hidden: false,
  locked: false,
  place: IDENTITY,
  ...FIRST_TEXT,
  ...choices,
  path: [],
  as: 'auto',
  paint,
});
