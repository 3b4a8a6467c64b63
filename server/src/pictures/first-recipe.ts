import { defaultRecipe, readSvg, type Artwork, type Recipe } from '@open-kite/core';
import type { StoredPicture } from '../store/pictures.js';
import type { DecodedPicture } from './decode.js';

const sizeOf = (artwork: Artwork | undefined): Artwork | undefined => (artwork?.sized ? artwork : undefined);

/** The recipe of a first conversion; vector artwork says its own size. */
export function firstRecipe({ raster, artwork }: DecodedPicture): Recipe {
  return defaultRecipe(raster.width, raster.height, sizeOf(artwork));
}

/** The same for a picture that was stored. */
export function firstRecipeOf({ width, height, source }: StoredPicture): Recipe {
  return defaultRecipe(width, height, source ? sizeOf(readSvg(source.toString('utf8'))) : undefined);
}
