import type { Points } from '../geometry/vector.js';
import { convert } from '../convert.js';
import { newLetters } from '../objects/new-letters.js';
import { emptyRecipe } from '../recipe/recipe.js';
import { measureGlyph } from './glyph-measures.js';
import type { Measured } from './measured.js';

const at = (x: number, y: number): Points[] => [[x, y, x + 4, y, x + 4, y + 9.125, x, y + 9.125]];

describe('measureGlyph', () => {
  it('measures a letter once, wherever it stands', () => {
    let times = 0;
    const measure = ({ rings }: { readonly rings: readonly Points[] }): Measured => {
      times++;
      const [[left, top]] = rings;
      const columns = [{ rungs: [left, top, left + 4, top], closed: false, spine: [left + 2, top] }];
      return {
        widestMm: 4,
        anchor: { x: left + 2, y: top + 4 },
        line: () => ({ paths: [[left + 2, top]], width: 4 }),
        columns: () => ({ columns, covered: 1, hole: 0, bulk: 1, dropped: 0 }),
        axis: () => [left + 2, top, left + 2, top + 9],
      };
    };
    const of = (x: number, y: number): Measured => measureGlyph({ rings: at(x, y), line: undefined }, measure);
    const [here, there] = [of(0, 0), of(31.3, -7.1)];
    expect(times).toBe(1);
    expect(here.anchor).toEqual({ x: 2, y: 4 });
    expect(there.anchor.x).toBeCloseTo(33.3, 6);
    expect(there.columns('mitre').columns[0].rungs[2]).toBeCloseTo(35.3, 6);
    expect(there.columns('mitre').columns[0].spine[1]).toBeCloseTo(-7.1, 6);
    expect(there.line().paths[0][1]).toBeCloseTo(-7.1, 6);
    expect(there.axis()[3]).toBeCloseTo(1.9, 6);
    // Another letter is another one.
    measureGlyph({ rings: [[0, 0, 4, 0, 4, 9.25, 0, 9.25]], line: undefined }, measure);
    expect(times).toBe(2);
  });

  it('changes no stitch of a text that was sewn beside others before', async () => {
    const sewn = async (text: string): Promise<number[]> => {
      const letters = newLetters('l', { text, font: 'round-sans', heightMm: 12 }, { hex: '#204060' });
      const { stitches } = await convert({
        pictures: {},
        recipe: { ...emptyRecipe(), objects: [letters] },
        charts: [],
      });
      return [...stitches.x.subarray(0, stitches.count)];
    };
    const first = await sewn('BOB');
    await sewn('ABOBO');
    expect(await sewn('BOB')).toEqual(first);
  });
});
