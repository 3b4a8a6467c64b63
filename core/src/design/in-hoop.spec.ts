import { convert } from '../convert.js';
import { findingsOf } from '../findings/findings.js';
import { packDesign, unpackDesign } from '../formats/packed-design.js';
import { newOutline } from '../objects/new-outline.js';
import { newShape } from '../objects/shape-of-piece.js';
import { USUAL_APPLIQUE, type DesignObject } from '../objects/design-object.js';
import { emptyRecipe, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { COMMANDS, STITCH, STOP, stitchBounds, type StitchList } from '../sequence/stitch-list.js';
import type { Design } from './design.js';
import { oneOf } from './in-hoop.js';

const SQUARE = newShape(
  'a',
  null,
  [{ closed: true, nodes: [-10, 10].flatMap((y) => [-y, y].map((x) => [x, y, 0, 0, 0, 0] as const)) }],
  { hex: '#204060' },
);
const APPLIQUE: DesignObject = {
  ...newOutline('o', 'a', { hex: '#a03020' }),
  as: 'applique',
  applique: USUAL_APPLIQUE,
};

const sewn = (more: Partial<Recipe> = {}, objects: readonly DesignObject[] = [SQUARE, APPLIQUE]): Promise<Design> =>
  convert({ pictures: {}, recipe: parseRecipe({ ...emptyRecipe(), objects, ...more }), charts: [] });
const said = ({ count, x, y, command, thread, piece }: StitchList): string[] =>
  Array.from({ length: count }, (_, i) => `${COMMANDS[command[i]]} ${x[i]} ${y[i]} ${thread[i]} ${piece[i]}`);
const counted = (list: StitchList, what: number): number => list.command.filter((command) => command === what).length;
const SIX = { across: 3, down: 2, gapMm: 5 };

describe('a design several times in the hoop', () => {
  it('has all their stitches, waits as often as one, and gives the one back', async () => {
    const [one, six] = [await sewn(), await sewn({ several: SIX })];
    expect(counted(six.stitches, STITCH)).toBe(6 * counted(one.stitches, STITCH));
    expect(counted(six.stitches, STOP)).toBe(counted(one.stitches, STOP));
    expect(said(oneOf(six).stitches)).toEqual(said(one.stitches));
    expect(oneOf(one)).toBe(one);
    expect(six.pieces.length).toBe(one.pieces.length);
  });

  it('lays a cloth for each of them, before its stitches', async () => {
    const [one, six] = [await sewn(), await sewn({ several: SIX, order: { ...emptyRecipe().order, begin: 'middle' } })];
    const [cloth] = one.patches ?? [];
    const patches = six.patches ?? [];
    expect(patches.length).toBe(6);
    const lefts = patches.map(({ rings }) => Math.min(...rings[0].filter((_, i) => i % 2 === 0)));
    expect(new Set(lefts.map((x) => x.toFixed(2))).size).toBe(3);
    for (const { row, rings } of patches) {
      // The stitch before which it is laid lies on its edge, as that of the one does.
      const away = (list: StitchList, at: number, x: number, y: number) => [list.x[at] - x, list.y[at] - y];
      const own = away(one.stitches, cloth.row, cloth.rings[0][0], cloth.rings[0][1]);
      const here = away(six.stitches, row, rings[0][0], rings[0][1]);
      expect(here[0]).toBeCloseTo(own[0], 2);
      expect(here[1]).toBeCloseTo(own[1], 2);
    }
  });

  it('says what is wrong once, and what is out of the hoop of all of them', async () => {
    const hoop = { widthMm: 60, heightMm: 60, round: false };
    const kinds = async (more: Partial<Recipe>) => {
      const recipe = parseRecipe({ ...emptyRecipe(), objects: [SQUARE, APPLIQUE], hoop, ...more });
      const design = await sewn({ hoop, ...more });
      return findingsOf(design, design, recipe).map(({ kind, text }) => `${kind}: ${text}`);
    };
    const [one, six] = [await kinds({}), await kinds({ several: SIX })];
    expect(one.some((text) => text.startsWith('out-of-hoop'))).toBeFalse();
    expect(six.filter((text) => !text.startsWith('out-of-hoop'))).toEqual(one);
    expect(six.some((text) => text.startsWith('out-of-hoop'))).toBeTrue();
  });

  it('is stored and opened again as it is', async () => {
    const six = await sewn({ several: SIX });
    const back = unpackDesign(packDesign(six));
    expect(back.several).toEqual(SIX);
    expect(said(oneOf(back).stitches)).toEqual(said(oneOf(six).stitches));
  });

  it('begins and ends where the recipe says', async () => {
    const { order } = emptyRecipe();
    const { stitches } = await sewn({ order: { ...order, begin: 'corner', end: 'first' } });
    const box = stitchBounds(stitches);
    expect([stitches.x[0], stitches.y[0]]).toEqual([box?.left ?? 0, box?.top ?? 0]);
    const first = stitches.command.indexOf(STITCH);
    expect([stitches.x.at(-1), stitches.y.at(-1)]).toEqual([stitches.x[first], stitches.y[first]]);
  });

  it('is refused where a number makes no sense', () => {
    for (const wrong of [{ across: 0 }, { down: 21 }, { gapMm: -1 }, { across: 1.5 }]) {
      expect(() => parseRecipe({ ...emptyRecipe(), several: { ...SIX, ...wrong } }))
        .withContext(JSON.stringify(wrong))
        .toThrowError(RangeError);
    }
  });
});
