import type { Rgb } from '../colour/srgb.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { seededRandom } from '../geometry/chance.js';

/** Says which colour of a palette lies at a point. */
export type Scene = (x: number, y: number) => number;

const SAMPLES = 4;

/**
 * Draws a scene with smooth edges: every pixel is the mean of 16 samples.
 * @returns the picture and, for every pixel, the palette entry that fills most of it
 */
export function drawSmooth(
  scene: Scene,
  palette: readonly Rgb[],
  width: number,
  height: number,
): { raster: Raster; truth: Uint8Array } {
  const raster = createRaster(width, height);
  const truth = new Uint8Array(width * height);
  const votes = new Uint8Array(palette.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      votes.fill(0);
      let [r, g, b] = [0, 0, 0];
      for (let k = 0; k < SAMPLES * SAMPLES; k++) {
        const at = scene(x + ((k % SAMPLES) + 0.5) / SAMPLES, y + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES);
        votes[at]++;
        r += palette[at].r;
        g += palette[at].g;
        b += palette[at].b;
      }
      const n = SAMPLES * SAMPLES;
      raster.data.set([r / n, g / n, b / n, 255], (y * width + x) * 4);
      truth[y * width + x] = votes.indexOf(Math.max(...votes));
    }
  }
  return { raster, truth };
}

/** Adds noise of up to `strength` levels to every channel, as compression does. */
export function withNoise(raster: Raster, strength: number, seed: number): Raster {
  const random = seededRandom(seed);
  const data = raster.data.map((v, i) => (i % 4 === 3 ? v : v + (random() * 2 - 1) * strength));
  return createRaster(raster.width, raster.height, data);
}

/** A scene of discs and stripes on a ground, by chance: flat art as it comes from a drawing program. */
export function flatScene(size: number, colours: number, seed: number): { scene: Scene; palette: Rgb[] } {
  const random = seededRandom(seed);
  const palette: Rgb[] = [{ r: 250, g: 246, b: 236 }];
  while (palette.length < colours) {
    const c = { r: Math.floor(random() * 256), g: Math.floor(random() * 256), b: Math.floor(random() * 256) };
    const far = palette.every((p) => Math.abs(p.r - c.r) + Math.abs(p.g - c.g) + Math.abs(p.b - c.b) > 130);
    if (far) palette.push(c);
  }
  const shapes = Array.from({ length: (colours - 1) * 2 }, (_, i) => ({
    colour: (i % (colours - 1)) + 1,
    x: size * (0.15 + random() * 0.7),
    y: size * (0.15 + random() * 0.7),
    r: size * (0.05 + random() * 0.1),
    bar: random() < 0.4,
    turn: random() * Math.PI,
  }));
  const turns = shapes.map(({ turn }) => ({ cos: Math.cos(turn), sin: Math.sin(turn) }));
  const scene: Scene = (x, y) => {
    let at = 0;
    for (let i = 0; i < shapes.length; i++) {
      const s = shapes[i];
      const dx = x - s.x;
      const dy = y - s.y;
      if (dx * dx + dy * dy > s.r * s.r * 4.3) continue;
      const { cos, sin } = turns[i];
      const u = dx * cos + dy * sin;
      const v = dy * cos - dx * sin;
      if (s.bar ? Math.abs(u) < s.r * 2 && Math.abs(v) < s.r * 0.45 : dx * dx + dy * dy < s.r * s.r) at = s.colour;
    }
    return at;
  };
  return { scene, palette };
}
