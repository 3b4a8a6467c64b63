import { convert } from '../convert.js';
import { flatRecipe, onePicture } from '../test/flat-recipe.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import { designKey, packDesign, unpackDesign } from './packed-design.js';
import { writeDesignJson } from './design-json.js';
import { writeStitchList } from './stitch-list-csv.js';

const { scene, palette } = flatScene(200, 5, 12);
const { raster } = drawSmooth(scene, palette, 200, 200);
const base = flatRecipe(200, 200);

describe('a packed design', () => {
  for (const method of ['pieces', 'cross']) {
    it(`holds everything of a design of ${method} that is shown, in few bytes`, async () => {
      const design = await convert(onePicture({ raster, pictureKey: 'p', recipe: { ...base, method }, charts: [] }));
      const packed = packDesign(design);
      const back = unpackDesign(packed);
      expect(writeStitchList(back)).toBe(writeStitchList(design));
      // Outlines are kept to a thousandth of a micrometre; how they are rounded when they are written may differ.
      const without = (made: typeof design): unknown => ({
        ...JSON.parse(writeDesignJson(made)),
        pieces: made.pieces.map(({ id, kind, thread, areaMm2, object, part }) => [
          id,
          kind,
          thread,
          areaMm2,
          object,
          part,
        ]),
      });
      expect(without(back)).toEqual(without(design));
      const outlines = ({ pieces }: typeof design): number[] =>
        pieces.flatMap(({ outline, paths }) => [...outline, ...paths].flatMap(({ points }) => [...points]));
      const [kept, made] = [outlines(back), outlines(design)];
      expect(kept.length).toBe(made.length);
      expect(kept.reduce((most, v, i) => Math.max(most, Math.abs(v - made[i])), 0)).toBeLessThan(2e-6);
      expect(back.pictures[0].chart?.cells).toEqual(design.pictures[0].chart?.cells);
      expect(back.pictures[0].chart?.backs).toEqual(design.pictures[0].chart?.backs);
      expect(packed.length).toBeLessThan(design.stitches.count * 8 + 4000);
    });
  }

  it('is refused where it is damaged', async () => {
    const design = await convert(onePicture({ raster, pictureKey: 'p', recipe: base, charts: [] }));
    const packed = packDesign(design);
    expect(() => unpackDesign(packed.subarray(0, packed.length / 2))).toThrowError(RangeError, /stored design/);
    expect(() => unpackDesign(Uint8Array.of(1, 2, 3))).toThrowError(RangeError, /stored design/);
  });

  it('has a key that tells whatever it is made from', () => {
    const { recipe } = onePicture({ raster, pictureKey: 'p', recipe: base, charts: [] });
    const chart = { id: 'a', name: 'A', threads: [] };
    const thread = { code: 'x', name: 'X', hex: '#112233', weight: 40, finish: 'plain' };
    const key = (...more: Partial<Parameters<typeof designKey>>): string =>
      designKey(more[0] ?? recipe, more[1] ?? { 'picture-1': 'x' }, more[2] ?? [chart], more[3] ?? []);
    expect(key()).toBe(key({ ...recipe }));
    const others = [key({ ...recipe, budget: 4 }), key(recipe, { 'picture-1': 'y' })];
    expect(new Set([key(), ...others]).size).toBe(3);
    // Charts and the drawer count where the recipe looks at them.
    const filled = [{ ...chart, threads: [thread] }];
    expect(key(recipe, undefined, filled, ['a x'])).toBe(key());
    const objects = recipe.objects.map((object) =>
      object.kind === 'picture'
        ? { ...object, colours: { ...object.colours, charts: ['a'], stashOnly: true } }
        : object,
    );
    const asks = { ...recipe, objects };
    expect(key(asks, undefined, filled)).not.toBe(key(asks));
    expect(key(asks, undefined, filled, ['a x'])).not.toBe(key(asks, undefined, filled));
  });
});
