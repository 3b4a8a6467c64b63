import type { TextChoices } from './layout.js';
import { ALPHABETS } from './alphabets/index.js';

/** A text as it is first set. */
export const FIRST_TEXT: TextChoices = {
  text: '',
  font: ALPHABETS[0].id,
  outlines: null,
  heightMm: 12,
  weight: null,
  line: 'straight',
  radiusMm: 40,
  align: 'middle',
  letterSpacingMm: 0,
  wordSpacing: 1,
  lineSpacing: 1,
  slant: 0,
  kerning: true,
  pairs: {},
};
