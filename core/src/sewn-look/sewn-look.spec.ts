import type { Sewing } from '../sequence/sewing.js';
import { createRaster } from '../picture/raster.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { tatami } from '../stitches/tatami.js';
import { rectangle } from '../test/regions.js';
import { densityOf } from './density.js';
import { KeyFrames } from './key-frames.js';
import { likenessOf } from './likeness.js';
import { ProgressiveView } from './progressive.js';
import { drawScene, FINE_SCALE, renderDesign, sceneOf, type Scene } from './render.js';
import { segmentsBefore, segmentsOf } from './segments.js';
import type { Look, View, ViewPart } from './view.js';

function filled(hex: string): Sewing {
  const [run] = tatami([rectangle(-15, -10, 30, 20)], {
    angle: 15,
    spacingMm: 0.4,
    stitchLengthMm: 3.6,
    compensationMm: 0,
  });
  const writer = new StitchWriter();
  writer.add(run[0], run[1], JUMP, 0, 0);
  for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
  return {
    fabric: { id: 'linen', hex: '#f4f1ea' },
    picture: { left: -15, top: -10, width: 30, height: 20 },
    threads: [{ code: 'A', name: 'A', hex, chart: 'own', deltaE: 0 }],
    stitches: writer.finish(),
    pieceIds: ['p1'],
  };
}

const plain = (r: number, g: number, b: number): ReturnType<typeof createRaster> => {
  const raster = createRaster(90, 60);
  for (let i = 0; i < 90 * 60; i++) raster.data.set([r, g, b, 255], i * 4);
  return raster;
};

describe('sewn look', () => {
  const design = filled('#2c6e80');
  const view = { width: 128, height: 96, scale: 11, left: -66, top: -55 };

  it('covers the cloth with thread of about its own colour', () => {
    for (const [hex, r, g, b] of [
      ['#2c6e80', 44, 110, 128],
      ['#d8602a', 216, 96, 42],
      ['#e6e0d0', 230, 224, 208],
      ['#2a3437', 42, 52, 55],
    ] as const) {
      const likeness = likenessOf(filled(hex), plain(r, g, b));
      expect(likeness?.deltaE).withContext(hex).toBeLessThan(6);
    }
    expect(likenessOf(design, plain(230, 40, 40))?.deltaE).toBeGreaterThan(25);
  });

  it('is the same drawn as one picture and tile by tile', () => {
    const scene = sceneOf(design);
    const whole = drawScene(scene, view, 'sewn');
    for (const [x, y] of [
      [0, 0],
      [64, 0],
      [0, 48],
      [64, 48],
    ]) {
      const part = { ...view, width: 64, height: 48, left: view.left + x, top: view.top + y };
      const tile = drawScene(scene, part, 'sewn');
      let differ = 0;
      for (let row = 0; row < 48; row++) {
        for (let col = 0; col < 64; col++) if (tile[row * 64 + col] !== whole[(y + row) * 128 + x + col]) differ++;
      }
      expect(differ).toBe(0);
    }
  });

  it('is the same drawn at once and step by step, at every look and scale', () => {
    const scene = sceneOf(design);
    for (const look of ['sewn', 'line', 'density'] as const) {
      for (const scale of [5, 12]) {
        const at = { ...view, scale };
        const steps = new Screen(scene, at, look);
        for (const to of [10, 200, 40, scene.segments.count]) steps.to(to);
        // Small scales are drawn twice as large and halved when all is drawn at once.
        const isDoubled = look === 'sewn' && scale < FINE_SCALE;
        const whole = isDoubled ? new Screen(scene, at, look).to(scene.segments.count) : drawScene(scene, at, look);
        expect(steps.to(scene.segments.count)).toEqual(whole);
      }
    }
  });

  it('lets no cloth through between rows that touch, wherever they lie between pixels', () => {
    for (const shift of [0, 0.013, 0.025, 0.037]) {
      const writer = new StitchWriter();
      for (let k = 0; k < 20; k++) {
        const y = (k - 10) * 0.4 + shift;
        writer.add(k % 2 === 0 ? -6 : 6, y, k === 0 ? JUMP : STITCH, 0, 0);
        writer.add(k % 2 === 0 ? 6 : -6, y, STITCH, 0, 0);
      }
      const sewing = { ...filled('#102030'), stitches: writer.finish() };
      const inner = { width: 60, height: 50, scale: 10, left: -30, top: -25 };
      const onWhite = drawScene(sceneOf({ ...sewing, fabric: { id: 'a', hex: '#ffffff' } }), inner, 'sewn');
      const onBlack = drawScene(sceneOf({ ...sewing, fabric: { id: 'b', hex: '#000000' } }), inner, 'sewn');
      let most = 0;
      onWhite.forEach((p, i) => (most = Math.max(most, Math.abs(((p >> 8) & 255) - ((onBlack[i] >> 8) & 255)))));
      expect(most).withContext(`moved by ${shift} mm`).toBeLessThanOrEqual(3);
    }
  });

  it('draws opaque pixels of the size asked for and refuses senseless scales', () => {
    const raster = renderDesign(design, 4, 'sewn', 1);
    expect([raster.width, raster.height]).toEqual([128, 88]);
    expect(raster.data.every((v, i) => i % 4 !== 3 || v === 255)).toBeTrue();
    expect(() => renderDesign(design, 0, 'sewn')).toThrowError(RangeError, /got 0/);
    expect(() => renderDesign(design, 5000, 'sewn')).toThrowError(RangeError, /too many/);
  });
});

/** A view to which every part that is told to have changed is added, as a stage does. */
class Screen {
  private readonly steps: ProgressiveView;
  private readonly shown: Int32Array;
  part: ViewPart = { left: 0, top: 0, width: 0, height: 0 };

  constructor(
    scene: Scene,
    private readonly view: View,
    look: Look,
  ) {
    this.steps = new ProgressiveView(scene, view, look);
    this.shown = new Int32Array(view.width * view.height);
  }

  to(segments: number): Int32Array {
    const { part, pixels } = this.steps.drawTo(segments);
    this.part = part;
    for (let y = 0; y < part.height; y++) {
      this.shown.set(
        pixels.subarray(y * part.width, (y + 1) * part.width),
        (part.top + y) * this.view.width + part.left,
      );
    }
    return this.shown.slice();
  }

  /** Makes all key frames. @returns how many */
  prepare(): number {
    let made = 0;
    for (let more = true; more; made++) more = this.steps.prepare();
    return made;
  }
}

function zigzags(count: number): Scene {
  const writer = new StitchWriter();
  for (let i = 0; i < count; i++) {
    writer.add((i % 60) * 0.5 - 15, Math.floor(i / 60) * (30 / (count / 60)) - 15, STITCH, 0, 0);
  }
  return sceneOf({ ...filled('#2c6e80'), stitches: writer.finish() });
}

describe('playing', () => {
  it('tells which part of the view has changed, at first the whole', () => {
    const scene = sceneOf(filled('#2c6e80'));
    for (const look of ['sewn', 'line'] as const) {
      const at = { width: 240, height: 170, scale: 7, left: -120, top: -85 };
      const steps = new Screen(scene, at, look);
      steps.to(0);
      expect(steps.part).toEqual({ left: 0, top: 0, width: 240, height: 170 });
      for (let to = 70; to < scene.segments.count; to += 90) {
        steps.to(to);
        const after = steps.to(to + 20);
        expect(steps.part.width * steps.part.height).toBeLessThan(240 * 170 * 0.6);
        expect(after)
          .withContext(`${look} ${to}`)
          .toEqual(new Screen(scene, at, look).to(to + 20));
      }
    }
  });
});

describe('key frames', () => {
  const at = { width: 300, height: 200, scale: 6, left: -150, top: -100 };

  it('are sewn over where the way is short, and gone to where it is long', () => {
    const scene = zigzags(9000);
    const steps = new Screen(scene, at, 'sewn');
    steps.to(1900);
    expect(steps.prepare()).toBe(Math.floor(scene.segments.count / 1024));
    const top = steps.to(2300);
    expect(top).toEqual(new Screen(scene, at, 'sewn').to(2300));
    expect(steps.part.height).toBeLessThan(60);
    expect(steps.to(8100)).toEqual(new Screen(scene, at, 'sewn').to(8100));
    // All that lies between, and no more.
    expect(steps.part.height).toBeGreaterThan(120);
    expect(steps.part.width * steps.part.height).toBeLessThan(300 * 200);
    expect(steps.to(2300)).toEqual(top);
  });

  it('change nothing of what is shown, before they are made and after', () => {
    const scene = zigzags(16_000);
    for (const look of ['sewn', 'line'] as const) {
      const steps = new Screen(scene, at, look);
      for (const to of [16_000, 12_000, 5000, 4999, 11_000, 0]) {
        expect(steps.to(to))
          .withContext(`${look} ${to}`)
          .toEqual(new Screen(scene, at, look).to(to));
      }
      steps.prepare();
      for (const to of [700, 14_300, 14_400, 2048, 15_999, 1023, 0]) {
        expect(steps.to(to))
          .withContext(`${look} ${to}, with key frames`)
          .toEqual(new Screen(scene, at, look).to(to));
      }
    }
  });

  it('share what has not changed, and are fewer where they would take too much memory', () => {
    const scene = zigzags(40_000);
    const small = new KeyFrames(scene.segments, at, new Int32Array(300 * 200));
    expect(small.step).toBe(1024);
    const view = { width: 3000, height: 2000, scale: 60, left: -1500, top: -1000 };
    const large = new KeyFrames(scene.segments, view, new Int32Array(3000 * 2000));
    // A thousandth of the rows changes a fortieth of the view; whole pictures would be 24 MB each.
    expect(large.step).toBeLessThan(10_000);
    let made = 0;
    while (large.prepare(() => made++));
    expect(made).toBe(Math.floor(scene.segments.count / large.step));
    expect(large.before(scene.segments.count)).toBe(made * large.step);
    expect(large.before(large.step - 1)).toBe(0);
  });
});

describe('segments and density', () => {
  const { stitches } = filled('#000000');
  const segments = segmentsOf(stitches);

  it('take every stitch with a length, in order', () => {
    expect(segments.count).toBe(stitches.count - 2);
    expect(segmentsBefore(segments, 0)).toBe(0);
    expect(segmentsBefore(segments, stitches.count)).toBe(segments.count);
    expect(segmentsBefore(segments, 12)).toBe(10);
  });

  it('find one cover of thread in a fill and two where it is sewn twice', () => {
    const middle = (count: number): number => {
      const { covers, columns, rows } = densityOf(segments, count);
      return covers[Math.floor(rows / 2) * columns + Math.floor(columns / 2)];
    };
    expect(middle(segments.count)).toBeCloseTo(1, 0);
    expect(middle(0)).toBe(0);
  });
});
