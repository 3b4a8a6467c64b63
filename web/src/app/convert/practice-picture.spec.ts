import { convert, FIRST_METHODS, FIRST_PICTURE, pictureOf, recognise } from '@open-kite/core';
import { practicePicture } from './practice-picture';

describe('the practice picture', () => {
  it('is a photograph to whoever looks at it, and sewn as one soon', async () => {
    const { recipe, raster } = practicePicture();
    expect(recognise(raster)).toBe('photograph');
    expect(pictureOf(recipe)?.method).toBe(FIRST_METHODS.photograph);
    const pictures = { [FIRST_PICTURE]: { key: 'practice', raster } };
    const design = await convert({ pictures, recipe, charts: [] }, { quality: 'rough' });
    expect(design.stitches.count).toBeGreaterThan(500);
    expect(design.stitches.count).toBeLessThan(10_000);
  });
});
