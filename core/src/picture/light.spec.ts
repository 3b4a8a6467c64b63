import { seededRandom } from '../geometry/chance.js';
import { denoise } from './denoise.js';
import { applyLight, isPlain, levelTable, lightColour, PLAIN_LIGHT, type Light } from './light.js';
import { createRaster, type Raster } from './raster.js';
import { autoLevels, toneHistogram } from './tones.js';

const light = (change: Partial<Light>): Light => ({ ...PLAIN_LIGHT, ...change });
const grey = (v: number): { r: number; g: number; b: number } => ({ r: v, g: v, b: v });

/** A ramp of all levels, one column each. */
function ramp(): Raster {
  const raster = createRaster(256, 8);
  for (let i = 0; i < 256 * 8; i++) raster.data.set([i % 256, i % 256, i % 256, 255], i * 4);
  return raster;
}

describe('light', () => {
  it('leaves a picture alone where nothing is changed', () => {
    const raster = ramp();
    expect(applyLight(raster, PLAIN_LIGHT)).toBe(raster);
    expect(isPlain(light({ threshold: 40 }))).toBeTrue();
    expect(isPlain(light({ gamma: 1.1 }))).toBeFalse();
  });

  it('never exchanges light and dark: every level follows the one below', () => {
    for (const change of [
      { gamma: 2.2 },
      { contrast: 60 },
      { contrast: -50, brightness: 20 },
      { black: 30, white: 200 },
    ]) {
      const table = levelTable(light(change));
      for (let v = 1; v < 256; v++)
        expect(table[v])
          .withContext(JSON.stringify(change))
          .toBeGreaterThanOrEqual(table[v - 1]);
    }
  });

  it('moves what its name says', () => {
    const of = (change: Partial<Light>, c = grey(100)): { r: number; g: number; b: number } =>
      lightColour(c, light(change));
    expect(of({ brightness: 40 }).g).toBeGreaterThan(130);
    expect(of({ gamma: 2 }).g).toBeGreaterThan(130);
    expect(of({ contrast: 50 }).g).toBeLessThan(80);
    expect(of({ contrast: -100 })).toEqual(grey(128));
    expect(of({ black: 100 })).toEqual(grey(0));
    expect(of({ white: 100 })).toEqual(grey(255));
    expect(of({ warmth: 80 }).r).toBeGreaterThan(of({ warmth: 80 }).b + 20);
    const red = { r: 200, g: 60, b: 60 };
    expect(of({ saturation: -100 }, red).r).toBe(of({ saturation: -100 }, red).b);
    expect(of({ saturation: 50 }, red).r).toBeGreaterThan(red.r);
    const brown = of({ tone: 'sepia' }, red);
    expect(brown.r).toBeGreaterThan(brown.b + 20);
    expect(of({ tone: 'one', threshold: 128 }, grey(60)).r).toBe(31);
    expect(of({ tone: 'one', threshold: 128 }, grey(200))).toEqual(grey(255));
    expect(of({ tone: 'one', threshold: 255 }, grey(255))).toEqual(grey(255));
    expect(of({ tone: 'one', threshold: 0 }, grey(0))).toEqual(grey(255));
  });

  it('does to a picture what it does to a colour', () => {
    const change = light({ gamma: 1.4, contrast: 20, warmth: -30, saturation: 40, tone: 'colour' });
    const raster = createRaster(3, 3);
    for (let i = 0; i < 9; i++) raster.data.set([180, 90, 40, 200], i * 4);
    const { r, g, b } = lightColour({ r: 180, g: 90, b: 40 }, change);
    expect([...applyLight(raster, change).data.subarray(16, 20)]).toEqual([r, g, b, 200]);
    expect([...raster.data.subarray(0, 4)]).toEqual([180, 90, 40, 200]);
  });

  it('sharpens an edge and nothing else', () => {
    const raster = createRaster(20, 20);
    for (let i = 0; i < 400; i++) raster.data.set([...(i % 20 < 10 ? [80, 80, 80] : [160, 160, 160]), 255], i * 4);
    const sharp = applyLight(raster, light({ sharpness: 60 }));
    const row = [...Array(20).keys()].map((x) => sharp.data[(10 * 20 + x) * 4]);
    expect(row[9]).toBeLessThan(75);
    expect(row[10]).toBeGreaterThan(165);
    expect(row[4]).toBe(80);
  });
});

describe('denoise', () => {
  it('calms areas and keeps edges', () => {
    const random = seededRandom(3);
    const raster = createRaster(60, 60);
    for (let i = 0; i < 3600; i++) {
      const v = (i % 60 < 30 ? 70 : 190) + (random() - 0.5) * 24;
      raster.data.set([v, v, v, 255], i * 4);
    }
    const calm = denoise(raster, 60);
    const spread = (picture: Raster, from: number, to: number): number => {
      const values: number[] = [];
      for (let y = 5; y < 55; y++) for (let x = from; x < to; x++) values.push(picture.data[(y * 60 + x) * 4]);
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
    };
    expect(spread(calm, 5, 25)).toBeLessThan(spread(raster, 5, 25) * 0.45);
    expect(calm.data[(30 * 60 + 29) * 4]).toBeLessThan(95);
    expect(calm.data[(30 * 60 + 30) * 4]).toBeGreaterThan(165);
  });
});

describe('tones', () => {
  it('counts lightness and finds black and white points', () => {
    const raster = createRaster(100, 10);
    for (let i = 0; i < 1000; i++) raster.data.set([40 + (i % 100), 40 + (i % 100), 40 + (i % 100), 255], i * 4);
    const counts = toneHistogram(raster);
    expect(counts[40]).toBe(10);
    expect(counts[39]).toBe(0);
    const { black, white } = autoLevels(counts);
    expect(black).toBeCloseTo(40, -0.5);
    expect(white).toBeCloseTo(139, -0.5);
  });

  it('leaves a picture of one tone alone', () => {
    const counts = new Uint32Array(256);
    counts[90] = 500;
    expect(autoLevels(counts)).toEqual({ black: 0, white: 255 });
    expect(autoLevels(new Uint32Array(256))).toEqual({ black: 0, white: 255 });
  });
});
