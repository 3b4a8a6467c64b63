import { isInside, distanceToRings } from '../../geometry/polyline.js';
import { fabricOf } from '../fabrics.js';
import { stitchPiece } from '../generate.js';
import { MOTIFS } from '../motifs.js';
import { OFFSET_PATTERNS } from '../offset-patterns.js';
import { isAllowed, valuesOf } from '../stitch-kind.js';
import { coverageOf, stitchLengths } from '../../test/coverage.js';
import { linePieceOf, pieceOf, PLAIN_STITCHES, satinPieceOf } from '../../test/pieces.js';
import { ellipse, rectangle } from '../../test/regions.js';
import { familyOf, isStitchKind, STITCH_KINDS, stitchKindOf } from './index.js';

const DISC = [ellipse(0, 0, 14, 11)];
const HOLED = [ellipse(0, 0, 16, 14), ellipse(5, 2, 3, 3)];

describe('stitch kinds', () => {
  it('are found by name, and a wrong name is told', () => {
    expect(STITCH_KINDS.length).toBeGreaterThanOrEqual(11);
    expect(new Set(STITCH_KINDS.map(({ id }) => id)).size).toBe(STITCH_KINDS.length);
    expect(familyOf('contour')).toBe('area');
    expect(isStitchKind('knitting')).toBeFalse();
    expect(() => stitchKindOf('knitting')).toThrowError(RangeError, /there is no "knitting"; known are running, /);
  });

  for (const { id, family, covers } of STITCH_KINDS) {
    it(`${id} sews its shape in stitches a machine can make`, () => {
      const shapes =
        family === 'line'
          ? [linePieceOf([0, 0, 12, 3, 20, -4], 0.8, { kind: id })]
          : family === 'column'
            ? [satinPieceOf([rectangle(0, 0, 20, 3)], { kind: id })]
            : [DISC, HOLED].map((rings) => pieceOf(rings, { kind: id, anchor: { x: -4, y: 0 } }));
      for (const piece of shapes) {
        const runs = stitchPiece(piece, PLAIN_STITCHES, {});
        const rings = piece.outline.map(({ points }) => points);
        const lengths = stitchLengths(runs);
        expect(runs.length).toBe(1);
        expect(lengths.length).toBeGreaterThan(6);
        expect(Math.max(...lengths)).toBeLessThanOrEqual(7.5);
        expect(lengths.filter((l) => l < 0.3).length / lengths.length).toBeLessThan(0.02);
        const { covered, outside } = coverageOf(rings, runs);
        if (covers) expect(covered).toBeGreaterThan(0.95);
        if (family !== 'line') expect(outside).toBeLessThan(0.5);
      }
    });
  }

  it('sew the same stitches every time', () => {
    for (const kind of ['stipple', 'turning', 'motif-fill']) {
      const piece = pieceOf(HOLED, { kind });
      expect(stitchPiece(piece, PLAIN_STITCHES, {})).toEqual(stitchPiece(piece, PLAIN_STITCHES, {}));
    }
  });
});

describe('options of a kind', () => {
  const tatami = stitchKindOf('tatami');

  it('are as chosen, else as the design has them, else as usual', () => {
    const shared = { ...PLAIN_STITCHES, spacingMm: 0.55, pattern: 'twill' };
    const values = valuesOf(tatami, { fillStitchMm: 4.4 }, shared);
    expect(values).toEqual({ spacingMm: 0.55, fillStitchMm: 4.4, angle: 0, pattern: 'twill' });
    expect(valuesOf(stitchKindOf('stipple'), {}, shared)['openMm']).toBe(2);
  });

  it('that are out of range are not taken', () => {
    expect(isAllowed(tatami.options['spacingMm'], 0.01)).toBeFalse();
    expect(isAllowed(tatami.options['spacingMm'], '0.4')).toBeFalse();
    expect(isAllowed(tatami.options['pattern'], 'plaid')).toBeFalse();
    expect(valuesOf(tatami, { spacingMm: 99 }, PLAIN_STITCHES)['spacingMm']).toBe(0.4);
  });
});

describe('grains and motifs', () => {
  it('shift neighbouring rows by a tenth of a stitch at least, but for furrows', () => {
    expect(OFFSET_PATTERNS.length).toBeGreaterThanOrEqual(8);
    for (const { id, offset } of OFFSET_PATTERNS.filter((p) => p.id !== 'furrow')) {
      for (let row = 0; row < 60; row++) {
        const apart = Math.abs(offset(row) - offset(row + 1));
        expect(Math.min(apart, 1 - apart))
          .withContext(`${id} ${row}`)
          .toBeGreaterThan(0.09);
      }
    }
  });

  it('begin and end on their line', () => {
    expect(MOTIFS.length).toBeGreaterThanOrEqual(6);
    for (const { id, points, height } of MOTIFS) {
      expect(points.slice(0, 2)).withContext(id).toEqual([0, 0]);
      expect(points.slice(-2)).withContext(id).toEqual([1, 0]);
      expect(height).toBeGreaterThan(0.1);
    }
  });
});

describe('a fill', () => {
  it('lies on more the livelier the cloth is', () => {
    const count = (fabric: string): number =>
      stitchPiece(pieceOf(DISC), { ...PLAIN_STITCHES, fabric: fabricOf(fabric), compensationMm: null }, {})[0].length;
    expect(count('quilting-cotton')).toBeGreaterThan(count('felt'));
    expect(count('fleece')).toBeGreaterThan(count('quilting-cotton'));
  });

  it('follows guide lines: rows of a turning fill run along them', () => {
    const along = (guide: number[]): number => {
      const choices = { values: {}, guides: [guide] };
      const [run] = stitchPiece(pieceOf(DISC, { kind: 'turning', choices }), PLAIN_STITCHES, {});
      let [level, all] = [0, 0];
      for (let i = 2; i < run.length; i += 2) {
        level += Math.abs(run[i] - run[i - 2]);
        all += Math.abs(run[i] - run[i - 2]) + Math.abs(run[i + 1] - run[i - 1]);
      }
      return level / all;
    };
    expect(along([-10, 0, 10, 0])).toBeGreaterThan(0.8);
    expect(along([0, -10, 0, 10])).toBeLessThan(0.2);
  });

  it('is entered and left where it is asked to', () => {
    const way = { entry: { x: -13, y: 2 }, exit: { x: 13, y: -1 } };
    const [run] = stitchPiece(pieceOf(DISC), PLAIN_STITCHES, way);
    const n = run.length;
    expect(Math.hypot(run[0] - way.entry.x, run[1] - way.entry.y)).toBeLessThan(2.5);
    expect(Math.hypot(run[n - 2] - way.exit.x, run[n - 1] - way.exit.y)).toBeLessThan(2.5);
    for (let i = 0; i < n; i += 2) {
      if (!isInside(DISC, run[i], run[i + 1])) expect(distanceToRings(DISC, run[i], run[i + 1])).toBeLessThan(0.3);
    }
  });
});
