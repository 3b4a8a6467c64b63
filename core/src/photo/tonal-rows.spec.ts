import { rampFit } from '../test/ramp-fit.js';
import { greyRamp } from '../test/photo-like.js';
import { measureCover } from './cover-table.js';
import { plateOf } from './plate.js';
import { tonalRows, toneSpan, type TonalSettings } from './tonal-rows.js';

const SETTINGS: TonalSettings = {
  angle: 0,
  spacingMm: 1.2,
  pitchMm: 0.4,
  slant: 0,
  trimOverMm: 4,
  hex: '#1f2d2c',
  clothHex: '#f4f1ea',
  invert: false,
  darkest: 0,
  lightest: 100,
  breakOff: 0.02,
};

const small = plateOf(greyRamp(200, 100), { left: -20, top: -10, width: 40, height: 20 });

describe('tonal rows', () => {
  it('sew an even ramp of greys as an even ramp', () => {
    for (const spacingMm of [1.2, 2]) {
      const { slope, r2 } = rampFit({ ...SETTINGS, spacingMm });
      expect(Math.abs(slope - 1))
        .withContext(`${spacingMm}: ${slope}`)
        .toBeLessThan(0.05);
      expect(r2).withContext(`${spacingMm}`).toBeGreaterThan(0.99);
    }
  });

  it('make no stitch that is shorter than half a millimetre', () => {
    const { layer } = tonalRows(small, SETTINGS);
    for (const run of layer.runs) {
      for (let i = 2; i < run.length - 2; i += 2) {
        const length = Math.sqrt((run[i] - run[i - 2]) ** 2 + (run[i + 1] - run[i - 1]) ** 2);
        expect(length).toBeGreaterThan(0.3);
      }
    }
  });

  it('break off where the picture is light, and where it is dark once it is inverted', () => {
    const xs = (invert: boolean): number[] =>
      tonalRows(small, { ...SETTINGS, invert, breakOff: 0.3 }).layer.runs.flatMap((run) =>
        run.filter((_, i) => i % 2 === 0),
      );
    expect(Math.max(...xs(false))).toBeLessThan(12);
    expect(Math.min(...xs(true))).toBeGreaterThan(-12);
  });

  it('stay out of what is bare', () => {
    const bare = plateOf(greyRamp(200, 100), { left: -20, top: -10, width: 40, height: 20 }, (i) => i % 200 < 100);
    for (const run of tonalRows(bare, { ...SETTINGS, breakOff: 0 }).layer.runs) {
      for (let i = 0; i < run.length; i += 2) expect(run[i]).toBeGreaterThan(-0.8);
    }
  });

  it('find the span of tones of a picture', () => {
    const { low, high } = toneSpan(small);
    expect(low).toBeLessThan(4);
    expect(high).toBeGreaterThan(96);
  });
});

describe('cover table', () => {
  it('grows darker with strength, and is read backwards', () => {
    const table = measureCover({ ...SETTINGS, thread: 0, leastCover: 0 }, '#1f2d2c', '#f4f1ea');
    for (let k = 1; k < table.light.length; k++) expect(table.light[k]).toBeLessThan(table.light[k - 1]);
    expect(table.strengthFor(1)).toBe(0);
    expect(table.strengthFor(0)).toBe(1);
    const middle = (table.light[1] + table.light[table.light.length - 1]) / 2;
    expect(table.strengthFor(middle)).toBeGreaterThan(0.2);
    expect(table.strengthFor(middle)).toBeLessThan(0.9);
  });
});
