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
import type { DecodedPicture } from './decode.js';

const sizeOf = (artwork: Artwork | undefined): Artwork | undefined => (artwork?.sized ? artwork : undefined);

/** The recipe of a first conversion: vector artwork says its own size, photographs start as thread painting. */
export function firstRecipe({ raster, artwork }: Pick<DecodedPicture, 'raster' | 'artwork'>): Recipe {
  const recipe = defaultRecipe(raster.width, raster.height, sizeOf(artwork));
  return artwork ? recipe : withFirstMethod(recipe, raster);
}

/** Artwork of a source that was checked when it was stored. */
export const readStoredArtwork = (source: Uint8Array): Artwork => readSvg(Buffer.from(source).toString('utf8'));

function withFirstMethod(recipe: Recipe, raster: Raster): Recipe {
  const picture = pictureOf(recipe);
  if (!picture) return recipe;
  return withView(recipe, { ...viewOf(recipe, picture), method: FIRST_METHODS[recognise(raster)] });
}
