import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { drawSmooth, flatScene } from './draw.js';
import { flatRecipe, onePicture } from './flat-recipe.js';
import { fuzzedReaders, fuzzReader } from './reader-fuzz.js';

describe('readers of what people hand over', () => {
  const { scene, palette } = flatScene(60, 3, 17);
  const { raster } = drawSmooth(scene, palette, 60, 60);
  const given = onePicture({ raster, pictureKey: 'fuzz', recipe: flatRecipe(60, 60), charts: [] });
  const { recipe } = given;
  let design: Design;

  beforeAll(async () => {
    design = await convert(given);
  });

  it('answer whatever they get with a sentence of their own', () => {
    for (const reader of fuzzedReaders(design, recipe)) {
      const { fault, refused } = fuzzReader(reader, 120, 4711);
      expect(fault).withContext(reader.name).toBeUndefined();
      // Both ways are walked: some files are read, others refused. Charts and lists of names are read as far as they can be.
      if (!/^(names|thread chart|palette)/.test(reader.name))
        expect(refused).withContext(reader.name).toBeGreaterThan(10);
      expect(refused).withContext(reader.name).toBeLessThan(120);
    }
  });

  it('are found out where one throws something else', () => {
    const [reader] = fuzzedReaders(design, recipe);
    const careless = { ...reader, read: (value: unknown) => void (value as { objects: unknown[] }).objects.length };
    expect(fuzzReader(careless, 250, 4711).fault?.error).toContain('TypeError');
  });
});
