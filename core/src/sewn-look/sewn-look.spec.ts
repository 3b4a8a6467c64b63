import type { Sewing } from '../design.js';
import { createRaster } from '../picture/raster.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { tatami } from '../stitches/tatami.js';
import { rectangle } from '../test/regions.js';
import { densityOf } from './density.js';
import { likenessOf } from './likeness.js';
import { ProgressiveView } from './progressive.js';
import { drawScene, renderDesign, sceneOf } from './render.js';
import { segmentsBefore, segmentsOf } from './segments.js';

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
        const steps = new ProgressiveView(scene, at, look);
        for (const to of [10, 200, 40, scene.segments.count]) steps.drawTo(to);
        expect(steps.drawTo(scene.segments.count)).toEqual(drawScene(scene, at, look));
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

describe('playing', () => {
  it('tells which part of the view has changed: all else stays as it was', () => {
    const scene = sceneOf(filled('#2c6e80'));
    for (const look of ['sewn', 'line'] as const) {
      const at = { width: 240, height: 170, scale: 7, left: -120, top: -85 };
      const steps = new ProgressiveView(scene, at, look, true);
      steps.drawTo(0);
      expect(steps.changed).toEqual({ left: 0, top: 0, width: 240, height: 170 });
      for (let to = 70; to < scene.segments.count; to += 90) {
        const before = steps.drawTo(to).slice();
        const after = steps.drawTo(to + 20);
        const { left, top, width, height } = steps.changed;
        expect(width * height).toBeLessThan(240 * 170 * 0.6);
        const outside = before.findIndex((v, i) => {
          const [x, y] = [(i % 240) - left, Math.floor(i / 240) - top];
          return v !== after[i] && (x < 0 || y < 0 || x >= width || y >= height);
        });
        expect(outside).withContext(`${look} ${to}`).toBe(-1);
      }
      steps.drawTo(30);
      expect(steps.changed.width).toBe(240);
    }
  });
});

describe('scrubbing', () => {
  it('sews on over a key frame where the way is short, and takes one where it is long', () => {
    const writer = new StitchWriter();
    for (let i = 0; i < 9000; i++) {
      writer.add((i % 60) * 0.5 - 15, Math.floor(i / 60) * 0.2 - 15, STITCH, 0, 0);
    }
    const scene = sceneOf({ ...filled('#2c6e80'), stitches: writer.finish() });
    const at = { width: 200, height: 200, scale: 6, left: -100, top: -100 };
    const steps = new ProgressiveView(scene, at, 'sewn', true);
    steps.drawTo(1900);
    while (steps.prepare());
    expect(steps.drawTo(2300)).toEqual(new ProgressiveView(scene, at, 'sewn', true).drawTo(2300));
    expect(steps.changed.height).toBeLessThan(60);
    expect(steps.drawTo(8100)).toEqual(new ProgressiveView(scene, at, 'sewn', true).drawTo(8100));
    expect(steps.changed).toEqual({ left: 0, top: 0, width: 200, height: 200 });
  });

  it('goes back over key frames to the very same picture', () => {
    const [run] = tatami([rectangle(-60, -60, 120, 120)], {
      angle: 15,
      spacingMm: 0.4,
      stitchLengthMm: 2,
      compensationMm: 0,
    });
    const writer = new StitchWriter();
    for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
    const scene = sceneOf({ ...filled('#2c6e80'), stitches: writer.finish() });
    expect(scene.segments.count).toBeGreaterThan(15000);
    const at = { width: 160, height: 120, scale: 2, left: -80, top: -60 };
    const steps = new ProgressiveView(scene, at, 'sewn');
    for (const to of [scene.segments.count, 12000, 5000, 4999, 11000, 0]) {
      expect(steps.drawTo(to))
        .withContext(String(to))
        .toEqual(drawScene(scene, at, 'sewn', to));
    }
  });
});

describe('key frames', () => {
  it('are prepared one by one and change nothing of what is shown', () => {
    const [run] = tatami([rectangle(-60, -60, 120, 120)], {
      angle: 75,
      spacingMm: 0.4,
      stitchLengthMm: 2,
      compensationMm: 0,
    });
    const writer = new StitchWriter();
    for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
    const scene = sceneOf({ ...filled('#d8602a'), stitches: writer.finish() });
    const at = { width: 120, height: 90, scale: 1.5, left: -60, top: -45 };
    for (const look of ['sewn', 'line'] as const) {
      const steps = new ProgressiveView(scene, at, look, true);
      const plain = new ProgressiveView(scene, at, look, true);
      steps.drawTo(500);
      let made = 1;
      while (steps.prepare()) made++;
      expect(made).toBe(Math.floor(scene.segments.count / 2000));
      expect(steps.prepare()).toBeFalse();
      for (const to of [700, 14300, 14400, 2000, scene.segments.count]) {
        expect(steps.drawTo(to)).withContext(`${look} ${to}`).toEqual(plain.drawTo(to));
      }
    }
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
