import { parseRecipe, type LettersObject, type Recipe } from '@open-kite/core';
import { outlinesFor } from '../fonts/fonts.js';
import { UserError } from '../user-error.js';

/** The letters of a recipe that a name takes the place of: the highest that are sewn. */
export const lettersOf = ({ objects }: Recipe): LettersObject | undefined =>
  objects.findLast((object): object is LettersObject => object.kind === 'letters' && !object.hidden);

/**
 * A recipe with another text in its letters. What was said of single letters means nothing on others.
 * @throws UserError 422 where it has no letters, or their font lacks a character
 */
export function withText(recipe: Recipe, text: string): Recipe {
  const own = lettersOf(recipe);
  if (!own) throw new UserError(422, 'the project has no letters that a name could take the place of');
  const letters: LettersObject = { ...own, text, outlines: outlinesFor(own.font, text), pairs: {} };
  return parseRecipe({
    ...recipe,
    objects: recipe.objects.map((object) => (object === own ? letters : object)),
    decisions: recipe.decisions.filter((decision) => !('at' in decision) || decision.at.object !== own.id),
    ignored: undefined,
  });
}
