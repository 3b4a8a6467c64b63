import { parseMeasured } from '../recipe/measured-schema.js';
import { emptyRecipe, parseRecipe } from '../recipe/recipe.js';
import { pieceOf, PLAIN_STITCHES, satinPieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { fabricOf, fabricOn, overlapOf, overlapOn } from './fabrics.js';
import { stitchPiece } from './generate.js';
import { meanPull, measuredPull, type MeasuredCloth } from './measured-cloth.js';

const MINE: MeasuredCloth = {
  name: 'Fair shirt',
  pull: [
    { lengthMm: 2, acrossMm: 0.2, downMm: 0.1, slantMm: 0.15 },
    { lengthMm: 6, acrossMm: 0.6, downMm: 0.3, slantMm: 0.5 },
  ],
  pushMm: 0.33,
  gapMm: 0.8,
};

describe('measuredPull', () => {
  it('changes evenly between lengths and stays beyond them', () => {
    expect(measuredPull(MINE.pull, 1, 1, 0)).toBeCloseTo(0.2, 6);
    expect(measuredPull(MINE.pull, 4, 1, 0)).toBeCloseTo(0.4, 6);
    expect(measuredPull(MINE.pull, 30, 1, 0)).toBeCloseTo(0.6, 6);
  });

  it('goes by the direction, and is what was measured on the slant there', () => {
    expect(measuredPull(MINE.pull, 6, 0, 1)).toBeCloseTo(0.3, 6);
    expect(measuredPull(MINE.pull, 6, Math.SQRT1_2, -Math.SQRT1_2)).toBeCloseTo(0.5, 6);
    expect(meanPull(MINE.pull, 6)).toBeCloseTo(0.475, 6);
  });
});

describe('A measured cloth', () => {
  const fabric = fabricOn({ fabric: 'jersey', measured: MINE });
  const on = { ...PLAIN_STITCHES, fabric, compensationMm: null };
  const reach = (points: readonly number[], axis: 0 | 1): [number, number] => {
    const along = points.filter((_, i) => i % 2 === axis);
    return [Math.min(...along), Math.max(...along)];
  };

  it('stands in for what is assumed of its fabric', () => {
    expect(fabric.name).toBe('Fair shirt');
    expect(fabric.stabiliser).toBe(fabricOf('jersey').stabiliser);
    expect(fabric.pushMm).toBe(0.33);
    expect(fabric.compensationMm).toBeCloseTo(meanPull(MINE.pull, 4.2), 3);
    expect(overlapOn(fabric, null)).toBeCloseTo(1, 6);
    expect(overlapOn(fabric, 0.1)).toBeCloseTo(overlapOf(0.1), 6);
    expect(overlapOn(fabricOf('felt'), null)).toBe(overlapOf(fabricOf('felt').compensationMm));
  });

  it('is sewn against row by row, by length and direction', () => {
    const [across] = stitchPiece(satinPieceOf([rectangle(0, 0, 4, 20)]), on, {});
    const [left, right] = reach(across, 0);
    expect(left).toBeCloseTo(-0.4, 1);
    expect(right).toBeCloseTo(4.4, 1);
    const [down] = stitchPiece(satinPieceOf([rectangle(0, 0, 20, 4)]), on, {});
    expect(reach(down, 1)[1]).toBeCloseTo(4.2, 1);
    const [rows] = stitchPiece(pieceOf([rectangle(0, 0, 20, 20)]), on, {});
    expect(reach(rows, 0)[0]).toBeCloseTo(-0.6, 1);
    // What is set for the design, or for a piece, holds.
    const [set] = stitchPiece(pieceOf([rectangle(0, 0, 20, 20)]), { ...on, compensationMm: 0.1 }, {});
    expect(reach(set, 0)[0]).toBeCloseTo(-0.1, 1);
    const own = { choices: { values: { compensationMm: 0 }, guides: [] } };
    expect(reach(stitchPiece(pieceOf([rectangle(0, 0, 20, 20)], own), on, {})[0], 0)[0]).toBeCloseTo(0, 1);
  });

  it('is read from a recipe, and refused where it cannot be', () => {
    const recipe = emptyRecipe();
    const onMine = { ...recipe, cloth: { ...recipe.cloth, measured: MINE } };
    expect(parseRecipe(JSON.parse(JSON.stringify(onMine))).cloth.measured).toEqual(MINE);
    expect(parseRecipe(recipe).cloth.measured).toBeUndefined();
    const refused: readonly [unknown, RegExp][] = [
      [{ ...MINE, pull: [] }, /no length/],
      [{ ...MINE, pull: [...MINE.pull, MINE.pull[0]] }, /must rise/],
      [{ ...MINE, pushMm: 'much' }, /pushMm must be a number/],
      [{ ...MINE, pull: [{ ...MINE.pull[0], acrossMm: 9 }] }, /acrossMm must be at most 3/],
      [{ ...MINE, name: '' }, /name/],
      [{ ...MINE, colour: 1 }, /colour/],
      [{ ...MINE, gapMm: undefined }, /gapMm/],
      [null, /./],
    ];
    for (const [value, message] of refused) expect(() => parseMeasured(value)).toThrowError(RangeError, message);
  });
});
