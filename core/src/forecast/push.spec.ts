import { stitchPiece } from '../stitches/generate.js';
import { fabricOf } from '../stitches/fabrics.js';
import { StitchWriter, STITCH, JUMP, type StitchList } from '../sequence/stitch-list.js';
import { PLAIN_STITCHES, pieceOf, satinPieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { pulledTogether, pushOf } from './pull.js';

/** A list of one run of needle points. */
function listOf(run: readonly number[]): StitchList {
  const writer = new StitchWriter();
  for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], i === 0 ? JUMP : STITCH, 0, 0);
  return writer.finish();
}

const along = (list: Pick<StitchList, 'x' | 'y'>, axis: 'x' | 'y'): [number, number] => [
  Math.min(...list[axis]),
  Math.max(...list[axis]),
];

describe('Push in the forecast', () => {
  const column = listOf(stitchPiece(satinPieceOf([rectangle(0, 0, 3, 20)]), PLAIN_STITCHES, {})[0]);

  it('makes satin longer at both its ends, and leaves its middle', () => {
    for (const id of ['quilting-cotton', 'fleece']) {
      const fabric = fabricOf(id);
      const forecast = pulledTogether(column, () => fabric);
      const [top, bottom] = along(column, 'y');
      const [from, to] = along(forecast, 'y');
      expect(top - from)
        .withContext(id)
        .toBeGreaterThan(pushOf(fabric) * 0.6);
      expect(to - bottom)
        .withContext(id)
        .toBeGreaterThan(pushOf(fabric) * 0.6);
      expect(to - from)
        .withContext(id)
        .toBeLessThan(bottom - top + 2.4 * pushOf(fabric));
      for (let i = 0; i < column.count; i++) {
        if (Math.abs(column.y[i] - 10) < 5) expect(forecast.y[i]).toBeCloseTo(column.y[i], 2);
      }
    }
  });

  it('is larger on lively cloth, and what was measured where it was', () => {
    expect(pushOf(fabricOf('stretch'))).toBeGreaterThan(pushOf(fabricOf('felt')) * 2);
    const pull = [{ lengthMm: 1, acrossMm: 0, downMm: 0, slantMm: 0 }];
    expect(pushOf({ ...fabricOf('felt'), pull, pushMm: 0.44 })).toBe(0.44);
  });

  it('does nothing to rows of fills', () => {
    const pull = [{ lengthMm: 1, acrossMm: 0, downMm: 0, slantMm: 0 }];
    const still = { ...fabricOf('felt'), pull, pushMm: 0.5 };
    const fill = listOf(stitchPiece(pieceOf([rectangle(0, 0, 20, 20)]), PLAIN_STITCHES, {})[0]);
    const { x, y } = pulledTogether(fill, () => still);
    expect(x).toEqual(fill.x);
    expect(y).toEqual(fill.y);
  });
});

describe('An edge run below satin', () => {
  it('goes along when the cloth is drawn together, and does not stay behind at the edge', () => {
    // Out along one edge, back as satin over it.
    const run: number[] = [];
    for (let y = 0; y <= 20; y += 2) run.push(0.5, y);
    for (let k = 0; k <= 100; k++) run.push(k % 2 === 0 ? 5 : 0, 20 - k * 0.2);
    const forecast = pulledTogether(listOf(run), () => fabricOf('stretch'));
    const inside = Array.from({ length: 7 }, (_, k) => forecast.x[k + 2] - 0.5);
    expect(Math.min(...inside)).toBeGreaterThan(0.2);
    expect(forecast.y[4]).toBeCloseTo(8, 5);
  });
});
