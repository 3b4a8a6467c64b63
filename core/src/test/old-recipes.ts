import { readSvg } from '../artwork/read-svg.js';
import { createRaster } from '../picture/raster.js';
import type { SourcePicture } from '../pipeline/input.js';
import { drawSmooth, flatScene } from './draw.js';
import type { OldRecipe } from './old-recipes/old-recipe.js';
import { VERSION_1 } from './old-recipes/version-1.js';
import { VERSION_2 } from './old-recipes/version-2.js';
import { VERSION_3 } from './old-recipes/version-3.js';
import { VERSION_4 } from './old-recipes/version-4.js';
import { VERSION_5 } from './old-recipes/version-5.js';
import { VERSION_6 } from './old-recipes/version-6.js';
import { softScene } from './photo-like.js';

/** Pictures the recipes are for. */
export function oldPictures(): Readonly<Record<OldRecipe['picture'], SourcePicture>> {
  const { scene, palette } = flatScene(220, 5, 91);
  const blank = createRaster(200, 160);
  blank.data.fill(255);
  return {
    flat: { key: 'flat', raster: drawSmooth(scene, palette, 220, 220).raster },
    soft: { key: 'soft', raster: softScene(200, 150) },
    art: { key: 'art', raster: blank, artwork: readSvg(ART) },
  };
}

const ART = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 80"><defs><linearGradient id="g"><stop offset="0" stop-color="#c04020"/><stop offset="1" stop-color="#204060"/></linearGradient></defs>
<rect width="100" height="80" fill="#f0ead8"/><rect x="8" y="10" width="44" height="40" fill="#204060"/><path d="M60 10h30v30h-30z" fill="url(#g)"/>
<circle cx="52" cy="48" r="18" fill="#c04020"/><path d="M10 70C40 60 60 78 92 66" fill="none" stroke="#208040" stroke-width="1.6"/></svg>`;

/** Recipes of every earlier version, with the decisions, drawings, gradients, borders and grid edits each could hold. */
export const OLD_RECIPES: readonly OldRecipe[] = [
  ...VERSION_1,
  ...VERSION_2,
  ...VERSION_3,
  ...VERSION_4,
  ...VERSION_5,
  ...VERSION_6,
];
