import { characterOf } from '../colour/suggest.js';
import { flattenRing, nodeCount } from '../geometry/curve.js';
import { areaOf } from '../geometry/polygons.js';
import { isInside } from '../geometry/polyline.js';
import { drawSmooth, flatScene, withNoise } from '../test/draw.js';
import { findComponents, saddleAt, dropSpecks } from './components.js';
import { labelPicture, plainLabelSettings, type LabelMap } from './labels.js';
import { traceLabels } from './trace.js';
import { createRaster, type Raster } from '../picture/raster.js';

const labelled = (raster: Raster, count: number | 'auto' = 'auto'): LabelMap =>
  labelPicture(raster, characterOf(raster), plainLabelSettings(raster, count, 1));

/** Share of pixels whose label's colour is the true one. */
function agreement(map: LabelMap, palette: readonly { r: number; g: number; b: number }[], truth: Uint8Array): number {
  let right = 0;
  for (let i = 0; i < truth.length; i++) {
    const c = map.palette[map.labels[i] - 1];
    const t = palette[truth[i]];
    if (c && Math.abs(c.r - t.r) + Math.abs(c.g - t.g) + Math.abs(c.b - t.b) < 12) right++;
  }
  return right / truth.length;
}

describe('labelPicture', () => {
  for (const seed of [11, 12, 13, 14]) {
    it(`finds the colours of smooth-edged art and no edge shade (picture ${seed})`, () => {
      const { scene, palette } = flatScene(400, 5, seed);
      const { raster, truth } = drawSmooth(scene, palette, 400, 400);
      const map = labelled(raster);
      const colours = new Set(map.palette.map((c) => `${c.r} ${c.g} ${c.b}`));
      const expected = new Set([...truth].map((t) => `${palette[t].r} ${palette[t].g} ${palette[t].b}`));
      expect(colours).toEqual(expected);
      expect(agreement(map, palette, truth)).toBeGreaterThan(0.998);
    });
  }

  it('sees through compression noise', () => {
    const { scene, palette } = flatScene(400, 4, 21);
    const { raster, truth } = drawSmooth(scene, palette, 400, 400);
    const map = labelled(withNoise(raster, 2.5, 2));
    expect(new Set(map.palette.map((c) => `${c.r >> 4}`)).size).toBeLessThanOrEqual(4);
    const noisy = map.palette.map((c) => palette.reduce((a, b) => (gap(a, c) < gap(b, c) ? a : b)));
    expect(agreement({ ...map, palette: noisy }, palette, truth)).toBeGreaterThan(0.985);
  });

  const gap = (a: { r: number; g: number; b: number }, b: { r: number; g: number; b: number }): number =>
    Math.abs(a.r - b.r) + Math.abs(a.g - b.g) + Math.abs(a.b - b.b);

  it('reduces to the number of colours asked for', () => {
    const { scene, palette } = flatScene(300, 7, 31);
    const map = labelled(drawSmooth(scene, palette, 300, 300).raster, 3);
    const sewn = new Set([...map.labels].map((l) => JSON.stringify(map.palette[l - 1])));
    expect(sewn.size).toBe(3);
  });

  it('separates the ground that reaches the edge from the same colour inside', () => {
    const palette = [
      { r: 255, g: 255, b: 255 },
      { r: 30, g: 60, b: 90 },
      { r: 200, g: 40, b: 40 },
    ];
    const ring = (x: number, y: number): number => {
      const r = Math.sqrt((x - 100) ** 2 + (y - 100) ** 2);
      return r > 80 || r < 40 ? (r < 15 ? 2 : 0) : 1;
    };
    const map = labelled(drawSmooth(ring, palette, 200, 200).raster);
    expect(map.ground).toBeGreaterThan(0);
    expect(map.labels[0]).toBe(map.ground);
    const inside = map.labels[100 * 200 + 125];
    expect(inside).not.toBe(map.ground);
    expect(map.palette[inside - 1]).toEqual(map.palette[map.ground - 1]);
  });

  it('finds paper as the ground where art touches much of the edge, and no other colour', () => {
    const groundOf = (r: number, g: number, b: number): number => {
      const palette = [
        { r, g, b },
        { r: 30, g: 60, b: 90 },
        { r: 200, g: 40, b: 40 },
      ];
      // A bar from edge to edge, and a disc that reaches beyond the right one: 55 % of the edge is left.
      const scene = (x: number, y: number): number =>
        y > 120 && y < 200 ? 1 : (x - 200) ** 2 + (y - 60) ** 2 < 50 ** 2 ? 2 : 0;
      return labelled(drawSmooth(scene, palette, 200, 200).raster).ground;
    };
    expect(groundOf(255, 255, 255)).toBeGreaterThan(0);
    expect(groundOf(244, 241, 234)).toBeGreaterThan(0);
    expect(groundOf(120, 190, 120)).toBe(0);
  });

  it('keeps transparent areas bare', () => {
    const raster = createRaster(40, 40);
    for (let i = 0; i < 1600; i++) raster.data.set(i % 40 < 20 ? [200, 30, 30, 255] : [0, 0, 0, 0], i * 4);
    const map = labelled(raster);
    expect(map.labels[5]).toBe(1);
    expect(map.labels[30]).toBe(0);
  });
});

describe('components', () => {
  const field = (...rows: string[]): { labels: Uint8Array; width: number; height: number } => ({
    labels: Uint8Array.from(rows.join(''), Number),
    width: rows[0].length,
    height: rows.length,
  });

  it('keep a diagonal line one pixel wide together', () => {
    const { labels, width, height } = field('200000', '020000', '002000', '000200', '000020', '000002');
    const parts = findComponents(labels, width, height);
    expect(parts.count).toBe(3);
    expect(saddleAt(labels, width, height, 1, 1)).toBe(1);
  });

  it('keep the fields of a chequered pattern apart', () => {
    const row = (a: string, b: string): string => (a.repeat(4) + b.repeat(4)).repeat(2);
    const rows = [...Array<string>(4).fill(row('1', '2')), ...Array<string>(4).fill(row('2', '1'))];
    const { labels, width, height } = field(...rows);
    expect(saddleAt(labels, width, height, 4, 4)).toBe(0);
    expect(findComponents(labels, width, height).count).toBe(8);
  });

  it('give specks to the neighbour with the longest border', () => {
    const { labels, width, height } = field('11111', '11311', '11222', '22222');
    dropSpecks(labels, width, height, 3);
    expect(labels[7]).toBe(1);
    expect(findComponents(labels, width, height).count).toBe(2);
  });
});

describe('traceLabels', () => {
  it('draws shapes that give the picture back without a gap', () => {
    const { scene, palette } = flatScene(300, 5, 41);
    const { raster } = drawSmooth(scene, palette, 300, 300);
    const map = labelled(raster);
    const { faces } = traceLabels(map, raster, { tolerance: 0.5, cornerSharpness: 1 });
    const rings = faces.map((face) => face.rings.map((ring) => flattenRing(ring, 0.05)));
    let right = 0;
    let bare = 0;
    let twice = 0;
    for (let y = 2; y < 298; y += 3) {
      for (let x = 2; x < 298; x += 3) {
        const hits = faces.filter((_, i) => isInside(rings[i], x + 0.5, y + 0.5));
        if (hits.length === 0) bare++;
        if (hits.length > 1) twice++;
        if (hits.some((face) => face.label === map.labels[y * 300 + x])) right++;
      }
    }
    const total = 99 * 99;
    expect(bare).toBe(0);
    expect(twice).toBe(0);
    expect(right / total).toBeGreaterThan(0.996);
  });

  it('finds a circle of the true size with few points', () => {
    const palette = [
      { r: 255, g: 255, b: 255 },
      { r: 20, g: 40, b: 60 },
    ];
    const { raster } = drawSmooth((x, y) => ((x - 101.3) ** 2 + (y - 99.6) ** 2 < 60 ** 2 ? 1 : 0), palette, 200, 200);
    const { faces } = traceLabels(labelled(raster), raster, { tolerance: 0.3, cornerSharpness: 1 });
    const disc = faces.find((face) => face.rings.length === 1);
    const ring = disc?.rings[0];
    expect(ring && areaOf([flattenRing(ring, 0.01)])).toBeCloseTo(Math.PI * 3600, -1.5);
    expect(ring && nodeCount(ring)).toBeLessThan(14);
  });

  it('keeps the corners of a slanted square sharp', () => {
    const palette = [
      { r: 255, g: 255, b: 255 },
      { r: 160, g: 30, b: 30 },
    ];
    const [c, s] = [Math.cos(0.4), Math.sin(0.4)];
    const inSquare = (x: number, y: number): number => {
      const u = (x - 100) * c + (y - 100) * s;
      const v = (y - 100) * c - (x - 100) * s;
      return Math.abs(u) < 50 && Math.abs(v) < 50 ? 1 : 0;
    };
    const { raster } = drawSmooth(inSquare, palette, 200, 200);
    const { faces } = traceLabels(labelled(raster), raster, { tolerance: 0.5, cornerSharpness: 1 });
    const ring = faces.find((face) => face.rings.length === 1)?.rings[0];
    expect(ring?.kinds).toEqual(['L', 'L', 'L', 'L']);
    for (const [u, v] of [
      [50, 50],
      [-50, 50],
      [-50, -50],
      [50, -50],
    ]) {
      const x = 100 + u * c - v * s;
      const y = 100 + u * s + v * c;
      const near = Math.min(
        ...[0, 2, 4, 6].map((i) => Math.hypot((ring?.points[i] ?? 0) - x, (ring?.points[i + 1] ?? 0) - y)),
      );
      expect(near).toBeLessThan(0.5);
    }
  });
});
