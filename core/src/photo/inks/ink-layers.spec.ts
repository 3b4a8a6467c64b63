import { createRaster } from '../../picture/raster.js';
import type { Chart } from '../../colour/charts.js';
import { ciede2000, rgbToLab } from '../../colour/ciede2000.js';
import { fromHex, toByte } from '../../colour/srgb.js';
import { flatCover } from '../rows/flat-cover.js';
import { groundRows } from '../ground-rows.js';
import { chooseInks } from './choose-inks.js';
import { tinted, EFFECTS } from '../effect.js';
import { inkLayers, type InkSettings } from './ink-layers.js';
import type { Layer } from '../methods/render-method.js';
import { plateOf, samplePlate } from '../plate.js';
import { toEnd } from '../../geometry/pauses.js';

const BOX = { left: -12, top: -12, width: 24, height: 24 };
const SETTINGS: InkSettings = {
  hexes: ['#f3c816', '#c8151b', '#1d86b8', '#23262b'],
  first: 'light',
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
  [0, 1, 2, 3].map((thread) =>
    (layers.find((layer) => layer.thread === thread)?.runs ?? []).reduce((sum, run) => {
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

describe('inks chosen for a picture', () => {
  const PATCHES = ['#c81c1c', '#1c9440', '#1c44b4', '#e8c020'];
  /** Four patches of clear colours. */
  const picture = createRaster(120, 120);
  for (let i = 0; i < 120 * 120; i++) {
    const { r, g, b } = fromHex(PATCHES[(i % 120 < 60 ? 0 : 1) + (i < 7200 ? 0 : 2)]);
    picture.data.set([r, g, b, 255], i * 4);
  }
  const plate = plateOf(picture, { left: -24, top: -24, width: 48, height: 48 });
  const choice = {
    count: 4,
    named: [],
    ground: false,
    clothHex: '#f4f1ea',
    charts: [],
    spacingMm: 1.2,
    mostInk: 2.6,
  };
  const { threads: chosen } = toEnd(chooseInks(plate, choice));
  const far = (hex: string, others: readonly { readonly hex: string }[]): number =>
    Math.min(...others.map((other) => ciede2000(rgbToLab(fromHex(hex)), rgbToLab(fromHex(other.hex)))));

  it('are those of clear colours themselves', () => {
    expect(chosen.length).toBe(4);
    for (const hex of PATCHES) expect(far(hex, chosen)).withContext(hex).toBeLessThan(12);
  });

  it('are sewn so that red stays red, green green and blue blue', () => {
    const hexes = chosen.map(({ hex }) => hex);
    const layers = toEnd(inkLayers(plate, { ...SETTINGS, hexes }));
    // Two thirds of every patch are covered by the thread nearest to it.
    PATCHES.forEach((hex, k) => {
      const nearest = hexes.reduce((a, b) => (far(hex, [{ hex: a }]) < far(hex, [{ hex: b }]) ? a : b));
      const { runs } = layers.find(({ thread }) => hexes[thread] === nearest) ?? { runs: [] };
      const cover = flatCover(plate, runs);
      let [sum, n] = [0, 0];
      const half = plate.width / 2;
      for (let y = 30; y < half - 30; y++) {
        for (let x = 30; x < half - 30; x++) {
          sum += cover[(y + (k > 1 ? half : 0)) * plate.width + x + (k % 2) * half];
          n++;
        }
      }
      expect(sum / n)
        .withContext(hex)
        .toBeGreaterThan(0.66);
    });
  });

  it('come from the charts where there are some, those that are named staying', () => {
    const chart = {
      id: 'bay',
      name: 'Bay',
      threads: ['#c41a20', '#20903c', '#2048b0', '#e4bc28', '#101012', '#f0f0e8'].map((hex, i) => ({
        hex,
        code: `B${i}`,
        name: `thread ${i}`,
        weight: 40,
        finish: 'matt',
      })),
    };
    const { threads: found } = toEnd(chooseInks(plate, { ...choice, charts: [chart as unknown as Chart] }));
    expect(found.every(({ chart: id }) => id === 'bay')).toBe(true);
    expect(new Set(found.map(({ code }) => code)).size).toBe(4);
    const named = found.slice(0, 2);
    const grounded = toEnd(chooseInks(plate, { ...choice, named, ground: true, charts: [chart as unknown as Chart] }));
    expect(grounded.threads).toEqual(named);
    expect(grounded.ground?.chart).toBe('bay');
  });

  it('are as many as the charts have, where they have fewer than are asked for', () => {
    const thread = { hex: '#c41a20', code: 'B1', name: 'red', weight: 40, finish: 'matt' };
    const chart = { id: 'bay', name: 'Bay', threads: [thread] } as unknown as Chart;
    const { threads } = toEnd(chooseInks(plate, { ...choice, charts: [chart] }));
    expect(threads.map(({ code }) => code)).toEqual(['B1']);
  });

  it('tell the share that is done without ever going back', () => {
    const steps = chooseInks(plate, { ...choice, count: 2, ground: true });
    let last = 0;
    for (let step = steps.next(); !step.done; step = steps.next()) {
      expect(step.value).toBeGreaterThanOrEqual(last);
      expect(step.value).toBeLessThanOrEqual(1);
      last = step.value;
    }
    expect(last).toBeGreaterThan(0.9);
  });

  it('want a ground where the picture is mostly of one colour, and none on cloth of that colour', () => {
    const mostly = createRaster(120, 120);
    for (let i = 0; i < 120 * 120; i++) {
      const { r, g, b } = fromHex(i % 120 < 18 ? '#c81c1c' : i % 120 < 36 ? '#1c44b4' : '#40704c');
      mostly.data.set([r, g, b, 255], i * 4);
    }
    const green = plateOf(mostly, { left: -24, top: -24, width: 48, height: 48 });
    const on = (clothHex: string) => toEnd(chooseInks(green, { ...choice, count: 2, ground: true, clothHex }));
    // Two inks and a ground are the three colours there are.
    const { threads, ground } = on('#f4f1ea');
    expect(threads.length).toBe(2);
    for (const hex of ['#c81c1c', '#1c44b4', '#40704c']) {
      expect(far(hex, ground ? [...threads, ground] : threads))
        .withContext(hex)
        .toBeLessThan(12);
    }
    expect(on('#40704c').ground).toBeUndefined();
  });
});

describe('the ground of a rendering', () => {
  it('covers all of what is sewn, in long stitches', () => {
    const raster = createRaster(100, 100);
    for (let i = 0; i < 10000; i++) raster.data.set([40, 90, 60, 255], i * 4);
    const plate = plateOf(raster, BOX);
    const { runs } = groundRows(plate, 0, 20, 4);
    const cover = flatCover(plate, runs);
    let bare = 0;
    for (let y = 6; y < plate.height - 6; y++) {
      for (let x = 6; x < plate.width - 6; x++) if (cover[y * plate.width + x] < 0.5) bare++;
    }
    expect(bare / cover.length).toBeLessThan(0.01);
    for (const run of runs) {
      for (let i = 2; i < run.length; i += 2) {
        expect(Math.hypot(run[i] - run[i - 2], run[i + 1] - run[i - 1])).toBeLessThan(6.1);
      }
    }
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
