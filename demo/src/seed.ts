import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { convert, createRaster, defaultRecipe, figuresOf, renderDesign, writePng, type Recipe } from '@open-kite/core';
import { addPicture, rasterOf, type Stores } from '@open-kite/server';

const ARTWORK = fileURLToPath(new URL('../artwork', import.meta.url));

interface Sample {
  readonly name: string;
  readonly file: string;
  readonly change?: (recipe: Recipe) => Recipe;
}

/** Projects of the Lantern Bay Kite Fair; the last one here stands first on the shelf. */
const SAMPLES: readonly Sample[] = [
  {
    name: 'Quilt block, north hall',
    file: 'quilt-block.png',
    change: (recipe) => ({ ...recipe, picture: { ...recipe.picture, widthMm: 90, heightMm: 90 } }),
  },
  {
    name: 'Evening harbour, tea towel',
    file: 'harbour.jpg',
    change: (recipe) => ({
      ...recipe,
      picture: { ...recipe.picture, widthMm: 140, heightMm: 105 },
      stitches: { ...recipe.stitches, fabric: 'linen' },
      clothHex: '#e6dcc6',
    }),
  },
  { name: 'Pennant, harbour wall', file: 'pennant.svg' },
  { name: 'Box kite, apron pocket', file: 'box-kite.jpg' },
  {
    name: 'Fair crest, front patch',
    file: 'crest.png',
    change: (recipe) => ({ ...recipe, colours: { ...recipe.colours, count: 6, charts: ['saltline'] } }),
  },
];

/** Fills an empty store with the sample projects, each with its picture of the stitches. */
export async function seedSamples({ pictures, projects, charts }: Stores): Promise<void> {
  for (const sample of SAMPLES) {
    const picture = await addPicture(pictures, await readFile(join(ARTWORK, sample.file)));
    const first = defaultRecipe(picture.width, picture.height);
    const recipe = sample.change ? sample.change(first) : first;
    const { id } = projects.create(sample.name, picture.hash, recipe);
    const { width, height, data } = await rasterOf(pictures.get(picture.hash).png);
    const raster = createRaster(width, height, data);
    const design = await convert({ raster, pictureKey: picture.hash, recipe, charts });
    const figures = figuresOf(design.stitches, design.threads.length);
    const scale = 480 / Math.max(recipe.picture.widthMm, recipe.picture.heightMm);
    projects.setPreview(id, Buffer.from(writePng(renderDesign(design, scale, 'sewn', 4))), {
      stitches: figures.stitches,
      threads: design.threads.length,
      minutes: figures.minutes.oneNeedle,
    });
  }
}
