import type { Sewing } from '../sequence/sewing.js';
import { reportOf } from './report.js';
import { END, JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';

function sewing(places: readonly (readonly [number, number])[]): Sewing {
  const writer = new StitchWriter();
  if (places.length > 0) writer.add(places[0][0], places[0][1], JUMP, 0, 0);
  for (const [x, y] of places) writer.add(x, y, STITCH, 0, 0);
  writer.add(0, 0, END, 0, 0xffff);
  return {
    fabric: { id: 'felt', hex: '#ffffff' },
    threads: [{ code: 'A', name: 'Kelp', hex: '#2f5d50', chart: 'own', deltaE: 1.5 }],
    stitches: writer.finish(),
    pieceIds: ['p1'],
  };
}

describe('reportOf', () => {
  it('puts figures, threads, findings and likeness together', () => {
    const report = reportOf(
      sewing([
        [0, 0],
        [13, 0],
      ]),
      { deltaE: 2, ssim: 0.9 },
      { total: 1 },
    );
    expect(report).toEqual(
      jasmine.objectContaining({
        stitches: 2,
        jumps: 1,
        trims: 0,
        widthMm: 13,
        pieces: 1,
        likeness: { deltaE: 2, ssim: 0.9 },
      }),
    );
    const { list, ...counts } = report.findings;
    expect(counts).toEqual({ problem: 1, advice: 1, waste: 0 });
    expect(list.map(({ kind, at }) => [kind, at])).toEqual([
      ['long-stitch', { x: 13, y: 0 }],
      ['missing-tie', { x: 0, y: 0 }],
    ]);
    expect(report.threads).toEqual([
      { code: 'A', name: 'Kelp', hex: '#2f5d50', chart: 'own', stitches: 2, lengthM: 0.01, deltaE: 1.5 },
    ]);
    expect(reportOf(sewing([]), undefined, {}).likeness).toBeNull();
  });
});
