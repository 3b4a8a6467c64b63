import { LINEAR, toByte, type Rgb } from '../colour/srgb.js';
import type { Raster } from '../picture/raster.js';

/** One of the shades a picture's colours are made of. */
export interface Shade {
  readonly colour: Rgb;
  /** The same before the light of the picture was changed. */
  readonly source: Rgb;
  readonly pixels: number;
  /** A pixel well inside its largest stretch. */
  readonly x: number;
  readonly y: number;
}

/** Shades that are sewn with one thread. */
export interface ColourGroup {
  readonly colour: Rgb;
  readonly source: Rgb;
  readonly shades: readonly number[];
  readonly pinned: boolean;
}

/** A picture as shades, and which of them the reduction puts together. */
export interface ShadeMap {
  readonly width: number;
  readonly height: number;
  /** Shade of every pixel, counted from 1; 0 is bare. */
  readonly of: Uint16Array;
  readonly shades: readonly Shade[];
  /** Group of every shade. */
  readonly group: readonly number[];
  /** Groups that the user pinned. */
  readonly pinned: ReadonlySet<number>;
  /** Colours of the groups, where they are known better than from their shades. */
  readonly colours?: readonly Rgb[];
  /** Mean colours of some shades. */
  readonly describe: (shades: readonly number[]) => { colour: Rgb; source: Rgb };
}

/** Measures every shade: its colour, where it is, and its colour before the light was changed. */
export function measureShades(
  raster: Raster,
  source: Raster,
  of: Uint16Array,
  colours: readonly Rgb[],
  flat: boolean,
): Shade[] {
  const { width, height, data } = raster;
  const count = colours.length;
  const sums = new Float64Array(count * 4);
  const pixels = new Uint32Array(count);
  const longest = new Uint32Array(count);
  const place = new Uint32Array(count);
  for (let y = 0; y < height; y++) {
    let start = 0;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const s = of[i] - 1;
      if (x + 1 === width || of[i + 1] !== of[i]) {
        const run = x + 1 - start;
        if (s >= 0 && run > longest[s]) {
          longest[s] = run;
          place[s] = y * width + start + (run >> 1);
        }
        start = x + 1;
      }
      if (s < 0) continue;
      pixels[s]++;
      const at = i * 4;
      // Smoothed edges of flat art are mixtures of two colours: they say nothing of either.
      if (flat && gap(data, at, colours[s]) > 24) continue;
      for (let j = 0; j < 3; j++) sums[s * 4 + j] += LINEAR[source.data[at + j]];
      sums[s * 4 + 3]++;
    }
  }
  return colours.map((colour, s): Shade => {
    const n = sums[s * 4 + 3];
    const own =
      n === 0 || raster === source
        ? colour
        : { r: toByte(sums[s * 4] / n), g: toByte(sums[s * 4 + 1] / n), b: toByte(sums[s * 4 + 2] / n) };
    return { colour, source: own, pixels: pixels[s], x: place[s] % width, y: Math.floor(place[s] / width) };
  });
}

const gap = (data: Uint8ClampedArray, at: number, c: Rgb): number =>
  Math.abs(data[at] - c.r) + Math.abs(data[at + 1] - c.g) + Math.abs(data[at + 2] - c.b);

/** Mean colours of some shades, in linear light and weighted by area. */
export function meanOf(shades: readonly Shade[], chosen: readonly number[]): { colour: Rgb; source: Rgb } {
  const mean = (pick: (shade: Shade) => Rgb): Rgb => {
    const sum = [0, 0, 0, 0];
    for (const i of chosen) {
      const c = pick(shades[i]);
      const w = Math.max(1, shades[i].pixels);
      sum[0] += LINEAR[c.r] * w;
      sum[1] += LINEAR[c.g] * w;
      sum[2] += LINEAR[c.b] * w;
      sum[3] += w;
    }
    return { r: toByte(sum[0] / sum[3]), g: toByte(sum[1] / sum[3]), b: toByte(sum[2] / sum[3]) };
  };
  // One shade is itself: the way to linear light and back would cost it a level.
  if (chosen.length === 1) return { colour: shades[chosen[0]].colour, source: shades[chosen[0]].source };
  return { colour: mean((s) => s.colour), source: mean((s) => s.source) };
}

/** The commonest of some shades. */
export function commonestOf(shades: readonly Shade[], chosen: readonly number[]): { colour: Rgb; source: Rgb } {
  let best = chosen[0];
  for (const i of chosen) if (shades[i].pixels > shades[best].pixels) best = i;
  return { colour: shades[best].colour, source: shades[best].source };
}

/** The groups as the reduction made them. */
export function createGroups(map: ShadeMap): ColourGroup[] {
  const count = map.group.reduce((most, g) => Math.max(most, g + 1), 0);
  return Array.from({ length: count }, (_, g): ColourGroup => {
    const shades = map.group.flatMap((of, s) => (of === g && map.shades[s].pixels > 0 ? [s] : []));
    if (shades.length === 0) {
      const none = { r: 0, g: 0, b: 0 };
      return { colour: none, source: none, shades, pinned: false };
    }
    const described = map.describe(shades);
    return { ...described, colour: map.colours?.[g] ?? described.colour, shades, pinned: map.pinned.has(g) };
  });
}
