import { fromHex, LINEAR, toByte } from '../colour/srgb.js';

/** Directions a stitch can lie in, and lengths, for which shades are prepared. */
const DIRECTIONS = 64;
const LENGTHS = 4;
/** Places along and across a stitch in a shade table. */
export const ALONG = 16;
export const ACROSS = 32;
const TABLE = ALONG * ACROSS;

/** Light from the upper left, in front of the cloth. */
const LIGHT = normalised(-0.45, -0.62, 0.64);
/** Half-way between light and eye. */
const HALF = normalised(LIGHT[0], LIGHT[1], LIGHT[2] + 1);

let latest: { readonly key: string; readonly shades: ThreadShades } | undefined;

/** Shades of threads; those of the last threads that were asked for are kept, as one picture after another has the same. */
export function shadesOf(hexes: readonly string[]): ThreadShades {
  const key = hexes.join();
  if (latest?.key !== key) latest = { key, shades: new ThreadShades(hexes) };
  return latest.shades;
}

function normalised(x: number, y: number, z: number): [number, number, number] {
  const n = Math.sqrt(x * x + y * y + z * z);
  return [x / n, y / n, z / n];
}

/**
 * Shades of lit threads: for each thread, direction and length class a small picture of one stitch as packed
 * 0xBBGGRR numbers. Tables are made when first asked for.
 */
export class ThreadShades {
  private readonly tables = new Map<number, Int32Array>();
  private readonly linear: readonly (readonly [number, number, number])[];

  constructor(hexes: readonly string[]) {
    this.linear = hexes.map((hex) => {
      const { r, g, b } = fromHex(hex);
      return [LINEAR[r], LINEAR[g], LINEAR[b]] as const;
    });
  }

  /** Table for a stitch of a thread along the unit vector (ux, uy), `lengthMm` long. */
  table(thread: number, ux: number, uy: number, lengthMm: number): Int32Array {
    const turn = Math.atan2(uy, ux) / (2 * Math.PI) + 1;
    const at = Math.round(turn * DIRECTIONS) % DIRECTIONS;
    const length = lengthMm < 1 ? 0 : lengthMm < 2.2 ? 1 : lengthMm < 5 ? 2 : 3;
    const key = (thread * DIRECTIONS + at) * LENGTHS + length;
    let table = this.tables.get(key);
    if (!table) this.tables.set(key, (table = this.draw(thread, at, length)));
    return table;
  }

  private draw(thread: number, at: number, length: number): Int32Array {
    const [r, g, b] = this.linear[thread] ?? [0, 0, 0];
    const angle = (at / DIRECTIONS) * 2 * Math.PI;
    const { diffuse, specular } = (LIT[at * LENGTHS + length] ??= lightOver(
      Math.cos(angle),
      Math.sin(angle),
      [0.5, 1.2, 3.2, 6][length],
    ));
    const lightness = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    // Dark threads shine less, but never look like holes.
    const shine = 0.03 + 0.17 * Math.sqrt(lightness);
    const floor = 0.006;
    const table = new Int32Array(TABLE);
    for (let i = 0; i < TABLE; i++) {
      const glint = specular[i] * shine;
      const red = toByte(r * diffuse[i] + glint + floor * (1 - r));
      const green = toByte(g * diffuse[i] + glint + floor * (1 - g));
      const blue = toByte(b * diffuse[i] + glint + floor * (1 - b));
      table[i] = (blue << 16) | (green << 8) | red;
    }
    return table;
  }
}

/** Light on the places of a stitch, in the order of its table. */
interface Lit {
  readonly diffuse: Float64Array;
  readonly specular: Float64Array;
}

/** Light by direction and length: the same for every thread and design, and dear to work out. */
const LIT: Lit[] = [];

/**
 * Light on a stitch: a cylinder that dives into the cloth at both ends, with a sheen that depends on how the thread
 * lies to the light. Diffuse light is scaled so that a patch of stitches keeps the thread's own lightness.
 */
function lightOver(ux: number, uy: number, lengthMm: number): Lit {
  const [diffuse, specular] = [new Float64Array(TABLE), new Float64Array(TABLE)];
  let sum = 0;
  const tuckShare = Math.min(0.45, 0.45 / lengthMm);
  for (let i = 0; i < ALONG; i++) {
    const t = (i + 0.5) / ALONG;
    const toEnd = Math.min(t, 1 - t);
    const dive = toEnd < tuckShare ? (1 - toEnd / tuckShare) * 0.75 : 0;
    const tilt = t < 0.5 ? -dive : dive;
    for (let j = 0; j < ACROSS; j++) {
      const v = ((j + 0.5) / ACROSS) * 2 - 1;
      const up = Math.sqrt(1 - v * v);
      // Normal: across the thread, along it where it dives, and up.
      const n = normalised(-uy * v + ux * tilt * up, ux * v + uy * tilt * up, up);
      const facing = n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2];
      const lie = ux * HALF[0] + uy * HALF[1];
      const sheen = Math.sqrt(Math.max(0, 1 - lie * lie));
      const mirror = Math.max(0, n[0] * HALF[0] + n[1] * HALF[1] + n[2] * HALF[2]);
      const light = 0.34 + 0.66 * Math.max(0, facing) + 0.22 * (sheen - 0.8);
      diffuse[i * ACROSS + j] = light * (1 - 0.35 * dive);
      specular[i * ACROSS + j] = mirror ** 18 * sheen ** 4;
      sum += light;
    }
  }
  const gain = 1.06 / (sum / TABLE);
  // Directions differ in sheen; only part of that difference is evened out.
  const keep = 1 + (gain - 1) * 0.8;
  for (let i = 0; i < TABLE; i++) diffuse[i] *= keep;
  return { diffuse, specular };
}
