import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { createRaster } from '../picture/raster.js';
import { parseRecipe } from '../recipe/recipe.js';
import { StepCache } from '../pipeline/step.js';
import { flatRecipe, onePicture } from '../test/flat-recipe.js';
import type { PieceAnchor } from './piece-ref.js';

const raster = createRaster(300, 200);
for (let i = 0; i < 300 * 200; i++) {
  const x = i % 300;
  const y = Math.floor(i / 300);
  const inside = y > 40 && y < 160;
  const colour =
    inside && x > 30 && x < 150 ? [44, 110, 128] : inside && x >= 150 && x < 270 ? [216, 96, 42] : [255, 255, 255];
  raster.data.set([...colour, 255], i * 4);
}
const base = flatRecipe(300, 200);

describe('decisions on stitches', () => {
  const cache = new StepCache();
  const run = (decisions: readonly object[]): Promise<Design> => {
    const recipe = { ...base, pieces: { ...base.pieces, decisions } };
    return convert(onePicture({ raster, pictureKey: 'two', charts: [], recipe }), { cache });
  };
  let plain: Design;
  let at: PieceAnchor;
  beforeAll(async () => {
    plain = await run([]);
    const [piece] = plain.pieces;
    const box = plain.picture ?? { left: 0, top: 0, width: 1, height: 1 };
    at = {
      hex: plain.colours[piece.colour].anchor.hex,
      u: (piece.anchor.x - box.left) / box.width,
      v: (piece.anchor.y - box.top) / box.height,
      share: piece.areaMm2 / (box.width * box.height),
    };
  });

  it('add up, reach the piece they are said of, and make no piece again', async () => {
    // Specs come in any order, and others make pieces of their own: what was remembered may be gone.
    await run([]);
    const made = ['pieces', 'order'].map((step) => cache.computed.get(step));
    const design = await run([
      { kind: 'stitch', at, set: { spacingMm: 0.8 } },
      { kind: 'stitch', at, set: { angle: 64 } },
      { kind: 'entry', at, u: 0.3, v: 0.5 },
    ]);
    expect(design.pieces[0].choices.values).toEqual({ spacingMm: 0.8, angle: 64 });
    expect(design.pieces[0].choices.entry?.x).toBeCloseTo(-20, 0);
    expect(design.pieces[0].decisions).toEqual([0, 1, 2]);
    expect(design.pieces[1].choices).toEqual(plain.pieces[1].choices);
    expect(design.rowAngles[0]).toBe(64);
    expect(design.stitches.count).toBeLessThan(plain.stitches.count);
    expect(['pieces', 'order'].map((step) => cache.computed.get(step))).toEqual(made);
  });

  it('that find no piece are listed', async () => {
    const nowhere = { ...at, u: 0.02, v: 0.02 };
    const design = await run([{ kind: 'stitch', at: nowhere, set: { spacingMm: 0.8 } }]);
    expect(design.lostPieceDecisions).toEqual([0]);
  });

  it('change the kind and its options together', async () => {
    const design = await run([
      { kind: 'sew', at, as: 'contour', passes: 0 },
      { kind: 'guides', at, lines: [[0.2, 0.4, 0.4, 0.5]] },
    ]);
    expect([design.pieces[0].kind, design.pieces[0].family]).toEqual(['contour', 'area']);
    expect(design.pieces[0].choices.guides[0].length).toBe(4);
  });

  it('tell what an order costs and saves', () => {
    expect(plain.orderCost.threadRuns).toBe(2);
    expect(plain.foundOrderCost.travelMm).toBeGreaterThanOrEqual(0);
  });

  const refused: readonly [string, unknown][] = [
    ['an option nobody knows', { kind: 'stitch', at: null, set: { frills: 3 } }],
    ['a fabric nobody knows', { kind: 'stitch', at: null, set: { fabric: 'moonlight' } }],
    ['a value out of range', { kind: 'stitch', at: null, set: { spacingMm: 44 } }],
    ['a kind nobody knows', { kind: 'sew', at: null, as: 'knitting', passes: 0 }],
    ['a guide with half a point', { kind: 'guides', at: null, lines: [[0.1, 0.2, 0.3, 0.4, 0.5]] }],
    ['an entry that is no place', { kind: 'entry', at: null, u: 'left', v: 0 }],
  ];
  for (const [what, decision] of refused) {
    it(`are refused with ${what}`, () => {
      const bad = { ...(decision as object), at };
      const recipe = { ...base, pieces: { ...base.pieces, decisions: [bad] } };
      expect(() => parseRecipe(recipe)).toThrowError(RangeError, /recipe: (pieces|a guide line|place|stitch kind)/);
    });
  }
});
