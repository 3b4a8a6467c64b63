import { NO_CHOICES } from '../pieces/sewn-as.js';
import { fabricOf, overlapOn } from '../stitches/fabrics.js';
import { pieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { overlapUnder } from './sew.js';

describe('overlapUnder', () => {
  const piece = pieceOf([rectangle(0, 0, 10, 10)]);
  const said = (values: Record<string, number | string>) => ({ ...piece, choices: { ...NO_CHOICES, values } });
  const cotton = { fabric: fabricOf('quilting-cotton'), compensationMm: null };

  it('goes by the cloth, unless the design says another', () => {
    expect(overlapUnder(piece, { stitches: cotton, overlapMm: null })).toBe(overlapOn(cotton.fabric, null));
    expect(overlapUnder(piece, { stitches: cotton, overlapMm: 0.9 })).toBe(0.9);
  });

  it('goes by the cloth a piece of its own lies on, whatever the design says', () => {
    const own = overlapUnder(said({ fabric: 'stretch' }), { stitches: cotton, overlapMm: 0.1 });
    expect(own).toBe(overlapOn(fabricOf('stretch'), null));
  });

  it('goes first by what was said of the piece', () => {
    expect(overlapUnder(said({ fabric: 'stretch', overlapMm: 0 }), { stitches: cotton, overlapMm: 0.9 })).toBe(0);
    expect(overlapUnder(said({ overlapMm: 1.3 }), { stitches: cotton, overlapMm: null })).toBe(1.3);
  });
});
