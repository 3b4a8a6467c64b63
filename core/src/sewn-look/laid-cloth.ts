import { fromHex } from '../colour/srgb.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { ClothLook, PrintChoice, PrintedTile } from '../pieces/laid-cloth.js';
import type { ClothPatch } from '../sequence/sewing.js';
import { drawStitches } from './draw-stitches.js';
import { BOX_STITCHES, segmentsBefore, type Segments } from './segments.js';
import type { ThreadShades } from './threads.js';
import type { View } from './view.js';

/** A cloth that lies on before a segment is drawn. */
export interface Patch {
  readonly at: number;
  readonly rings: readonly Points[];
  readonly look: ClothLook;
  readonly hex: string;
  readonly print?: PrintChoice;
  readonly tile?: PrintedTile;
}

/**
 * Cloths as segments count. The box of the stitches each lies under grows by its own, so that whatever asks which part of
 * a view stitches reach is told of the cloth as well.
 */
export function patchesOn(segments: Segments, patches: readonly ClothPatch[]): Patch[] {
  return patches.flatMap(({ row, rings, look, hex, print, tile }): Patch[] => {
    const at = segmentsBefore(segments, row);
    if (at >= segments.count || rings.length === 0) return [];
    const { left, top, right, bottom } = boundsOf(rings);
    const box = segments.boxes.subarray(Math.floor(at / BOX_STITCHES) * 4);
    [box[0], box[1]] = [Math.min(box[0], left), Math.min(box[1], top)];
    [box[2], box[3]] = [Math.max(box[2], right), Math.max(box[3], bottom)];
    return [{ at, rings, look, hex, print, tile }];
  });
}

/** Draws stitches `from` up to `to` as lit threads, and cloths where they are laid on between them. */
export function drawWithCloths(
  pixels: Int32Array,
  view: View,
  { segments, shades, patches }: { segments: Segments; shades: ThreadShades; patches: readonly Patch[] },
  from: number,
  to: number,
): void {
  let drawn = from;
  for (const patch of patches) {
    if (patch.at < from || patch.at >= to) continue;
    drawStitches(pixels, view, segments, shades, drawn, patch.at);
    layCloth(pixels, view, patch);
    drawn = patch.at;
  }
  drawStitches(pixels, view, segments, shades, drawn, to);
}

/** Lays a cloth over whatever is drawn, by the middles of pixels. */
export function layCloth(pixels: Int32Array, view: View, patch: Omit<Patch, 'at'>): void {
  const { rings, look } = patch;
  const { width, height, scale, left, top } = view;
  const bounds = boundsOf(rings);
  const first = Math.max(0, Math.floor(bounds.top * scale - top));
  const last = Math.min(height - 1, Math.ceil(bounds.bottom * scale - top));
  const lit = LIGHT[look];
  const shade = shadesOf(patch);
  for (let y = first; y <= last; y++) {
    const yMm = (top + y + 0.5) / scale;
    const crossings = crossingsAt(rings, yMm);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const start = Math.max(0, Math.ceil(crossings[k] * scale - left - 0.5));
      const end = Math.min(width - 1, Math.floor(crossings[k + 1] * scale - left - 0.5));
      for (let x = start; x <= end; x++) {
        const xMm = (left + x + 0.5) / scale;
        pixels[y * width + x] = shade(lit(xMm, yMm), xMm, yMm);
      }
    }
  }
}

/** Where rings cross a level, from left to right. */
function crossingsAt(rings: readonly Points[], y: number): number[] {
  const out: number[] = [];
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ay, by] = [ring[j + 1], ring[i + 1]];
      if (ay > y === by > y) continue;
      out.push(ring[j] + ((ring[i] - ring[j]) * (y - ay)) / (by - ay));
    }
  }
  return out.sort((a, b) => a - b);
}

/** Colour of a cloth at a light, 0 as it is, 1 white, -1 black, and at a place in mm. */
type Shade = (light: number, x: number, y: number) => number;

function shadesOf({ hex, look, print, tile, rings }: Omit<Patch, 'at'>): Shade {
  if (look !== 'print' || !print || !tile) return plainShades(hex);
  // The print begins at the corner of its cloth: it goes with it when that is moved.
  const { left, top } = boundsOf(rings);
  const perMm = tile.width / print.widthMm;
  const inks = Array.from({ length: tile.width * tile.height }, (_, i) => {
    const ink = parseInt(tile.pixels.slice(i * 6, i * 6 + 6), 16);
    return plainShade((ink >> 16) & 255, (ink >> 8) & 255, ink & 255);
  });
  const wrap = (v: number, n: number): number => ((Math.floor(v) % n) + n) % n;
  return (light, x, y) =>
    inks[wrap((y - top) * perMm, tile.height) * tile.width + wrap((x - left) * perMm, tile.width)](light);
}

/** Pixels of one ink at a light. */
function plainShade(r: number, g: number, b: number): (light: number) => number {
  return (light) => {
    const lit = (v: number): number => Math.round(light < 0 ? v * (1 + light) : v + (255 - v) * light);
    return (255 << 24) | (lit(b) << 16) | (lit(g) << 8) | lit(r);
  };
}

/** Pixels of a colour at a light, from a table. */
function plainShades(hex: string): Shade {
  const { r, g, b } = fromHex(hex);
  const at = plainShade(r, g, b);
  const shades = Int32Array.from({ length: 257 }, (_, i) => at((i - 128) / 128));
  return (light) => shades[Math.max(0, Math.min(256, 128 + Math.round(light * 128)))];
}

/** Light of each look of cloth at a place in mm, from -1 to 1. */
const LIGHT: Readonly<Record<ClothLook, (x: number, y: number) => number>> = {
  plain: (x, y) => 0.06 * weave(x, y, 0.45),
  twill: (x, y) => 0.13 * Math.cos((2 * Math.PI * (x + y)) / 0.9) + 0.03 * noise(x, y, 0.3),
  felt: (x, y) => 0.1 * noise(x, y, 0.35) + 0.06 * noise(x, y, 0.12),
  leather: (x, y) => 0.1 * noise(x, y, 1.1) - 0.16 * Math.max(0, noise(x, y, 0.5) - 0.5),
  velvet: (x, y) => 0.16 * smooth(x, y, 3) + 0.05 * noise(x, y, 0.14),
  check: (x, y) =>
    (Math.floor(x / 3) + Math.floor(y / 3)) % 2 === 0 ? 0.34 + 0.04 * weave(x, y, 0.45) : 0.04 * weave(x, y, 0.45),
  print: (x, y) => 0.05 * weave(x, y, 0.45),
  dots: (x, y) => (dotted(x, y, 4) ? 0.62 : 0.04 * weave(x, y, 0.45)),
};

/** Yarns over and under each other, from -1 to 1. */
function weave(x: number, y: number, yarn: number): number {
  const [u, v] = [x / yarn, y / yarn];
  const warp = ((Math.floor(u) + Math.floor(v)) & 1) === 0;
  const d = (warp ? u - Math.floor(u) : v - Math.floor(v)) - 0.5;
  return 1 - 8 * d * d;
}

/** Dots of a third of their distance, every second row moved by half of it. */
function dotted(x: number, y: number, step: number): boolean {
  const row = Math.floor(y / step);
  const across = x / step + (row % 2 === 0 ? 0 : 0.5);
  const [dx, dy] = [across - Math.floor(across) - 0.5, y / step - row - 0.5];
  return dx * dx + dy * dy < 0.028;
}

/** Irregular cells of a size, from -1 to 1; the same place has always the same. */
function noise(x: number, y: number, size: number): number {
  const h = Math.imul(Math.floor(x / size), 374761393) ^ Math.imul(Math.floor(y / size), 668265263);
  const mixed = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((mixed ^ (mixed >>> 16)) & 255) / 127.5 - 1;
}

/** The same without edges. */
function smooth(x: number, y: number, size: number): number {
  const [u, v] = [Math.floor(x / size), Math.floor(y / size)];
  const ease = (t: number): number => t * t * (3 - 2 * t);
  const [fx, fy] = [ease(x / size - u), ease(y / size - v)];
  const at = (i: number, j: number): number => noise((u + i + 0.5) * size, (v + j + 0.5) * size, size);
  const upper = at(0, 0) * (1 - fx) + at(1, 0) * fx;
  return upper * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
}
