import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  alphabetOf,
  convert,
  emptyRecipe,
  newLetters,
  newOutline,
  parseRecipe,
  renderDesign,
  writePng,
  type LettersObject,
} from '@open-kite/core';
import { allFonts, fontOutlines } from '@open-kite/server/fonts';

const HEIGHT_MM = 12;
const LINE_MM = 21;

/** Every font sewn at 12 mm, or at its least height where that is more, within the border of a patch: a picture to look at. */
export async function fontSheet(root: string): Promise<void> {
  const fonts = allFonts();
  const lines = fonts.map(({ id, leastMm }, i): LettersObject => {
    const text = id === 'graduate' ? 'LANTERN BAY' : 'Lantern Bay';
    const outlines = alphabetOf(id) ? null : fontOutlines(id, text);
    const heightMm = Math.max(HEIGHT_MM, leastMm);
    const made = newLetters(`l${i}`, { text, font: id, outlines, heightMm }, { hex: '#204060' });
    return { ...made, place: { ...made.place, f: (i - (fonts.length - 1) / 2) * LINE_MM } };
  });
  const border = { ...newOutline('border', null, { hex: '#b8432a' }), form: 'rectangle', offsetMm: 6, widthMm: 4 };
  const recipe = parseRecipe({ ...emptyRecipe(), objects: [...lines, border] });
  const design = await convert({ pictures: {}, recipe, charts: [] });
  const folder = join(root, 'docs/sheets');
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'fonts.png'), writePng(renderDesign(design, 5, 'sewn', 3)));
}
