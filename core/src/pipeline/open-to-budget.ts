import type { Design } from '../design/design.js';
import type { Recipe } from '../recipe/recipe.js';
import { stitchCount } from '../sequence/figures.js';

/** Most that a budget may open the rows of pieces, times the chosen spacing. */
const MOST_OPENING = 7;
const ROUNDS = 10;
/** A budget is met when this share of it is used. */
export const MET = 0.97;

/**
 * Opens the rows of fills and satin until the stitches fit a budget; lines keep theirs.
 * @throws RangeError where even the widest rows are too many; the message says how many are needed
 */
export async function openToBudget(
  recipe: Recipe,
  budget: number,
  run: (recipe: Recipe) => Promise<Design>,
): Promise<Design> {
  const first = await run(recipe);
  if (stitchCount(first.stitches) <= budget) return first;
  let best: Design | undefined;
  let low = 1;
  let high = MOST_OPENING;
  for (let round = 0; round < ROUNDS; round++) {
    const factor = round === 0 ? high : (low + high) / 2;
    const opened = openRows(recipe, factor);
    const design = await run(opened);
    const count = stitchCount(design.stitches);
    if (count <= budget) {
      const { spacingMm, satinSpacingMm } = opened.stitches;
      const satin = satinSpacingMm > recipe.stitches.satinSpacingMm ? `, satin ${satinSpacingMm.toFixed(2)} mm` : '';
      best = {
        ...design,
        gaveUp: `rows ${spacingMm.toFixed(2)} mm apart instead of ${recipe.stitches.spacingMm}${satin}`,
      };
      high = factor;
      if (count >= budget * MET) break;
    } else if (round === 0) {
      throw new RangeError(`budget: ${budget} stitches are too few; at least ${count} are needed at this size`);
    } else low = factor;
  }
  return best as Design;
}

function openRows(recipe: Recipe, factor: number): Recipe {
  const { stitches } = recipe;
  const share = (factor - 1) / (MOST_OPENING - 1);
  return {
    ...recipe,
    stitches: {
      ...stitches,
      spacingMm: Number(Math.min(3, stitches.spacingMm * factor).toFixed(3)),
      satinSpacingMm: Number(Math.min(1.5, stitches.satinSpacingMm * factor).toFixed(3)),
      fillStitchMm: Number(
        (stitches.fillStitchMm + (Math.max(5, stitches.fillStitchMm) - stitches.fillStitchMm) * share).toFixed(3),
      ),
    },
  };
}
