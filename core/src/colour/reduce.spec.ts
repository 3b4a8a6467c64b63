import { createRaster } from '../picture/raster.js';
import { seededRandom } from '../geometry/chance.js';
import { emptyShades, histogram, setShade } from './histogram.js';
import { reduce } from './reduce.js';

describe('reduce', () => {
  const cloud = (seed: number): ReturnType<typeof emptyShades> => {
    const random = seededRandom(seed);
    const shades = emptyShades(300);
    for (let i = 0; i < 300; i++) setShade(shades, i, 1 + Math.floor(random() * 50), random(), random(), random());
    return shades;
  };

  it('gives exactly as many colours as asked for when there are enough shades', () => {
    for (const count of [1, 2, 7, 24, 60]) {
      const { assigned, count: found } = reduce(cloud(3), count);
      expect(found).toBe(count);
      expect(new Set(assigned).size).toBe(count);
    }
  });

  it('gives each shade of a short list a colour of its own', () => {
    const shades = emptyShades(3);
    setShade(shades, 0, 5, 1, 0, 0);
    setShade(shades, 1, 5, 0, 1, 0);
    setShade(shades, 2, 5, 0, 0, 1);
    expect(new Set(reduce(shades, 12).assigned).size).toBe(3);
  });

  it('keeps a small saturated group apart from two large grey ones', () => {
    const shades = emptyShades(30);
    for (let i = 0; i < 14; i++) setShade(shades, i, 1000, 0.2 + i * 0.001, 0.2, 0.2);
    for (let i = 14; i < 28; i++) setShade(shades, i, 1000, 0.7 + i * 0.001, 0.7, 0.7);
    setShade(shades, 28, 60, 0.8, 0.02, 0.02);
    setShade(shades, 29, 60, 0.82, 0.02, 0.02);
    const { assigned } = reduce(shades, 3);
    expect(assigned[28]).toBe(assigned[29]);
    expect(assigned[28]).not.toBe(assigned[0]);
    expect(assigned[28]).not.toBe(assigned[20]);
  });

  it('gives the same result every time', () => {
    expect(reduce(cloud(9), 12)).toEqual(reduce(cloud(9), 12));
  });

  it('refuses a count that is no whole number from 1 to 255', () => {
    expect(() => reduce(cloud(1), 0)).toThrowError(RangeError, /got 0/);
    expect(() => reduce(cloud(1), 2.5)).toThrowError(RangeError, /got 2.5/);
  });
});

describe('histogram', () => {
  it('counts every opaque pixel once and no bare one', () => {
    const raster = createRaster(
      4,
      1,
      Uint8ClampedArray.of(255, 0, 0, 255, 254, 1, 0, 255, 0, 0, 255, 255, 0, 255, 0, 20),
    );
    const shades = histogram(raster);
    expect(shades.count).toBe(2);
    expect(shades.weight.reduce((a, b) => a + b, 0)).toBe(3);
  });
});
