import type { Sewing } from '../sequence/sewing.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { drawCloth, overCloth } from './cloth.js';
import { densityOf, drawDensity, type DensityMap } from './density.js';
import { drawLines } from './draw-lines.js';
import { drawWithCloths, patchesOn, type Patch } from './laid-cloth.js';
import { segmentsOf, type Segments } from './segments.js';
import { shadesOf, type ThreadShades } from './threads.js';
import { wholeOf, type Look, type View } from './view.js';

/** A design made ready to be drawn at any scale. */
export interface Scene {
  readonly segments: Segments;
  readonly shades: ThreadShades;
  readonly hexes: readonly string[];
  readonly clothHex: string;
  /** Cloths of appliques, in the order they are laid on. */
  readonly patches: readonly Patch[];
  density?: DensityMap;
}

/** Prepares a design for drawing. */
export function sceneOf(design: Pick<Sewing, 'stitches' | 'threads' | 'fabric' | 'patches'>): Scene {
  const hexes = design.threads.map((thread) => thread.hex);
  const segments = segmentsOf(design.stitches);
  return {
    segments,
    shades: shadesOf(hexes),
    hexes,
    clothHex: design.fabric.hex,
    patches: patchesOn(segments, design.patches ?? []),
  };
}

/** Below this scale, in px/mm, threads are drawn at double size and averaged: they are too thin for their edges. */
export const FINE_SCALE = 8;

/** Draws cloth and stitches `0..to` into 0xAABBGGRR pixels; a quick one has rougher edges where threads are thin. */
export function drawScene(
  scene: Scene,
  view: View,
  look: Look,
  { to = scene.segments.count, isQuick = false }: { readonly to?: number; readonly isQuick?: boolean } = {},
): Int32Array<ArrayBuffer> {
  if (look === 'sewn' && view.scale < FINE_SCALE && !isQuick) {
    const double = doubled(view);
    return halve(drawAt(scene, double, look, to), view.width, view.height);
  }
  return drawAt(scene, view, look, to);
}

/** The same window at twice the scale. */
function doubled(view: View): View {
  const { width, height, scale, left, top } = view;
  return { width: width * 2, height: height * 2, scale: scale * 2, left: left * 2, top: top * 2 };
}

function drawAt(scene: Scene, view: View, look: Look, to: number): Int32Array<ArrayBuffer> {
  const pixels = new Int32Array(view.width * view.height);
  drawCloth(pixels, view, scene.clothHex);
  if (look === 'sewn') {
    const threads = new Int32Array(pixels.length);
    drawWithCloths(threads, view, scene, 0, to);
    overCloth(threads, pixels, view.width, wholeOf(view), pixels);
  } else if (look === 'line') drawLines(pixels, view, scene.segments, scene.hexes, 0, to);
  else {
    const whole = to === scene.segments.count;
    const map = whole ? (scene.density ??= densityOf(scene.segments)) : densityOf(scene.segments, to);
    drawDensity(pixels, view, map);
  }
  return pixels;
}

/** Averages blocks of four pixels. */
function halve(pixels: Int32Array, width: number, height: number): Int32Array<ArrayBuffer> {
  const out = new Int32Array(width * height);
  const stride = width * 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * 2 * stride + x * 2;
      const [a, b, c, d] = [pixels[i], pixels[i + 1], pixels[i + stride], pixels[i + stride + 1]];
      // Red and blue in one go: sums of four do not reach into each other.
      const rb = (a & 0xff00ff) + (b & 0xff00ff) + (c & 0xff00ff) + (d & 0xff00ff) + 0x20002;
      const g = (a & 0xff00) + (b & 0xff00) + (c & 0xff00) + (d & 0xff00) + 0x200;
      out[y * width + x] = -16777216 | ((rb >> 2) & 0xff00ff) | ((g >> 2) & 0xff00);
    }
  }
  return out;
}

/** The part of the hoop a picture of a design shows: the picture's place and all stitches, in mm. */
export function frameOf(
  design: Sewing,
  marginMm: number,
): { left: number; top: number; width: number; height: number } {
  const { boxes } = segmentsOf(design.stitches);
  const box = design.picture;
  let left = box ? box.left : Infinity;
  let top = box ? box.top : Infinity;
  let right = box ? box.left + box.width : -Infinity;
  let bottom = box ? box.top + box.height : -Infinity;
  for (let i = 0; i < boxes.length; i += 4) {
    left = Math.min(left, boxes[i]);
    top = Math.min(top, boxes[i + 1]);
    right = Math.max(right, boxes[i + 2]);
    bottom = Math.max(bottom, boxes[i + 3]);
  }
  if (left > right) [left, top, right, bottom] = [0, 0, 10, 10];
  return {
    left: left - marginMm,
    top: top - marginMm,
    width: right - left + 2 * marginMm,
    height: bottom - top + 2 * marginMm,
  };
}

/** Cloth around a design on the picture of it that the shelf shows. */
export const PREVIEW_MARGIN_MM = 4;

/** Largest side of a rendered picture in pixels. */
export const MOST_PIXELS = 12_000;

/**
 * Renders a whole design.
 * @param isQuick threads are drawn once where they are thin, in about a third of the time, with rougher edges
 * @throws RangeError if the scale is not a number over 0, or the picture would be larger than MOST_PIXELS a side.
 */
export function renderDesign(design: Sewing, pxPerMm: number, look: Look, marginMm = 3, isQuick = false): Raster {
  if (!(pxPerMm > 0)) throw new RangeError(`render: px-per-mm must be a number over 0, got ${pxPerMm}`);
  const frame = frameOf(design, marginMm);
  const width = Math.max(1, Math.round(frame.width * pxPerMm));
  const height = Math.max(1, Math.round(frame.height * pxPerMm));
  if (width > MOST_PIXELS || height > MOST_PIXELS) {
    throw new RangeError(`render: ${width} x ${height} pixels are too many; at most ${MOST_PIXELS} a side`);
  }
  const view = {
    width,
    height,
    scale: pxPerMm,
    left: Math.round(frame.left * pxPerMm),
    top: Math.round(frame.top * pxPerMm),
  };
  const pixels = drawScene(sceneOf(design), view, look, { isQuick });
  return createRaster(width, height, new Uint8ClampedArray(pixels.buffer));
}
