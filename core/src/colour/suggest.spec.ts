import { drawSmooth, flatScene, withNoise } from '../test/draw.js';
import { seededRandom } from '../geometry/chance.js';
import { createRaster } from '../picture/raster.js';
import { characterOf } from './suggest.js';

describe('characterOf', () => {
  it('counts the colours of smooth-edged flat art', () => {
    for (const colours of [2, 4, 7, 10]) {
      const { scene, palette } = flatScene(360, colours, 100 + colours);
      const found = characterOf(drawSmooth(scene, palette, 360, 360).raster);
      expect(found.flat).toBeTrue();
      expect(found.noisy).toBeFalse();
      expect(found.colours).withContext(`${colours} colours`).toBe(colours);
    }
  });

  it('tells compression noise from clean areas', () => {
    const { scene, palette } = flatScene(240, 4, 8);
    const found = characterOf(withNoise(drawSmooth(scene, palette, 240, 240).raster, 3, 1));
    expect(found.flat).toBeTrue();
    expect(found.noisy).toBeTrue();
    expect(found.colours).toBe(4);
  });

  it('takes a noisy gradient for a photograph', () => {
    const random = seededRandom(4);
    const raster = createRaster(200, 200);
    for (let i = 0; i < 200 * 200; i++) {
      const x = i % 200;
      const y = Math.floor(i / 200);
      const n = (random() - 0.5) * 30;
      raster.data.set([x + n, y * 0.8 + n, 255 - x * 0.6 + n, 255], i * 4);
    }
    expect(characterOf(raster).flat).toBeFalse();
  });

  it('calls a picture without any opaque pixel flat with one colour', () => {
    expect(characterOf(createRaster(8, 8))).toEqual({ flat: true, noisy: false, colours: 1 });
  });
});
