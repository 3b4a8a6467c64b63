import { linearToLab, type Lab } from '../colour/ciede2000.js';

/** A small picture in linear light, r, g, b. */
export interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/**
 * Error diffusion (Floyd and Steinberg 1976) in linear light to a list of colours.
 * @returns the number of the colour of every pixel
 */
export function dither({ width, height, data }: SmallPicture, colours: Float32Array): Uint8Array {
  const labs: Lab[] = [];
  const count = colours.length / 3;
  for (let t = 0; t < count; t++) labs.push(linearToLab(colours[t * 3], colours[t * 3 + 1], colours[t * 3 + 2]));
  const out = new Uint8Array(width * height);
  let now = new Float32Array((width + 2) * 3);
  let next = new Float32Array((width + 2) * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 3;
      const c = [0, 1, 2].map((j) => Math.min(1.2, Math.max(-0.1, data[i + j] + now[(x + 1) * 3 + j])));
      const lab = linearToLab(Math.max(0, c[0]), Math.max(0, c[1]), Math.max(0, c[2]));
      let best = 0;
      let least = Infinity;
      for (let t = 0; t < count; t++) {
        const d = (lab.l - labs[t].l) ** 2 + (lab.a - labs[t].a) ** 2 + (lab.b - labs[t].b) ** 2;
        if (d < least) [least, best] = [d, t];
      }
      out[y * width + x] = best;
      for (let j = 0; j < 3; j++) {
        const rest = c[j] - colours[best * 3 + j];
        now[(x + 2) * 3 + j] += (rest * 7) / 16;
        next[x * 3 + j] += (rest * 3) / 16;
        next[(x + 1) * 3 + j] += (rest * 5) / 16;
        next[(x + 2) * 3 + j] += rest / 16;
      }
    }
    [now, next] = [next, now];
    next.fill(0);
  }
  return out;
}
