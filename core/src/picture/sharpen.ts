import type { Raster } from './raster.js';

/**
 * Sharpens in place: what a 3 x 3 blur takes away is added again, lightness only, so that no colour appears that was
 * not there.
 * @param strength 0 to 100
 */
export function sharpen(raster: Raster, strength: number): void {
  const { width, height, data } = raster;
  const light = new Float32Array(width * height);
  for (let i = 0; i < light.length; i++) {
    light[i] = 0.2126 * data[i * 4] + 0.7152 * data[i * 4 + 1] + 0.0722 * data[i * 4 + 2];
  }
  const amount = (strength / 100) * 1.8;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const up = i - width;
      const down = i + width;
      const blurred =
        (light[up - 1] +
          light[up + 1] +
          light[down - 1] +
          light[down + 1] +
          2 * (light[up] + light[down] + light[i - 1] + light[i + 1]) +
          4 * light[i]) /
        16;
      const more = (light[i] - blurred) * amount;
      data[i * 4] += more;
      data[i * 4 + 1] += more;
      data[i * 4 + 2] += more;
    }
  }
}
