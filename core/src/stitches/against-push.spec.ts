import { rectangle } from '../test/regions.js';
import { satinPieceOf } from '../test/pieces.js';
import { PLAIN_STITCHES } from '../test/pieces.js';
import type { Column } from '../trace/column.js';
import { againstPush } from './against-push.js';
import { FABRICS, fabricOf } from './fabrics.js';
import { compensationOf, stitchPiece } from './generate.js';

const bar = satinPieceOf([rectangle(0, 0, 50, 3)]);
const reach = (columns: readonly Column[]): [number, number] => {
  const xs = columns.flatMap(({ rungs }) => rungs.filter((_, i) => i % 2 === 0));
  return [Math.min(...xs), Math.max(...xs)];
};

describe('againstPush', () => {
  it('sews a bar shorter at its free ends, by what the fabric pushes it out', () => {
    for (const { pushMm, id } of FABRICS) {
      const [from, to] = reach(againstPush(bar.columns, pushMm, undefined));
      expect(from).withContext(id).toBeCloseTo(pushMm, 0.7);
      expect(50 - to)
        .withContext(id)
        .toBeLessThan(pushMm + 0.1);
      expect(50 - to)
        .withContext(id)
        .toBeGreaterThan(pushMm - 0.1);
    }
    const sewn = (fabric: string): number => {
      const [run] = stitchPiece(bar, { ...PLAIN_STITCHES, fabric: fabricOf(fabric) }, {});
      const xs = run.filter((_, i) => i % 2 === 0);
      return Math.max(...xs) - Math.min(...xs);
    };
    expect(sewn('quilting-cotton')).toBeCloseTo(49.6, 0.7);
    expect(sewn('fleece')).toBeCloseTo(49, 0.7);
  });

  it('leaves an end under a later neighbour, a joined one and a dot as they are', () => {
    const [plain] = bar.columns;
    expect(againstPush([{ ...plain, free: [false, false] }], 0.5, undefined)[0].rungs).toEqual(plain.rungs);
    const under = againstPush(bar.columns, 0.5, (x) => (x > 40 ? 0.4 : 0));
    expect(reach(under)[0]).toBeGreaterThan(0.4);
    expect(reach(under)[1]).toBe(reach(bar.columns)[1]);
    const dot = satinPieceOf([rectangle(0, 0, 1.6, 1.6)]);
    expect(againstPush(dot.columns, 0.5, undefined)).toEqual(dot.columns);
  });
});

describe('satin on pile and knits', () => {
  it('stands closer, and thin columns get all of the compensation their width allows', () => {
    const count = (fabric: string): number =>
      stitchPiece(bar, { ...PLAIN_STITCHES, fabric: fabricOf(fabric) }, {})[0].length;
    expect(count('towelling')).toBeGreaterThan(count('quilting-cotton') * 1.05);
    const on = (fabric: string) => ({ fabric: fabricOf(fabric), compensationMm: null });
    expect(compensationOf({ ...bar, widthMm: 1 }, on('quilting-cotton'))).toBe(0.2);
    expect(compensationOf({ ...bar, widthMm: 1 }, on('fleece'))).toBeCloseTo(0.22, 6);
    expect(compensationOf({ ...bar, widthMm: 4 }, on('fleece'))).toBeCloseTo(0.45, 2);
  });
});
