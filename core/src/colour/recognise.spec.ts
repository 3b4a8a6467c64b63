import { seededRandom } from '../geometry/chance.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { drawSmooth, flatScene, withNoise } from '../test/draw.js';
import { lineDrawing } from '../test/line-drawing.js';
import { softScene } from '../test/photo-like.js';
import { recognise, type PictureSort } from './recognise.js';

/** Hazy hills in evening light: soft forms, shaded across, with a little grain. */
function hills(width: number, height: number, grain: number, seed: number): Raster {
  const random = seededRandom(seed);
  const raster = createRaster(width, height);
  const waves = Array.from({ length: 4 }, () => [0.5 + random() * 4, random() * 6, 0.04 + random() * 0.1] as const);
  const tint = [random(), random(), random()];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [u, v] = [x / width, y / height];
      let depth = 0;
      waves.forEach(([often, shift, high], i) => {
        const edge = 0.35 + i * 0.15 + high * Math.sin(often * u * 6 + shift);
        depth += 1 / (1 + Math.exp((edge - v) * 160));
      });
      const light = 210 - 42 * depth - 30 * v + 14 * Math.sin(u * 9 + depth * 2) + (random() - 0.5) * grain;
      raster.data.set([...tint.map((t) => light * (0.75 + 0.25 * t) - 8 * depth * t), 255], (y * width + x) * 4);
    }
  }
  return raster;
}

const INK_ON_PAPER = [
  { r: 250, g: 248, b: 240 },
  { r: 34, g: 42, b: 60 },
];

/** Every picture with what it is; `seed` draws all of it. */
function* pictures(first = 0): Generator<readonly [what: string, sort: readonly PictureSort[], raster: Raster]> {
  for (let i = 0; i < 10; i++) {
    const side = [160, 240, 320, 520][i % 4];
    const { scene, palette } = flatScene(side, 4 + (i % 9), first + 900 + i);
    const clean = drawSmooth(scene, palette, side, side).raster;
    // Every third one as saving it with losses leaves it.
    yield [`flat ${i}`, ['flat'], i % 3 === 2 ? withNoise(clean, 6, i) : clean];
  }
  for (let i = 0; i < 10; i++) {
    const side = [200, 300, 400][i % 3];
    const { raster } = drawSmooth(lineDrawing(side, first + 700 + i).scene, INK_ON_PAPER, side, side);
    yield [`drawing ${i}`, ['drawing'], i % 4 === 3 ? withNoise(raster, 8, i) : raster];
  }
  for (let i = 0; i < 10; i++) {
    const [width, height] = [
      [240, 180],
      [400, 300],
      [480, 640],
    ][i % 3];
    const raster =
      i % 2 === 0 ? softScene(width, height, first + 40 + i) : hills(width, height, [0, 4, 16][i % 3], first + 60 + i);
    yield [`photograph ${i}`, ['photograph'], raster];
  }
}

describe('recognise', () => {
  it('tells flat art, drawings and photographs apart: 29 of 30', () => {
    const wrong: string[] = [];
    let all = 0;
    for (const [what, sorts, raster] of pictures()) {
      all++;
      const found = recognise(raster);
      if (!sorts.includes(found)) wrong.push(`${what} taken for a ${found}`);
    }
    expect(all).toBe(30);
    expect(wrong.length).withContext(wrong.join('; ')).toBeLessThanOrEqual(1);
  });
});
