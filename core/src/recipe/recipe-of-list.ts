import { listObject } from '../objects/recipe-of-list.js';
import type { Sewing } from '../sequence/sewing.js';
import { fabricNamed } from '../stitches/fabrics.js';
import { emptyRecipe, FIRST_PICTURE, type Recipe } from './recipe.js';

/** The recipe of a design that is one stitch list, on the fabric it says. */
export function recipeOfList(sewing: Sewing): Recipe {
  const recipe = emptyRecipe();
  const { measured } = sewing.fabric;
  const fabric = fabricNamed(sewing.fabric.id)?.id ?? recipe.cloth.fabric;
  return {
    ...recipe,
    cloth: { fabric, hex: sewing.fabric.hex, ...(measured && { measured }) },
    objects: [listObject('stitches-1', FIRST_PICTURE, sewing)],
  };
}
