import { createRaster, type Raster } from '../picture/raster.js';
import { flood } from './flood.js';

/** A row of fields of 4 pixels each, of one grey after the other; 'bare' is no cloth at all. */
function fields(...greys: (number | 'bare')[]): Raster {
  const raster = createRaster(greys.length * 4, 4);
  for (let i = 0; i < raster.width * 4; i++) {
    const grey = greys[Math.floor((i % raster.width) / 4)];
    raster.data.set(grey === 'bare' ? [0, 0, 0, 0] : [grey, grey, grey, 255], i * 4);
  }
  return raster;
}

const count = (inside: Uint8Array | undefined): number | undefined => inside?.reduce((sum, n) => sum + n, 0);

describe('flood', () => {
  it('takes what is of nearly the colour, as far as it hangs together', () => {
    const raster = fields(100, 104, 200, 100);
    expect(count(flood(raster, 1, 1, 0))).toBe(16);
    expect(count(flood(raster, 1, 1, 5))).toBe(32);
    // Wide enough for what lies between, it reaches what lies beyond.
    expect(count(flood(raster, 1, 1, 60))).toBe(64);
  });

  it('measures from the pixel it began at, so that shades do not lead it on and on', () => {
    const raster = fields(100, 110, 120, 130, 140);
    expect(count(flood(raster, 1, 1, 6))).toBe(32);
    expect(count(flood(raster, 9, 1, 6))).toBe(48);
  });

  it('takes no bare cloth, and nothing from there or from outside', () => {
    const raster = fields(100, 'bare', 100);
    expect(count(flood(raster, 1, 1, 100))).toBe(16);
    expect(flood(raster, 5, 1, 100)).toBeUndefined();
    expect(flood(raster, -1, 1, 100)).toBeUndefined();
    expect(flood(raster, 0, 4, 100)).toBeUndefined();
  });
});
