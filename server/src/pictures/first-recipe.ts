import {
  defaultRecipe,
  FIRST_METHODS,
  pictureOf,
  readStitchList,
  readSvg,
  recipeOfList,
  recognise,
  viewOf,
  withView,
  type Artwork,
  type Raster,
  type Recipe,
} from '@open-kite/core';
import type { Picture } from '@open-kite/contract';
import type { DecodedPicture } from './decode.js';

const sizeOf = (artwork: Artwork | undefined): Artwork | undefined => (artwork?.sized ? artwork : undefined);

/** The recipe of a first conversion: vector artwork says its own size, photographs start as thread painting. */
export function firstRecipe({
  raster,
  artwork,
  sewing,
}: Pick<DecodedPicture, 'raster' | 'artwork' | 'sewing'>): Recipe {
  if (sewing) return recipeOfList(sewing);
  const recipe = defaultRecipe(raster.width, raster.height, sizeOf(artwork));
  return artwork ? recipe : withFirstMethod(recipe, raster);
}

/** What a stored picture is besides its pixels: artwork, or a stitch list. */
export function readStoredSource(
  kind: Picture['kind'],
  source: Uint8Array,
): Pick<DecodedPicture, 'artwork' | 'sewing'> {
  if (kind === 'list') return { sewing: readStitchList(Buffer.from(source).toString('utf8')) };
  return kind === 'svg' ? { artwork: readStoredArtwork(source) } : {};
}

/** Artwork of a source that was checked when it was stored. */
export const readStoredArtwork = (source: Uint8Array): Artwork => readSvg(Buffer.from(source).toString('utf8'));

function withFirstMethod(recipe: Recipe, raster: Raster): Recipe {
  const picture = pictureOf(recipe);
  if (!picture) return recipe;
  return withView(recipe, { ...viewOf(recipe, picture), method: FIRST_METHODS[recognise(raster)] });
}
