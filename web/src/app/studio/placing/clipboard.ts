import { parseRecipe, type DesignObject, type PieceDecision, type Recipe } from '@open-kite/core';
import type { Picture } from '@open-kite/contract';
import { array, object as shape, string } from 'yup';

/** What was copied: objects of the user's own with what was said of them, and the pictures they show. */
export interface Copied {
  readonly objects: readonly DesignObject[];
  readonly decisions: readonly PieceDecision[];
  readonly pictures: Readonly<Record<string, Picture>>;
}

/** Copies outlive the page, so that they can be put into another project. */
const KEY = 'open-kite copied';

const wrapper = shape({
  objects: array().required(),
  decisions: array().required(),
  pictures: shape().required(),
  kind: string().oneOf([KEY]).required(),
}).noUnknown();

export function keepCopied(copied: Copied): boolean {
  try {
    localStorage.setItem(KEY, JSON.stringify({ kind: KEY, ...copied }));
    return true;
  } catch {
    return false;
  }
}

/** What was copied last, if it is still sound; undefined where there is nothing. */
export function lastCopied(recipe: Recipe): Copied | undefined {
  try {
    const text = localStorage.getItem(KEY);
    if (!text) return undefined;
    const found = wrapper.validateSync(JSON.parse(text), { strict: true }) as unknown as Copied;
    // Whoever can write there may write anything: it is checked as a recipe of its own.
    const { objects, decisions } = parseRecipe({ ...recipe, objects: found.objects, decisions: found.decisions });
    return { objects, decisions, pictures: found.pictures };
  } catch {
    return undefined;
  }
}
