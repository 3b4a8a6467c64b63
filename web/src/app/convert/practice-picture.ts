import {
  createRaster,
  defaultRecipe,
  FIRST_METHODS,
  pictureOf,
  viewOf,
  withView,
  type Raster,
  type Recipe,
} from '@open-kite/core';

const [WIDE, HIGH] = [240, 160];
/** Small enough to be sewn roughly in a tenth of a second. */
const WIDE_MM = 36;

/** A soft picture with forms and light in it, as photographs have, and the recipe one begins with. */
export function practicePicture(): { readonly recipe: Recipe; readonly raster: Raster } {
  const raster = createRaster(WIDE, HIGH);
  for (let y = 0; y < HIGH; y++) {
    for (let x = 0; x < WIDE; x++) {
      const wave = Math.sin(x / 17) * Math.cos(y / 13);
      const disc = (x - 150) ** 2 + (y - 70) ** 2 < 45 ** 2 ? 60 : 0;
      raster.data.set(
        [110 + 70 * wave + disc, 90 + (y / HIGH) * 120, 190 - (x / WIDE) * 150 - disc, 255],
        (y * WIDE + x) * 4,
      );
    }
  }
  const first = defaultRecipe(WIDE, HIGH);
  const picture = pictureOf(first);
  if (!picture) throw new Error('a first recipe has a picture');
  const view = viewOf(first, picture);
  const sized = { ...view.picture, widthMm: WIDE_MM, heightMm: (WIDE_MM * HIGH) / WIDE };
  return { recipe: withView(first, { ...view, method: FIRST_METHODS.photograph, picture: sized }), raster };
}
