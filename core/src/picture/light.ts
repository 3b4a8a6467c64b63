import { createRaster, type Raster } from './raster.js';
import { sharpen } from './sharpen.js';

/** What colours are made of a picture's: all, shades of grey, brown shades, or one ink on white. */
export const TONES = ['colour', 'grey', 'sepia', 'one'] as const;
export type Tone = (typeof TONES)[number];

/**
 * How the light of a picture is changed. The order is fixed: noise removal, black and white points, gamma, brightness,
 * contrast, warmth, saturation, sharpness, tone.
 */
export interface Light {
  /** 0 to 100. */
  readonly noise: number;
  /** Levels, 0 to 255, that become black and white. */
  readonly black: number;
  readonly white: number;
  /** Over 1 lightens the middle. */
  readonly gamma: number;
  /** -100 to 100 each. */
  readonly brightness: number;
  readonly contrast: number;
  readonly warmth: number;
  readonly saturation: number;
  /** 0 to 100. */
  readonly sharpness: number;
  readonly tone: Tone;
  /** Level below which one-colour pictures are inked, 0 to 255. */
  readonly threshold: number;
}

/** Light as the picture has it. */
export const PLAIN_LIGHT: Light = {
  noise: 0,
  black: 0,
  white: 255,
  gamma: 1,
  brightness: 0,
  contrast: 0,
  warmth: 0,
  saturation: 0,
  sharpness: 0,
  tone: 'colour',
  threshold: 128,
};

/** Whether a light leaves every picture as it is. */
export function isPlain(light: Light): boolean {
  return (Object.keys(PLAIN_LIGHT) as (keyof Light)[]).every(
    (key) => light[key] === PLAIN_LIGHT[key] || (key === 'threshold' && light.tone !== 'one'),
  );
}

const INK = [31, 45, 44] as const;
const SEPIA = [
  [43, 29, 18],
  [150, 108, 72],
  [252, 243, 226],
] as const;

/**
 * Changes the light of a picture; alpha stays. The picture itself is returned where nothing changes. Noise is taken out
 * before, by `denoise`: that is remembered apart, since it takes longest.
 */
export function applyLight(raster: Raster, light: Light): Raster {
  if (isPlain(light)) return raster;
  const out = createRaster(raster.width, raster.height, raster.data.slice());
  shadePixels(out.data, light);
  if (light.sharpness > 0) sharpen(out, light.sharpness);
  if (light.tone === 'one') inkPixels(out, light.threshold);
  else if (light.tone !== 'colour') tonePixels(out.data, light.tone);
  return out;
}

/** What a light makes of one colour; what depends on neighbours is left out. */
export function lightColour(
  colour: { readonly r: number; readonly g: number; readonly b: number },
  light: Light,
): { r: number; g: number; b: number } {
  const data = Uint8ClampedArray.of(colour.r, colour.g, colour.b, 255);
  if (!isPlain(light)) {
    shadePixels(data, light);
    if (light.tone === 'one') inkPixels({ data, width: 1, height: 1 }, light.threshold);
    else if (light.tone !== 'colour') tonePixels(data, light.tone);
  }
  return { r: data[0], g: data[1], b: data[2] };
}

/** Level by level: black and white points, gamma, brightness, contrast. */
export function levelTable({ black, white, gamma, brightness, contrast }: Light): Float32Array {
  const span = Math.max(1, white - black);
  const slope = contrast >= 0 ? 1 + contrast / 50 : 1 + contrast / 100;
  return Float32Array.from({ length: 256 }, (_, v) => {
    const level = Math.min(1, Math.max(0, (v - black) / span));
    const bent = gamma === 1 ? level : Math.pow(level, 1 / gamma);
    return ((bent + brightness / 250 - 0.5) * slope + 0.5) * 255;
  });
}

const luma = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

function shadePixels(data: Uint8ClampedArray, light: Light): void {
  const table = levelTable(light);
  const warm = 1 + (light.warmth / 100) * 0.22;
  const cool = 1 - (light.warmth / 100) * 0.22;
  const chroma = light.saturation >= 0 ? 1 + light.saturation / 50 : 1 + light.saturation / 100;
  for (let i = 0; i < data.length; i += 4) {
    const r = table[data[i]] * warm;
    const g = table[data[i + 1]];
    const b = table[data[i + 2]] * cool;
    if (chroma === 1) {
      data[i] = r;
      data[i + 1] = g;
      data[i + 2] = b;
      continue;
    }
    const y = luma(r, g, b);
    data[i] = y + (r - y) * chroma;
    data[i + 1] = y + (g - y) * chroma;
    data[i + 2] = y + (b - y) * chroma;
  }
}

function tonePixels(data: Uint8ClampedArray, tone: 'grey' | 'sepia'): void {
  const table = new Uint8ClampedArray(256 * 3);
  for (let v = 0; v < 256; v++) {
    for (let j = 0; j < 3; j++) {
      if (tone === 'grey') table[v * 3 + j] = v;
      else {
        const half = v < 128 ? 0 : 1;
        const t = (v - half * 128) / 127.5;
        table[v * 3 + j] = SEPIA[half][j] + (SEPIA[half + 1][j] - SEPIA[half][j]) * Math.min(1, t);
      }
    }
  }
  for (let i = 0; i < data.length; i += 4) {
    const v = Math.round(luma(data[i], data[i + 1], data[i + 2])) * 3;
    data[i] = table[v];
    data[i + 1] = table[v + 1];
    data[i + 2] = table[v + 2];
  }
}

/**
 * Ink below a level, white above it. Where the picture has a smooth edge the ink has one too: the step is as wide as
 * the lightness changes around the pixel, and hard where it does not change.
 */
function inkPixels({ data, width, height }: Raster, threshold: number): void {
  const light = new Float32Array(width * height);
  for (let i = 0; i < light.length; i++) light[i] = luma(data[i * 4], data[i * 4 + 1], data[i * 4 + 2]);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let least = Infinity;
      let most = -Infinity;
      for (let dy = y > 0 ? -1 : 0; dy <= (y < height - 1 ? 1 : 0); dy++) {
        for (let dx = x > 0 ? -1 : 0; dx <= (x < width - 1 ? 1 : 0); dx++) {
          const v = light[(y + dy) * width + x + dx];
          if (v < least) least = v;
          if (v > most) most = v;
        }
      }
      const v = light[y * width + x];
      const edge = least < threshold && most > threshold;
      const ink = edge ? Math.min(1, Math.max(0, (threshold - v) / (most - least) + 0.5)) : v < threshold ? 1 : 0;
      for (let j = 0; j < 3; j++) data[(y * width + x) * 4 + j] = 255 + (INK[j] - 255) * ink;
    }
  }
}
