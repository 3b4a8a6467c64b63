import { toEnd } from '../../geometry/pauses.js';
import type { Points } from '../../geometry/vector.js';
import { greyRamp, softScene } from '../../test/photo-like.js';
import { formFlow } from '../flow.js';
import { plateOf } from '../plate.js';
import { flatCover } from './flat-cover.js';
import { ROW_SHAPES, rowLines } from './row-lines.js';
import { toneRows, type ToneSettings } from './tone-rows.js';

const BOX = { left: -30, top: -22, width: 60, height: 44 };
const scene = plateOf(softScene(360, 264), BOX);
const SETTINGS: ToneSettings = {
  hex: '#1a1e26',
  clothHex: '#f4f1ea',
  shape: 'straight',
  angle: 0,
  spacingMm: 1.2,
  pitchMm: 0.45,
  slant: 0,
  tones: 'clipped',
  darkest: 0,
  lightest: 100,
  lightIsSewn: false,
  breakOff: 0,
  trimOverMm: 4,
  rounds: 8,
};
const sewn = (more: Partial<ToneSettings> = {}, plate = scene) => toEnd(toneRows(plate, { ...SETTINGS, ...more }));

function lengths(runs: readonly Points[]): number[] {
  return runs.flatMap((run) => {
    const out: number[] = [];
    for (let i = 2; i < run.length; i += 2) out.push(Math.hypot(run[i] - run[i - 2], run[i + 1] - run[i - 1]));
    return out;
  });
}

const mean = (list: Float32Array): number => list.reduce((a, b) => a + b, 0) / list.length;

describe('rows that follow tones', () => {
  it('come nearer to the picture by being compared with it', () => {
    const once = sewn({ rounds: 1 }).ssim;
    const often = sewn().ssim;
    expect(often).toBeGreaterThan(once + 0.03);
    expect(often).toBeGreaterThan(0.85);
  });

  it('make few short stitches, none very short, and few runs, slanted as well', () => {
    for (const slant of [0, 35, -35]) {
      const { runs } = sewn({ slant });
      const all = lengths(runs);
      expect(all.filter((l) => l < 0.5).length / all.length)
        .withContext(`slant ${slant}`)
        .toBeLessThan(0.06);
      expect(all.filter((l) => l < 0.28).length / all.length).toBeLessThan(0.002);
      expect(Math.max(...all)).toBeLessThan(5);
      expect(runs.length).toBeLessThan(4);
    }
  });

  it('run in every shape, each as near to the picture', () => {
    for (const { id } of ROW_SHAPES) {
      const { ssim, runs } = sewn({ shape: id, flow: id === 'forms' ? formFlow(scene, 0) : undefined });
      expect(ssim).withContext(id).toBeGreaterThan(0.8);
      for (const run of runs) {
        for (let i = 0; i < run.length; i += 2) {
          expect(Math.abs(run[i])).toBeLessThan(31.5);
          expect(Math.abs(run[i + 1])).toBeLessThan(23.5);
        }
      }
    }
  });

  it('are as dark as the thread where the picture is, and a plain line where it is light', () => {
    const ramp = plateOf(greyRamp(400, 100), { left: -40, top: -10, width: 80, height: 20 });
    const cover = flatCover(ramp, sewn({}, ramp).runs);
    const at = (from: number, to: number): number => {
      let [sum, n] = [0, 0];
      for (let y = 20; y < ramp.height - 20; y++) {
        for (let x = Math.round(ramp.width * from); x < ramp.width * to; x++) {
          sum += cover[y * ramp.width + x];
          n++;
        }
      }
      return sum / n;
    };
    expect(at(0.02, 0.08)).toBeGreaterThan(0.97);
    expect(at(0.94, 0.99)).toBeLessThan(0.4);
    for (let k = 0; k < 8; k++)
      expect(at(0.1 + k * 0.1, 0.15 + k * 0.1)).toBeGreaterThan(at(0.2 + k * 0.1, 0.25 + k * 0.1) - 0.02);
  });

  it('lie the other way round where that is asked for, and as a light thread on dark cloth does', () => {
    const ramp = plateOf(greyRamp(400, 100), { left: -40, top: -10, width: 80, height: 20 });
    const middle = (more: Partial<ToneSettings>): number => {
      let [sum, weight] = [0, 0];
      flatCover(ramp, sewn(more, ramp).runs).forEach((c, i) => {
        sum += c * ((i % ramp.width) - ramp.width / 2);
        weight += c;
      });
      return sum / weight;
    };
    expect(middle({})).toBeLessThan(-10);
    expect(middle({ lightIsSewn: true })).toBeGreaterThan(10);
    const light = { hex: '#f4f1ea', clothHex: '#1a1e26' };
    expect(middle({ ...light, lightIsSewn: true })).toBeGreaterThan(10);
    expect(middle(light)).toBeLessThan(-10);
  });

  it('drop out in lights, and draw tones together, as an option', () => {
    const ramp = plateOf(greyRamp(400, 100), { left: -40, top: -10, width: 80, height: 20 });
    const reach = (more: Partial<ToneSettings>): number =>
      Math.max(...sewn(more, ramp).runs.flatMap((run) => run.filter((_, i) => i % 2 === 0)));
    expect(reach({})).toBeGreaterThan(39);
    expect(reach({ breakOff: 0.3 })).toBeLessThan(35);
    const grey = plateOf(softScene(200, 150), { left: -20, top: -15, width: 40, height: 30 });
    const cover = (tones: ToneSettings['tones']): number =>
      mean(flatCover(grey, sewn({ tones, darkest: 30, lightest: 95 }, grey).runs));
    expect(cover('fitted')).toBeGreaterThan(cover('clipped') + 0.02);
  });

  it('lie where the picture is seen best', () => {
    // Bars as high as half a row: in the middle of a row they are seen, between two they are not.
    const bars = { ...scene, data: scene.data.slice() };
    const perMm = scene.scale;
    for (let y = 0; y < scene.height; y++) {
      const isBar = (y / perMm) % 6 < 0.8;
      for (let x = 0; x < scene.width; x++)
        bars.data.fill(isBar ? 0.02 : 0.5, (y * scene.width + x) * 4, (y * scene.width + x) * 4 + 3);
    }
    // Eight rounds look for the place, three do not.
    const found = sewn({ rounds: 8 }, bars).ssim;
    const first = sewn({ rounds: 3 }, bars).ssim;
    expect(found).toBeGreaterThan(first);
    const lines = rowLines(bars, 'straight', { spacingMm: 1.2, angle: 0 });
    const shifted = rowLines(bars, 'straight', { spacingMm: 1.2, angle: 0, shift: 0.5 });
    expect(shifted.length).toBe(lines.length);
    expect(shifted[3].y[0] - lines[3].y[0]).toBeCloseTo(0.6, 4);
    // Rings and the spiral begin near their middle wherever they lie.
    for (const id of ['rings', 'spiral']) {
      for (const shift of [0, 0.25, 0.5, 0.75]) {
        const [{ x, y }] = rowLines(bars, id, { spacingMm: 1.2, angle: 0, shift });
        expect(Math.hypot(x[0], y[0])).withContext(`${id} ${shift}`).toBeLessThan(1.21);
      }
    }
  });

  it('stay out of what is bare', () => {
    const half = plateOf(greyRamp(200, 100), { left: -20, top: -10, width: 40, height: 20 }, (i) => i % 200 < 100);
    for (const run of sewn({}, half).runs) {
      for (let i = 0; i < run.length; i += 2) expect(run[i]).toBeGreaterThan(-0.8);
    }
  });
});

describe('row lines', () => {
  it('have places every 0.2 mm, and unit vectors across them', () => {
    for (const { id } of ROW_SHAPES) {
      const flow = id === 'forms' ? formFlow(scene, 20) : undefined;
      for (const line of rowLines(scene, id, { spacingMm: 1.2, angle: 20, flow })) {
        for (let i = 1; i < line.x.length - 1; i++) {
          const step = Math.hypot(line.x[i] - line.x[i - 1], line.y[i] - line.y[i - 1]);
          expect(step).withContext(id).toBeGreaterThan(0.1);
          expect(step).withContext(id).toBeLessThan(0.23);
          expect(Math.hypot(line.acrossX[i], line.acrossY[i])).toBeCloseTo(1, 4);
          expect(line.gapMm[i]).toBeGreaterThan(0.3);
        }
      }
    }
  });
});
