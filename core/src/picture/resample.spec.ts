import { createRaster } from './raster.js';
import { enlargeSmall, shrink, workingSize } from './resample.js';

describe('shrink', () => {
  it('averages the area under each pixel', () => {
    const source = createRaster(4, 2);
    for (let i = 0; i < 8; i++) source.data.set([i % 2 === 0 ? 0 : 200, 100, 0, 255], i * 4);
    const out = shrink(source, 2, 1);
    expect([...out.data]).toEqual([100, 100, 0, 255, 100, 100, 0, 255]);
  });

  it('does not let the colour of bare pixels bleed in', () => {
    const source = createRaster(2, 1, Uint8ClampedArray.of(200, 0, 0, 255, 0, 255, 0, 0));
    expect([...shrink(source, 1, 1).data]).toEqual([200, 0, 0, 128]);
  });

  it('keeps the mean for sizes that do not divide', () => {
    const source = createRaster(7, 5);
    for (let i = 0; i < 35; i++) source.data.set([(i * 7) % 256, 0, 0, 255], i * 4);
    const mean = (r: Uint8ClampedArray): number => r.reduce((s, v, i) => (i % 4 === 0 ? s + v : s), 0) / (r.length / 4);
    expect(mean(shrink(source, 3, 2).data)).toBeCloseTo(mean(source.data), 0);
  });

  it('refuses to enlarge', () => {
    expect(() => shrink(createRaster(2, 2), 3, 2)).toThrowError(RangeError, /3 x 2 is larger than 2 x 2/);
  });
});

describe('sizes', () => {
  it('limit the pixels and keep the proportion', () => {
    expect(workingSize(4000, 3000, 1_200_000)).toEqual({ width: 1265, height: 949 });
    expect(workingSize(100, 80, 1_000_000)).toEqual({ width: 100, height: 80 });
  });

  it('enlarge very small pictures to squares and leave others alone', () => {
    const tiny = createRaster(60, 30);
    tiny.data.set([9, 8, 7, 255], 4);
    const large = enlargeSmall(tiny);
    expect([large.width, large.height]).toEqual([480, 240]);
    expect([...large.data.subarray(8 * 4, 8 * 4 + 4)]).toEqual([9, 8, 7, 255]);
    expect([...large.data.subarray((7 * 480 + 15) * 4, (7 * 480 + 15) * 4 + 4)]).toEqual([9, 8, 7, 255]);
    const enough = createRaster(300, 20);
    expect(enlargeSmall(enough)).toBe(enough);
  });
});

describe('createRaster', () => {
  it('refuses sizes that do not fit', () => {
    expect(() => createRaster(0, 3)).toThrowError(RangeError, /0 x 3/);
    expect(() => createRaster(2, 2, new Uint8ClampedArray(3))).toThrowError(RangeError, /needs 16 bytes, got 3/);
  });
});
