import {
  defaultRecipe,
  FIRST_METHODS,
  pictureOf,
  readSvg,
  recognise,
  viewOf,
  withView,
  type Artwork,
  type Raster,
  type Recipe,
} from '@open-kite/core';
import type { StoredPicture } from '../store/pictures.js';
import { rasterOf, type DecodedPicture } from './decode.js';

const sizeOf = (artwork: Artwork | undefined): Artwork | undefined => (artwork?.sized ? artwork : undefined);

/** The recipe of a first conversion: vector artwork says its own size, photographs start as thread painting. */
export function firstRecipe({ raster, artwork }: Pick<DecodedPicture, 'raster' | 'artwork'>): Recipe {
  const recipe = defaultRecipe(raster.width, raster.height, sizeOf(artwork));
  return artwork ? recipe : withFirstMethod(recipe, raster);
}

/** The same for a picture that was stored. */
export async function firstRecipeOf({ png, source }: StoredPicture): Promise<Recipe> {
  return firstRecipe({ raster: await rasterOf(png), artwork: source ? readSvg(source.toString('utf8')) : undefined });
}

function withFirstMethod(recipe: Recipe, raster: Raster): Recipe {
  const picture = pictureOf(recipe);
  if (!picture) return recipe;
  return withView(recipe, { ...viewOf(recipe, picture), method: FIRST_METHODS[recognise(raster)] });
}
