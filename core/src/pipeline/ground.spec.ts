import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { flatRecipe, onePicture, type FlatRecipe } from '../test/flat-recipe.js';

type Box = readonly [left: number, top: number, right: number, bottom: number, colour: readonly number[]];
const SIDE = 320;
const [WHITE, TEAL, CREAM, ORANGE] = [
  [255, 255, 255],
  [30, 110, 120],
  [246, 240, 226],
  [222, 104, 40],
];

/** Boxes on white, later ones on top. */
function boxes(...list: readonly Box[]): Raster {
  const raster = createRaster(SIDE, SIDE);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const at = list.findLast(([left, top, right, bottom]) => x >= left && x < right && y >= top && y < bottom);
      raster.data.set([...(at?.[4] ?? WHITE), 255], (y * SIDE + x) * 4);
    }
  }
  return raster;
}

const base = flatRecipe(SIDE, SIDE);
/** Pixels a millimetre of the finished picture is wide. */
const scale = SIDE / base.picture.widthMm;

async function of(raster: Raster, picture: Partial<FlatRecipe['picture']>, count: number | 'auto'): Promise<Design> {
  const recipe = {
    ...base,
    picture: { ...base.picture, dropGround: true, ...picture },
    colours: { ...base.colours, count },
  };
  return convert(onePicture({ raster, pictureKey: 'boxes', recipe, charts: [] }));
}

const sewnMm2 = ({ pieces }: Design): number => pieces.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);

describe('a bare ground', () => {
  const kite = boxes([60, 60, 260, 260, TEAL], [90, 90, 150, 150, CREAM], [170, 170, 230, 230, ORANGE]);
  const kiteMm2 = (200 / scale) ** 2;

  it('takes no part of the subject when colours are put together', async () => {
    for (const count of [2, 1]) {
      const design = await of(kite, {}, count);
      expect(sewnMm2(design)).toBeGreaterThan(0.97 * kiteMm2);
      expect(sewnMm2(design)).toBeLessThan(1.03 * kiteMm2);
    }
  });

  it('is none of the threads asked for', async () => {
    const two = await of(kite, {}, 2);
    expect(two.threads.length).toBe(2);
    expect(two.colours.filter(({ bare }) => bare === 'ground').length).toBe(1);
    const all = await of(kite, {}, 'auto');
    expect(all.threads.length).toBe(3);
    expect(all.pictures[0].suggestedColours).toBe(3);
  });

  it('is looked for before a mask cuts the picture', async () => {
    // The mask's rim shows teal nearly everywhere, the white of the ground only below.
    const raster = boxes([20, 20, 300, 220, TEAL]);
    const [left, top, right, bottom] = [60, 60, 260, 250];
    const mask = {
      shape: 'rectangle' as const,
      x: ((left + right) / 2 - SIDE / 2) / scale,
      y: ((top + bottom) / 2 - SIDE / 2) / scale,
      widthMm: (right - left) / scale,
      heightMm: (bottom - top) / scale,
      turn: 0,
    };
    const design = await of(raster, { mask }, 'auto');
    expect(design.threads.length).toBe(1);
    expect(sewnMm2(design)).toBeCloseTo((200 * 160) / scale ** 2, -1);
    const sewn = await of(raster, { mask, dropGround: false }, 'auto');
    expect(sewn.threads.length).toBe(2);
  });
});
