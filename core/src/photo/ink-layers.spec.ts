import { createRaster } from '../picture/raster.js';
import { toByte } from '../colour/srgb.js';
import { tinted, EFFECTS } from './effect.js';
import { inkLayers, type InkSettings } from './ink-layers.js';
import type { Layer } from './methods/render-method.js';
import { plateOf, samplePlate } from './plate.js';
import { toEnd } from '../geometry/pauses.js';

const BOX = { left: -12, top: -12, width: 24, height: 24 };
const SETTINGS: InkSettings = {
  hexes: ['#f3c816', '#c8286e', '#1d86b8', '#23262b'],
  groundHex: '#f4f1ea',
  spacingMm: 1.2,
  pitchMm: 0.6,
  angle: 15,
  turn: 37,
  mostInk: 2.4,
  trimOverMm: 3,
};

/** Inks for a picture of one colour, given in linear light. */
function inksFor(r: number, g: number, b: number): Layer[] {
  const raster = createRaster(60, 60);
  for (let i = 0; i < 3600; i++) raster.data.set([toByte(r), toByte(g), toByte(b), 255], i * 4);
  return toEnd(inkLayers(plateOf(raster, BOX), SETTINGS));
}

const lengths = (layers: readonly Layer[]): number[] =>
  layers.map(({ runs }) =>
    runs.reduce((sum, run) => {
      for (let i = 2; i < run.length; i += 2) {
        sum += Math.sqrt((run[i] - run[i - 2]) ** 2 + (run[i + 1] - run[i - 1]) ** 2);
      }
      return sum;
    }, 0),
  );

describe('ink layers', () => {
  it('take the inks a colour asks for', () => {
    const yellow = lengths(inksFor(0.85, 0.55, 0.03));
    expect(yellow[0]).toBeGreaterThan(2 * Math.max(yellow[1], yellow[2], yellow[3]));
    const blue = lengths(inksFor(0.03, 0.25, 0.5));
    expect(blue[2]).toBeGreaterThan(blue[0] * 2);
    const dark = lengths(inksFor(0.015, 0.017, 0.02));
    expect(dark[3]).toBeGreaterThan(0);
    expect(dark[3]).toBeGreaterThan(lengths(inksFor(0.5, 0.5, 0.5))[3]);
  });

  it('leave the ground as it is where the picture is like it', () => {
    expect(Math.max(...lengths(inksFor(0.9, 0.87, 0.8)))).toBeLessThan(60);
  });
});

describe('plates', () => {
  it('hold the mean light of a picture, and what of it is to be sewn', () => {
    const raster = createRaster(100, 100);
    for (let i = 0; i < 10000; i++) {
      raster.data.set(i % 100 < 50 ? [255, 255, 255, 255] : [0, 0, 0, 255], i * 4);
    }
    const plate = plateOf(raster, { left: 0, top: 0, width: 10, height: 10 }, (i) => Math.floor(i / 100) < 20);
    const sample = new Float32Array(4);
    samplePlate(plate, 2, 6, sample);
    expect([...sample]).toEqual([1, 1, 1, 1]);
    samplePlate(plate, 8, 6, sample);
    expect(sample[0]).toBe(0);
    samplePlate(plate, 5, 1, sample);
    expect(sample[3]).toBe(0);
    samplePlate(plate, 30, 6, sample);
    expect(sample[3]).toBe(0);
  });

  it('keep their light when they are tinted', () => {
    const raster = createRaster(40, 40);
    for (let i = 0; i < 1600; i++) raster.data.set([200, 80, 40, 255], i * 4);
    const plate = plateOf(raster, BOX);
    const light = (p: typeof plate): number => 0.2126 * p.data[0] + 0.7152 * p.data[1] + 0.0722 * p.data[2];
    for (const { id } of EFFECTS) {
      expect(Math.abs(light(tinted(plate, id, 200)) - light(plate)))
        .withContext(id)
        .toBeLessThan(0.03);
    }
    const grey = tinted(plate, 'grey', 0);
    expect(grey.data[0]).toBeCloseTo(grey.data[2], 6);
    const blue = tinted(plate, 'hue', 240);
    expect(blue.data[2]).toBeGreaterThan(blue.data[0]);
  });
});
