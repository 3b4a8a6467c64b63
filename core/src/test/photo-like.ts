import { toByte } from '../colour/srgb.js';
import { seededRandom } from '../geometry/chance.js';
import { createRaster, type Raster } from '../picture/raster.js';

/** A soft picture that behaves like a photograph: a lit ball before a sky that changes, with grain. */
export function softScene(width: number, height: number, seed = 5): Raster {
  const random = seededRandom(seed);
  const raster = createRaster(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [u, v] = [x / width, y / height];
      let c = [0.1 + 0.5 * v, 0.15 + 0.25 * v, 0.4 - 0.2 * v];
      const [dx, dy] = [(u - 0.5) * 3, (v - 0.55) * 3];
      const inside = 1 - dx * dx - dy * dy;
      if (inside > 0) {
        const light = Math.max(0.05, 0.75 * Math.sqrt(inside) - 0.35 * dx - 0.35 * dy);
        c = [0.8 * light, 0.35 * light, 0.12 * light];
      }
      const grain = 1 + (random() - 0.5) * 0.06;
      raster.data.set([...c.map((p) => toByte(Math.min(1, p * grain))), 255], (y * width + x) * 4);
    }
  }
  return raster;
}

/** A ramp of greys, even in L*, from black on the left to white on the right. */
export function greyRamp(width: number, height: number): Raster {
  const raster = createRaster(width, height);
  for (let x = 0; x < width; x++) {
    const l = (100 * x) / (width - 1);
    const grey = toByte(l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389);
    for (let y = 0; y < height; y++) raster.data.set([grey, grey, grey, 255], (y * width + x) * 4);
  }
  return raster;
}
