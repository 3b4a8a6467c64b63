import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { OLD_RECIPES, oldPictures } from '../test/old-recipes.js';
import { FIRST_PICTURE, parseRecipe } from './recipe.js';

function sumOf({ stitches: { x, y, command, thread, count }, threads }: Design): string {
  const hash = sha256.create();
  for (let i = 0; i < count; i++) {
    hash.update(utf8ToBytes(`${Math.round(x[i] * 1000)},${Math.round(y[i] * 1000)},${command[i]},${thread[i]};`));
  }
  hash.update(utf8ToBytes(threads.map(({ hex }) => hex).join()));
  return bytesToHex(hash.digest()).slice(0, 32);
}

describe('recipes of earlier versions', () => {
  const pictures = oldPictures();

  for (const old of OLD_RECIPES) {
    it(`sew what they sewed: version ${old.version}, ${old.name}`, async () => {
      const recipe = parseRecipe(old.recipe);
      const design = await convert({ pictures: { [FIRST_PICTURE]: pictures[old.picture] }, recipe, charts: [] });
      expect(design.stitches.count).toBe(old.stitches);
      expect(design.threads.map(({ hex }) => hex)).toEqual([...old.threads]);
      // Other stitches are no fault by themselves: then the version of the core grows, and the sums are taken anew.
      expect(sumOf(design)).toBe(old.sum);
      // What was brought up to date is a recipe of this version, and stays as it is.
      expect(parseRecipe(JSON.parse(JSON.stringify(recipe)))).toEqual(recipe);
    });
  }

  it('are there of every version', () => {
    expect([...new Set(OLD_RECIPES.map(({ version }) => version))].sort()).toEqual([1, 2, 3, 4, 5, 6]);
  });
});
