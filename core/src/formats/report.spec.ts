import type { Sewing } from '../sequence/sewing.js';
import { findingsOf } from '../findings/findings.js';
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

describe('findingsOf', () => {
  it('is silent about a sound design', () => {
    expect(
      findingsOf(
        sewing([
          [0, 0],
          [3, 0],
          [6, 0],
        ]),
      ),
    ).toEqual([]);
  });

  it('names a stitch that is too long and where it ends', () => {
    const [found] = findingsOf(
      sewing([
        [0, 0],
        [13, 0],
      ]),
    );
    expect(found).toEqual(jasmine.objectContaining({ level: 'problem', kind: 'long-stitch', at: { x: 13, y: 0 } }));
    expect(found.text).toContain('13.0 mm');
  });

  it('advises about short stitches, sizes no hoop holds, and nothing to sew', () => {
    const kinds = (design: Sewing): string[] => findingsOf(design).map((f) => f.kind);
    expect(
      kinds(
        sewing([
          [0, 0],
          [0.2, 0],
          [3, 0],
        ]),
      ),
    ).toEqual(['short-stitches']);
    expect(kinds(sewing(Array.from({ length: 60 }, (_, i) => [i * 7, 0] as const)))).toEqual(['too-large']);
    expect(kinds(sewing([]))).toEqual(['nothing-to-sew']);
  });
});

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
        findings: { problem: 1, advice: 0 },
        likeness: { deltaE: 2, ssim: 0.9 },
      }),
    );
    expect(report.threads).toEqual([
      { code: 'A', name: 'Kelp', hex: '#2f5d50', chart: 'own', stitches: 2, lengthM: 0.01, deltaE: 1.5 },
    ]);
    expect(reportOf(sewing([]), undefined, {}).likeness).toBeNull();
  });
});
