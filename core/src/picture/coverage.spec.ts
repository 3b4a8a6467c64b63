import { seededRandom } from '../geometry/chance.js';
import { ringCoverage } from './coverage.js';
import { createRaster } from './raster.js';
import { shrink, shrinkWindow } from './resample.js';

describe('ringCoverage', () => {
  const area = (cover: Uint8Array): number => cover.reduce((sum, v) => sum + v, 0) / 255;

  it('covers a box exactly, parts of pixels too', () => {
    const cover = ringCoverage([[1.25, 1, 4.5, 1, 4.5, 3, 1.25, 3]], 6, 4);
    expect([...cover.subarray(6, 12)]).toEqual([0, 191, 255, 255, 128, 0]);
    expect(area(cover)).toBeCloseTo(6.5, 1);
  });

  it('leaves holes, and whatever lies outside the picture', () => {
    const outer = [-5, -5, 25, -5, 25, 25, -5, 25];
    const hole = [5, 5, 15, 5, 15, 15, 5, 15];
    expect(area(ringCoverage([outer, hole], 20, 20))).toBeCloseTo(300, 6);
  });

  it('comes close to the true area of any polygon', () => {
    const random = seededRandom(12);
    for (let n = 0; n < 20; n++) {
      const ring: number[] = [];
      for (let i = 0; i < 9; i++) {
        const r = 12 + random() * 16;
        ring.push(32 + r * Math.cos((i / 9) * 2 * Math.PI), 32 + r * Math.sin((i / 9) * 2 * Math.PI));
      }
      let shoelace = 0;
      for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
        shoelace += ring[j] * ring[i + 1] - ring[i] * ring[j + 1];
      }
      expect(area(ringCoverage([ring], 64, 64)) / (shoelace / 2)).toBeCloseTo(1, 2);
    }
  });
});

describe('shrinkWindow', () => {
  const random = seededRandom(4);
  const picture = createRaster(30, 20);
  for (let i = 0; i < 600; i++) picture.data.set([random() * 255, random() * 255, random() * 255, 255], i * 4);

  it('agrees with shrinking the whole', () => {
    const whole = shrinkWindow(picture, { left: 0, top: 0, width: 30, height: 20 }, 10, 8);
    const other = shrink(picture, 10, 8);
    whole.data.forEach((v, i) => expect(Math.abs(v - other.data[i])).toBeLessThanOrEqual(1));
  });

  it('cuts without changing a pixel', () => {
    const cut = shrinkWindow(picture, { left: 7, top: 3, width: 5, height: 4 }, 5, 4);
    for (let y = 0; y < 4; y++) {
      const row = ((y + 3) * 30 + 7) * 4;
      expect(cut.data.subarray(y * 20, y * 20 + 20)).toEqual(picture.data.subarray(row, row + 20));
    }
  });

  it('fills or leaves bare what lies beyond, and mixes at the edge', () => {
    const window = { left: -1, top: 0, width: 2, height: 2 };
    expect(shrinkWindow(picture, window, 2, 2).data[3]).toBe(0);
    const filled = shrinkWindow(picture, window, 1, 1, { r: 0, g: 0, b: 0 });
    const mean = (picture.data[0] + picture.data[120]) / 2;
    expect(filled.data[0]).toBeCloseTo(mean / 2, -0.5);
    expect(filled.data[3]).toBe(255);
  });
});
