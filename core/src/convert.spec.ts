import { convert, preparedPicture, STEPS, type ConvertInput, type StepName } from './convert.js';
import { writeStitchList } from './formats/stitch-list-csv.js';
import { defaultRecipe } from './recipe/recipe.js';
import { createRaster } from './picture/raster.js';
import { figuresOf } from './sequence/figures.js';
import { likenessOf } from './sewn-look/likeness.js';
import { StepCache } from './step-cache.js';
import { coverageOf } from './test/coverage.js';
import { drawSmooth, flatScene } from './test/draw.js';
import { ringsOf } from './pieces/piece.js';
import { JUMP, STITCH } from './sequence/stitch-list.js';

const { scene, palette } = flatScene(320, 5, 77);
const { raster } = drawSmooth(scene, palette, 320, 320);
const input: ConvertInput = { raster, pictureKey: 'k', recipe: defaultRecipe(320, 320), charts: [] };

describe('convert', () => {
  it('gives the same stitches every time, cached or not', async () => {
    const cache = new StepCache();
    const first = await convert(input, { cache });
    const again = await convert(input, { cache });
    const fresh = await convert(input);
    expect(writeStitchList(again)).toBe(writeStitchList(first));
    expect(writeStitchList(fresh)).toBe(writeStitchList(first));
  });

  it('computes only the steps a change touches', async () => {
    const cache = new StepCache();
    await convert(input, { cache });
    const count = (): number[] => STEPS.map((step) => cache.computed.get(step) ?? 0);
    expect(count()).toEqual([1, 1, 1, 1, 1, 1]);
    const { recipe } = input;
    await convert({ ...input, recipe: { ...recipe, stitches: { ...recipe.stitches, angle: 50 } } }, { cache });
    expect(count()).toEqual([1, 1, 1, 1, 1, 2]);
    await convert({ ...input, recipe: { ...recipe, pieces: { ...recipe.pieces, strictnessMm: 0.3 } } }, { cache });
    expect(count()).toEqual([1, 1, 2, 2, 2, 3]);
    await convert({ ...input, recipe: { ...recipe, clothHex: '#123456' } }, { cache });
    expect(count()).toEqual([1, 1, 2, 2, 2, 3]);
    await convert(input, { cache, quality: 'rough' });
    expect(count()).toEqual([2, 2, 3, 3, 3, 4]);
  });

  it('tells its steps in order and stops when its checkpoint throws', async () => {
    const told: StepName[] = [];
    await convert(input, { progress: (step) => told.at(-1) !== step && told.push(step) });
    expect(told).toEqual([...STEPS]);
    let turns = 0;
    const stopped = convert(input, {
      checkpoint: () => {
        if (++turns === 3) throw new Error('stop');
      },
    });
    await expectAsync(stopped).toBeRejectedWithError('stop');
  });

  it('sews pieces that keep to the rules of the trade', async () => {
    const design = await convert(input);
    const figures = figuresOf(design.stitches, design.threads.length);
    expect(figures.longestStitchMm).toBeLessThanOrEqual(12);
    expect(figures.shortStitchShare).toBeLessThan(0.01);
    const { stitches: list } = design;
    design.pieces.forEach((piece, index) => {
      const rows = [...list.piece.keys()].filter((i) => list.piece[i] === index);
      expect(rows.filter((i) => list.command[i] === JUMP).length)
        .withContext(piece.id)
        .toBeLessThanOrEqual(1);
      if (piece.kind !== 'tatami' || piece.areaMm2 < 20) return;
      const run = rows.filter((i) => list.command[i] === STITCH).flatMap((i) => [list.x[i], list.y[i]]);
      const { covered, outside } = coverageOf(ringsOf(piece), [run]);
      expect(covered).withContext(piece.id).toBeGreaterThan(0.98);
      expect(outside).withContext(piece.id).toBeLessThan(0.4);
    });
  });

  it('leaves the plain ground bare or sews it, as the recipe says', async () => {
    const { recipe } = input;
    const kept = await convert({ ...input, recipe: { ...recipe, picture: { ...recipe.picture, dropGround: false } } });
    const dropped = await convert(input);
    expect(dropped.plainGround).toBeTrue();
    expect(kept.pieces.length).toBe(dropped.pieces.length + 1);
    expect(figuresOf(kept.stitches, 60).stitches).toBeGreaterThan(figuresOf(dropped.stitches, 60).stitches * 1.3);
  });

  it('compares with the cloth where the ground is left bare, whatever its colour', async () => {
    const green = createRaster(300, 300);
    for (let i = 0; i < 90000; i++) {
      const inside = Math.abs((i % 300) - 150) < 75 && Math.abs(i / 300 - 150) < 75;
      green.data.set(inside ? [44, 110, 128, 255] : [0, 220, 0, 255], i * 4);
    }
    const cache = new StepCache();
    const asked = { ...input, raster: green, pictureKey: 'green', recipe: defaultRecipe(300, 300) };
    const design = await convert(asked, { cache });
    const prepared = await preparedPicture(asked, cache);
    expect(cache.computed.get('colours')).toBe(1);
    expect(prepared.data[3]).toBe(0);
    expect(prepared.data[(150 * 300 + 150) * 4 + 3]).toBe(255);
    expect(likenessOf(design, prepared)?.deltaE).toBeLessThan(4);
    expect(likenessOf(design, green)?.deltaE).toBeGreaterThan(20);
    const kept = { ...asked, recipe: { ...asked.recipe, picture: { ...asked.recipe.picture, dropGround: false } } };
    expect((await preparedPicture(kept, cache)).data[3]).toBe(255);
  });

  it('matches threads of a chart, each colour to one of its own', async () => {
    const { recipe } = input;
    const threads = ['#ff0000', '#fe0000', '#00ff00', '#0000ff', '#808080', '#101010'].map((hex, i) => ({
      code: `T${i}`,
      name: `T ${i}`,
      hex,
      weight: 40,
      finish: 'matt',
    }));
    const charts = [{ id: 'test', name: 'Test', threads }];
    const chosen = { ...recipe, colours: { ...recipe.colours, charts: ['test'] } };
    const design = await convert({ ...input, recipe: chosen, charts });
    expect(new Set(design.threads.map((t) => t.code)).size).toBe(design.threads.length);
    expect(design.threads.every((t) => t.chart === 'test')).toBeTrue();
    await expectAsync(convert({ ...input, recipe: chosen })).toBeRejectedWithError(
      RangeError,
      /there is no "test"; known are none/,
    );
  });

  it('gives an empty design for a picture that is bare', async () => {
    const bare = { ...raster, data: new Uint8ClampedArray(raster.data.length) };
    const design = await convert({ ...input, raster: bare });
    expect(design.pieces).toEqual([]);
    expect(design.stitches.count).toBe(1);
  });
});

describe('StepCache', () => {
  it('forgets the output unused for longest', async () => {
    const cache = new StepCache(2);
    const made: string[] = [];
    const get = (key: string): Promise<string> =>
      cache.get('step', key, () => {
        made.push(key);
        return key;
      });
    for (const key of ['a', 'b', 'a', 'c', 'a', 'b']) await get(key);
    expect(made).toEqual(['a', 'b', 'c', 'b']);
  });
});
