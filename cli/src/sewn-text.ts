import {
  convert,
  emptyRecipe,
  newLetters,
  parseRecipe,
  StepCache,
  type Baseline,
  type Design,
  type Recipe,
} from '@open-kite/core';
import { outlinesFor } from '@open-kite/server/fonts';
import { UserError } from '@open-kite/server/user-error';
import { contentOf } from './content.js';
import { writeOutputs, wrongWith } from './files.js';
import { USUAL_RADIUS, type LetterFlags } from './letter-options.js';

/** What one design of a text is made from. */
export interface WantedText extends LetterFlags {
  readonly text: string;
}

/** Letters come again from name to name: what was made of one is kept. */
const cache = new StepCache();

/** Names to be sewn by several threads; each takes the next that is left. */
export interface NameList {
  readonly tasks: readonly { readonly row: number; readonly wanted: WantedText; readonly file: string }[];
  /** Its only number is the place of the next; all threads share it. */
  readonly next: Int32Array;
}

/** Sews names of a list until none is left. @returns what is wrong with those that could not be made, by their row */
export async function writeNames({ tasks, next }: NameList): Promise<[row: number, fault: string][]> {
  const faults: [number, string][] = [];
  for (;;) {
    const task = tasks[Atomics.add(next, 0, 1)];
    if (!task) return faults;
    await writeText(task.wanted, task.file).catch((error: unknown) => faults.push([task.row, wrongWith(error)]));
  }
}

/** Sews a text into a file. @throws UserError where the font lacks a character, or nothing is left to sew */
export async function writeText(wanted: WantedText, file: string): Promise<void> {
  await writeOutputs(new Map([[file, await contentOf(file, await sewn(wanted))]]));
}

async function sewn({
  text,
  font,
  height,
  line,
  radius,
  spacing,
  hex,
  fabric,
}: WantedText): Promise<{ design: Design; recipe: Recipe; pictures: readonly never[] }> {
  const outlines = outlinesFor(font, text);
  const choices = {
    text,
    font,
    outlines,
    heightMm: height,
    line: line === 'arc' ? ('arc-up' as Baseline) : line,
    radiusMm: radius ?? USUAL_RADIUS,
    letterSpacingMm: spacing,
  };
  const cloth = fabric ?? emptyRecipe().cloth;
  const recipe = parseRecipe({ ...emptyRecipe(), cloth, objects: [newLetters('letters-1', choices, { hex })] });
  const design = await convert({ pictures: {}, recipe, charts: [] }, { cache });
  if (design.pieces.length === 0) throw new UserError(422, 'there is nothing in this text that can be sewn');
  return { design, recipe, pictures: [] };
}
