import { STITCH, TRIM } from '@open-kite/core';
import { smallDesign } from '../test/rig';
import { measureDesign } from './design-measures';

describe('measures of a design', () => {
  it('count the stitches of each piece and thread, and say where the thread is cut', async () => {
    const design = await smallDesign();
    const { figures, runs, pieceStitches, cuts } = measureDesign(design);
    const { stitches, pieces } = design;
    expect(pieceStitches.length).toBe(pieces.length);
    const own = [...stitches.piece.subarray(0, stitches.count)].filter(
      (piece, i) => piece < pieces.length && stitches.command[i] === STITCH,
    );
    expect(pieceStitches.reduce((sum, n) => sum + n, 0)).toBe(own.length);
    expect(pieceStitches[0]).toBe(own.filter((piece) => piece === 0).length);
    expect(runs.reduce((sum, run) => sum + run.stitches, 0)).toBe(figures.stitches);
    expect(cuts.length).toBe(figures.trims);
    for (const row of cuts) expect(stitches.command[row]).toBe(TRIM);
  });
});
