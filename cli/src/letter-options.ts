import { InvalidArgumentError, Option } from 'commander';
import { BASELINES, LIMITS, type Baseline, type DesignCloth } from '@open-kite/core';
import { fabric, limited } from './options.js';

/** Options of letters, as the user gave them. */
export interface LetterFlags {
  readonly font: string;
  readonly height: number;
  readonly line: Baseline | 'arc';
  readonly radius?: number;
  readonly spacing: number;
  readonly hex: string;
  readonly fabric?: DesignCloth;
}

const hex = (text: string): string => {
  if (!/^#[0-9a-f]{6}$/i.test(text)) throw new InvalidArgumentError(`must be a colour like #204060, got "${text}"`);
  return text.toLowerCase();
};

/** Lines a text can be set on by the command line: an arc has its tops outwards. */
const LINES = ['straight', 'arc', ...BASELINES.filter((line) => line !== 'straight' && line !== 'path')];

export const LETTER_OPTIONS: readonly (() => Option)[] = [
  () => new Option('--height <mm>', 'height of capitals').argParser(limited('lettersMm')).default(12),
  () => new Option('--line <line>', 'what the text stands on').choices(LINES).default('straight'),
  () => new Option('--radius <mm>', 'of an arc or a circle').argParser(limited('textRadiusMm')),
  () => new Option('--spacing <mm>', 'added between letters').argParser(limited('letterSpacingMm')).default(0),
  () => new Option('--hex <colour>', 'colour of the thread').argParser(hex).default('#204060'),
  () => new Option('--fabric <id|file.json>', 'what it is sewn on').argParser(fabric),
];

/** Radius where nobody says one. */
export const USUAL_RADIUS = LIMITS.textRadiusMm[1] / 10;
