import { convert } from '@open-kite/core';
import { fuzzedReaders, fuzzReader } from '@open-kite/core/fuzz';
import { drawSmooth, flatRecipe, flatScene, onePicture } from '@open-kite/core/testing';
import { heading, line } from '../print.js';

/** Gives every reader of what people hand over so many files that are nearly right, and counts what is no answer. */
export async function fuzz(count: number, seed: number): Promise<number> {
  heading('Readers', `${count} files each, seed ${seed}; a RangeError is an answer, anything else a fault`);
  const { scene, palette } = flatScene(60, 3, 17);
  const { raster } = drawSmooth(scene, palette, 60, 60);
  const given = onePicture({ raster, pictureKey: 'fuzz', recipe: flatRecipe(60, 60), charts: [] });
  let faults = 0;
  for (const reader of fuzzedReaders(await convert(given), given.recipe)) {
    const { fault, slowestMs, refused } = fuzzReader(reader, count, seed, () => performance.now());
    line(
      reader.name,
      fault ? 'FAULT' : 'none',
      `refused ${((refused / count) * 100).toFixed(0)} %, the slowest ${slowestMs.toFixed(0)} ms`,
    );
    if (fault) {
      faults++;
      console.log(`  ${fault.error}\n  ${fault.file}`);
    }
  }
  return faults;
}
