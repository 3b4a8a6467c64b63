import { createSegmentGrid } from '../geometry/segment-grid.js';
import { ringCoverage } from '../picture/coverage.js';
import { lengthOf } from '../geometry/polyline.js';
import { ellipse, rectangle } from '../test/regions.js';
import { thicken } from '../geometry/polygons.js';
import { deepest, fromMask, maskOfRings } from './area-mask.js';
import { dropCrossing, type Rung } from './rungs.js';
import { skeletonOf } from './skeleton.js';
import { smoothRun } from './smooth-run.js';
import { smoothSpine } from './smooth-spine.js';
import { spinesOf } from './spines.js';
import { thin } from './thin.js';

const STYLE = { cap: 'butt', join: 'miter', miterLimit: 4 } as const;

describe('maskOfRings', () => {
  it('knows area, widest place and where it lies', () => {
    const mask = maskOfRings([rectangle(-3, 5, 12, 4)], 10);
    expect(mask.area / mask.scale ** 2).toBeCloseTo(48, 0);
    const { x, y, radius } = deepest(mask);
    expect(radius / mask.scale).toBeCloseTo(2, 0);
    expect(fromMask(mask, [x, y])[1]).toBeCloseTo(7, 0);
  });

  it('takes fewer pixels for what is large', () => {
    const mask = maskOfRings([rectangle(0, 0, 300, 300)], 12);
    expect(mask.width * mask.height).toBeLessThan(420_000);
  });
});

describe('ringCoverage', () => {
  it('is exact for rectangles and adds up for discs', () => {
    const cover = ringCoverage([[0.5, 0.5, 2.5, 0.5, 2.5, 1.5, 0.5, 1.5]], 4, 3);
    expect([...cover.slice(0, 4)]).toEqual([64, 128, 64, 0]);
    expect([...cover.slice(8)]).toEqual([0, 0, 0, 0]);
    const disc = ringCoverage([ellipse(20, 20, 12, 12, 200)], 40, 40);
    expect(disc.reduce((a, b) => a + b, 0) / 255).toBeCloseTo(Math.PI * 144, 0);
  });

  it('leaves holes, and cuts what reaches beyond', () => {
    const cover = ringCoverage([rectangle(-5, -5, 20, 20), rectangle(2, 2, 2, 2)], 6, 6);
    expect(cover[2 * 6 + 2]).toBe(0);
    expect(cover[0]).toBe(255);
  });
});

describe('createSegmentGrid', () => {
  it('finds the same crossings as a look at every edge', () => {
    const ring = ellipse(0, 0, 10, 6, 90);
    const grid = createSegmentGrid([ring], 1.5);
    for (let k = 0; k < 40; k++) {
      const angle = (k * Math.PI) / 20;
      const cuts = grid.crossings(1, 0.5, Math.cos(angle), Math.sin(angle), 30);
      expect(cuts.length).withContext(String(k)).toBe(2);
      for (const t of cuts) {
        const [x, y] = [1 + t * Math.cos(angle), 0.5 + t * Math.sin(angle)];
        expect((x / 10) ** 2 + (y / 6) ** 2).toBeCloseTo(1, 1);
      }
    }
    expect(grid.crossings(1, 0.5, 1, 0, 2)).toEqual([]);
  });
});

describe('thin', () => {
  const lineOf = (slope: 1 | -1, width: number): number => {
    const size = 60;
    const mask = new Uint8Array(size * size);
    for (let i = 8; i < 52; i++) {
      for (let k = 0; k < width; k++) mask[(slope === 1 ? i : 60 - i) * size + Math.min(58, i + k)] = 1;
    }
    thin(mask, size);
    return mask.reduce((a, b) => a + b, 0);
  };

  it('keeps slanted lines of every width', () => {
    for (const slope of [1, -1] as const) {
      for (const width of [1, 2, 3, 4])
        expect(lineOf(slope, width)).withContext(`${slope} ${width}`).toBeGreaterThan(35);
    }
  });
});

describe('spinesOf', () => {
  const spines = (runs: number[][], width = 1.6) => {
    const mask = maskOfRings(thicken(runs, width, false, STYLE), 12);
    return { mask, list: spinesOf(skeletonOf(mask), mask) };
  };

  it('lets one of two lines pass at a crossing, and the halves of the other butt it', () => {
    const { list, mask } = spines([
      [0, 6, 12, 6],
      [6, 0, 6, 12],
    ]);
    expect(list.length).toBe(3);
    const [through, ...halves] = list;
    expect(lengthOf(through.points) / mask.scale).toBeGreaterThan(10);
    expect(through.startButts || through.endButts).toBeFalse();
    expect(through.passes.length).toBe(2);
    expect(halves.every((s) => s.startButts !== s.endButts && s.passes.length === 0)).toBeTrue();
  });

  it('lets a branch butt against what goes through', () => {
    const { list } = spines([
      [0, 0, 14, 0],
      [7, 0, 7, 9],
    ]);
    expect(list.length).toBe(2);
    expect(list.filter((s) => s.startButts !== s.endButts).length).toBe(1);
  });

  it('closes rings', () => {
    const mask = maskOfRings([ellipse(0, 0, 6, 6), ellipse(0, 0, 4.5, 4.5).reverse()], 12);
    const [ring, ...others] = spinesOf(skeletonOf(mask), mask);
    expect(others).toEqual([]);
    expect(ring.closed).toBeTrue();
    expect(lengthOf(ring.points) / mask.scale).toBeCloseTo(2 * Math.PI * 5.25, -0.7);
  });
});

describe('smoothSpine', () => {
  it('takes steps out of a line and leaves its ends', () => {
    const mask = maskOfRings([rectangle(0, 0, 12, 3)], 10);
    const run = Array.from({ length: 80 }, (_, i) => [15 + i, 16 + (i % 2)]).flat();
    const out = smoothSpine(run, false, mask);
    expect(out.slice(0, 2)).toEqual(run.slice(0, 2));
    expect(out.slice(-2)).toEqual(run.slice(-2));
    for (let i = 41; i < 81; i += 2) expect(Math.abs(out[i] - 16.5)).toBeLessThan(0.12);
  });
});

describe('dropCrossing', () => {
  const rung = (x: number, lean: number): Rung => ({ x, y: 0, ax: x + lean, ay: -1, bx: x - lean, by: 1 });

  it('leaves out the rung that crosses most', () => {
    const rungs = [rung(0, 0), rung(0.2, 0), rung(0.3, 2), rung(0.4, 0), rung(0.6, 0)];
    expect(dropCrossing(rungs)).toEqual(rungs.filter((_, i) => i !== 2));
  });

  it('keeps a ladder that is in order', () => {
    const rungs = Array.from({ length: 50 }, (_, i) => rung(i * 0.15, 0.3));
    expect(dropCrossing(rungs).length).toBe(50);
  });
});

describe('smoothRun', () => {
  it('makes few curves of a shaky hand, and keeps corners', () => {
    const run: number[] = [];
    for (let i = 0; i <= 100; i++) run.push(i * 2, (i % 2) * 0.8);
    for (let i = 1; i <= 100; i++) run.push(200 + (i % 2) * 0.8, i * 2);
    const { points, kinds } = smoothRun(run, false, 1.6);
    expect(kinds.length).toBeLessThan(8);
    let near = Infinity;
    for (let i = 0; i < points.length; i += 2) near = Math.min(near, Math.hypot(points[i] - 200, points[i + 1]));
    expect(near).toBeLessThan(6);
  });

  it('makes a stroke of a mere touch', () => {
    expect(smoothRun([0, 0, 1, 1, 2, 2], false, 1).kinds).toEqual(['L']);
  });
});
