import { curveThrough } from '../geometry/curve.js';
import { NO_CHOICES } from '../pieces/sewn-as.js';
import { coverageOf } from '../test/coverage.js';
import { PLAIN_STITCHES as settings, pieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { stitchPiece } from './generate.js';

describe('stitchPiece', () => {
  it('fills a shape in the direction asked for', () => {
    const ring = rectangle(0, 0, 20, 10);
    for (const angle of [0, 90]) {
      const plain = pieceOf([ring], { choices: { ...NO_CHOICES, values: { underlay: 'none' } } });
      const [run] = stitchPiece(plain, { ...settings, angle }, {});
      let along = 0;
      let all = 0;
      for (let i = 2; i < run.length; i += 2) {
        const dx = Math.abs(run[i] - run[i - 2]);
        const dy = Math.abs(run[i + 1] - run[i - 1]);
        all += Math.hypot(dx, dy);
        along += angle === 0 ? dx : dy;
      }
      expect(along / all).toBeGreaterThan(0.85);
    }
  });

  it('turns the rows where a bridge is too thin for them', () => {
    // Two blocks joined by a bridge 0.06 mm high: level rows miss it, slanted ones do not need to.
    const ring = [0, 0, 8, 0, 8, 4, 12, 4, 12, 0, 20, 0, 20, 8, 12, 8, 12, 4.06, 8, 4.06, 8, 8, 0, 8];
    const runs = stitchPiece(pieceOf([ring]), settings, {});
    expect(runs.length).toBe(1);
    expect(coverageOf([ring], runs).covered).toBeGreaterThan(0.97);
  });

  it('joins parts that hang together by less than a thread along the outline, without a jump', () => {
    // Two blocks that touch in one corner: no direction of rows connects them.
    const ring = [0, 0, 8, 0, 8, 8, 16, 8, 16, 16, 8, 16, 8, 8, 0, 8];
    const runs = stitchPiece(pieceOf([ring]), settings, {});
    expect(runs.length).toBe(1);
    const { covered, outside } = coverageOf([ring], runs);
    expect(covered).toBeGreaterThan(0.97);
    expect(outside).toBeLessThan(0.1);
  });

  it('sews a line along its centre line', () => {
    const line = pieceOf([rectangle(0, 0, 20, 0.8)], {
      kind: 'running',
      family: 'line',
      widthMm: 0.8,
      paths: [curveThrough([0, 0.4, 20, 0.4])],
    });
    const [run] = stitchPiece(line, settings, { entry: { x: 25, y: 0 } });
    expect(run[0]).toBe(20);
    expect(coverageOf([rectangle(0, 0, 20, 0.8)], [run]).covered).toBeGreaterThan(0.94);
  });

  it('sews something even of a speck thinner than a row', () => {
    const runs = stitchPiece(pieceOf([rectangle(0, 0, 6, 0.05)]), settings, {});
    expect(runs.length).toBeGreaterThan(0);
  });
});
