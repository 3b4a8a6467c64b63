import { LINEAR, toByte, toHex } from '../colour/srgb.js';
import type { PictureInput } from './input.js';
import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { shrink, workingSize } from '../picture/resample.js';
import { applyLight } from '../picture/light.js';
import { toneHistogram } from '../picture/tones.js';
import { prepare, ROUGH_PIXELS, withoutNoise } from './prepare.js';
import { step, type StepCache } from './step.js';
import type { Anchor } from '../trace/colour-decisions.js';

const screenStep = step('screen', ({ raster, width, height }: { raster: Raster; width: number; height: number }) =>
  shrink(raster, width, height),
);

/**
 * The whole picture in its light, neither turned nor cut, for a screen.
 * @param pixels at most this many
 */
export async function wholePicture(
  { source, view }: Pick<PictureInput, 'source' | 'view'>,
  cache: StepCache,
  pixels: number,
): Promise<Raster> {
  const { raster } = source;
  const { width, height } = workingSize(raster.width, raster.height, pixels);
  const small = await cache.run(screenStep, { raster, width, height }, undefined, view.id);
  return applyLight(await withoutNoise(small, view.light, cache, `screen ${view.id}`), view.light);
}

/** How many pixels of the picture, as it was placed, have each lightness before the light is changed. */
export async function pictureTones(
  input: Pick<PictureInput, 'source' | 'view'>,
  cache: StepCache,
): Promise<Uint32Array> {
  return toneHistogram((await prepare(input, ROUGH_PIXELS, true, cache)).placed.unlit);
}

/**
 * The colour of the source picture at a place, the mean of the pixels around it, as a decision holds on to it.
 * @returns undefined outside the picture and where it is transparent
 */
export function sampleColour(raster: Raster, u: number, v: number): Anchor | undefined {
  const x = Math.floor(u * raster.width);
  const y = Math.floor(v * raster.height);
  if (x < 0 || y < 0 || x >= raster.width || y >= raster.height) return undefined;
  if (raster.data[(y * raster.width + x) * 4 + 3] < BARE_ALPHA) return undefined;
  const reach = Math.max(1, Math.round(Math.max(raster.width, raster.height) / 1000));
  const sum = [0, 0, 0, 0];
  for (let py = Math.max(0, y - reach); py <= Math.min(raster.height - 1, y + reach); py++) {
    for (let px = Math.max(0, x - reach); px <= Math.min(raster.width - 1, x + reach); px++) {
      const at = (py * raster.width + px) * 4;
      if (raster.data[at + 3] < BARE_ALPHA) continue;
      for (let j = 0; j < 3; j++) sum[j] += LINEAR[raster.data[at + j]];
      sum[3]++;
    }
  }
  const hex = toHex({ r: toByte(sum[0] / sum[3]), g: toByte(sum[1] / sum[3]), b: toByte(sum[2] / sum[3]) });
  return { hex, u: Number(u.toFixed(5)), v: Number(v.toFixed(5)) };
}
