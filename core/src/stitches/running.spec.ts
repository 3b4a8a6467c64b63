import { distanceToSegment } from '../geometry/polyline.js';
import { ellipse } from '../test/regions.js';
import { stitchLengths } from '../test/coverage.js';
import { fabricOf, FABRICS } from './fabrics.js';
import { runAlong, runningLine } from './running.js';

describe('runAlong', () => {
  it('divides a straight line into even stitches no longer than asked for', () => {
    const lengths = stitchLengths([runAlong([0, 0, 10, 0], 2.5)]);
    expect(lengths).toEqual([2.5, 2.5, 2.5, 2.5]);
  });

  it('keeps corners and leaves a curve by at most a tenth of a millimetre', () => {
    const corner = runAlong([0, 0, 5, 0, 5, 5], 2.5);
    expect(corner.join(' ')).toContain('5 0');
    const arc = ellipse(0, 0, 4, 4, 200);
    const run = runAlong(arc, 2.5);
    for (let i = 0; i < arc.length; i += 2) {
      let best = Infinity;
      for (let k = 2; k < run.length; k += 2) {
        best = Math.min(best, distanceToSegment(arc[i], arc[i + 1], run[k - 2], run[k - 1], run[k], run[k + 1]));
      }
      expect(best).toBeLessThan(0.13);
    }
    expect(Math.min(...stitchLengths([run]))).toBeGreaterThanOrEqual(0.5);
  });
});

describe('runningLine', () => {
  const net = [
    [0, 0, 10, 0],
    [10, 0, 10, 8],
    [10, 0, 20, 0],
    [20, 0, 25, 5, 30, 0, 25, -5, 20, 0],
  ];

  it('sews every branch of a net both ways without a break and comes back', () => {
    const run = runningLine(net, { stitchLengthMm: 2.5, widthMm: 0.4 }, { x: 0, y: 1 });
    expect(run.slice(0, 2)).toEqual([0, 0]);
    // The last bit of the way back is left out: the first pass lies there, and there the thread was tied in.
    expect(run.slice(-2)).toEqual([1.1, 0]);
    expect(Math.max(...stitchLengths([run]))).toBeLessThanOrEqual(2.5 + 1e-9);
    const total = stitchLengths([run]).reduce((a, b) => a + b, 0);
    const single = 10 + 8 + 10 + 4 * Math.hypot(5, 5);
    expect(total).toBeCloseTo(2 * single - 1.1, 0);
  });

  it('makes no short stitches of a net with very short branches', () => {
    const twigs: number[][] = [[0, 0, 10, 0]];
    for (let i = 0; i < 20; i++)
      twigs.push([10 + i * 0.3, 0, 10.3 + i * 0.3, 0], [10 + i * 0.3, 0, 10 + i * 0.3, 0.25]);
    const lengths = stitchLengths([runningLine(twigs, { stitchLengthMm: 2.5, widthMm: 0.5 })]);
    expect(lengths.filter((l) => l < 0.5).length).toBeLessThanOrEqual(1);
  });

  it('lays passes side by side to fill a wider line', () => {
    const run = runningLine([[0, 0, 20, 0]], { stitchLengthMm: 2.5, widthMm: 1 });
    const ys = new Set(run.filter((_, i) => i % 2 === 1).map((y) => y.toFixed(2)));
    expect(Math.max(...[...ys].map(Number))).toBeCloseTo(0.3, 2);
    expect(Math.min(...[...ys].map(Number))).toBeCloseTo(-0.3, 2);
  });

  it('fills both sides of a ring', () => {
    const ring = [...ellipse(0, 0, 8, 8), 8, 0];
    const run = runningLine([ring], { stitchLengthMm: 2.5, widthMm: 0.8 });
    const radii: number[] = [];
    for (let i = 0; i < run.length; i += 2) radii.push(Math.hypot(run[i], run[i + 1]));
    expect(Math.max(...radii)).toBeGreaterThan(8.15);
    expect(Math.min(...radii)).toBeLessThan(7.85);
  });

  it('gives nothing for a line without length', () => {
    expect(runningLine([[1, 1, 1, 1]], { stitchLengthMm: 2, widthMm: 1 })).toEqual([]);
  });
});

describe('fabrics', () => {
  it('are at least fourteen with names of their own', () => {
    expect(FABRICS.length).toBeGreaterThanOrEqual(14);
    expect(new Set(FABRICS.map((f) => f.id)).size).toBe(FABRICS.length);
    expect(fabricOf('felt').compensationMm).toBeLessThan(fabricOf('fleece').compensationMm);
    expect(() => fabricOf('paper')).toThrowError(RangeError, /"paper"; known are felt/);
  });
});
