import type { Design } from '../design/design.js';
import { fromHex } from '../colour/srgb.js';
import type { Point } from '../geometry/vector.js';
import type { Raster } from '../picture/raster.js';
import { shrink } from '../picture/resample.js';
import { STITCH } from '../sequence/stitch-list.js';
import { densityOf, type DensityMap } from '../sewn-look/density.js';
import { segmentsOf } from '../sewn-look/segments.js';
import { isMark, marksOf } from './corner-marks.js';
import { clockwise, findMarks } from './find-marks.js';
import { laidAt, overlayOf, type Overlay } from './lay-over.js';

/** Marks are looked for in a picture of at most so many pixels along its longer side. */
const LOOKED_PX = 1600;
/** Which way round a photograph lies is judged at places so far apart. */
const STEP_MM = 1;

/** Four places of a design by which a photograph of it is laid over it, clockwise as sewn. */
export function placesOf(design: Design): readonly Point[] {
  return marksOf(design.pieces) ?? outermost(design);
}

/** Needle points farthest to each side: what can be found again on any sewn piece. */
function outermost({ stitches }: Design): Point[] {
  const { count, x, y, command } = stitches;
  const sides = [
    (i: number) => -x[i] - y[i],
    (i: number) => x[i] - y[i],
    (i: number) => x[i] + y[i],
    (i: number) => y[i] - x[i],
  ];
  return sides.map((far) => {
    let best = 0;
    for (let i = 0; i < count; i++)
      if (command[i] === STITCH && (command[best] !== STITCH || far(i) > far(best))) best = i;
    return { x: x[best], y: y[best] };
  });
}

/**
 * Finds the corner marks of a design in a photograph of it, and which is which.
 * @returns places in pixels of the photograph, in the order of `placesOf`; undefined where not all four are seen
 */
export function findCorners(design: Design, photo: Raster): Point[] | undefined {
  const marks = marksOf(design.pieces);
  if (!marks || design.threads.length === 0) return undefined;
  const scale = Math.min(1, LOOKED_PX / Math.max(photo.width, photo.height));
  const small = scale < 1 ? shrink(photo, Math.round(photo.width * scale), Math.round(photo.height * scale)) : photo;
  const light = (hex: string): number => {
    const { r, g, b } = fromHex(hex);
    return 0.3 * r + 0.59 * g + 0.11 * b;
  };
  const thread = design.threads[design.pieces.find(({ object }) => isMark(object))?.thread ?? 0];
  const darker = light(thread.hex) < light(design.fabric.hex);
  const found = findMarks(small, darker);
  if (found.length !== 4) return undefined;
  const places = clockwise(found).map(({ x, y }) => ({
    x: (x * photo.width) / small.width,
    y: (y * photo.height) / small.height,
  }));
  const turns = [0, 1, 2, 3].map((k) => [...places.slice(k), ...places.slice(0, k)]);
  const threads = densityOf(segmentsOf(design.stitches));
  const fits = turns.map((turned) => fitOf(threads, photo, overlayOf(marks, turned), darker));
  return turns[fits.indexOf(Math.max(...fits))];
}

/** How much more thread-like a photograph is where the design has thread than where it has none. */
function fitOf(
  { columns, rows, left, top, cellMm, covers }: DensityMap,
  { width, height, data }: Raster,
  overlay: Overlay,
  darker: boolean,
): number {
  const sums = { thread: 0, cloth: 0 };
  const counts = { thread: 0, cloth: 0 };
  for (let y = top; y < top + rows * cellMm; y += STEP_MM) {
    for (let x = left; x < left + columns * cellMm; x += STEP_MM) {
      const place = laidAt(overlay, x, y);
      const [i, j] = [Math.floor(place.x), Math.floor(place.y)];
      if (i < 0 || j < 0 || i >= width || j >= height) continue;
      const at = (j * width + i) * 4;
      const cell = Math.floor((y - top) / cellMm) * columns + Math.floor((x - left) / cellMm);
      const kind = covers[cell] > 0.5 ? 'thread' : 'cloth';
      sums[kind] += data[at] + data[at + 1] + data[at + 2];
      counts[kind]++;
    }
  }
  if (counts.thread === 0 || counts.cloth === 0) return 0;
  return (sums.cloth / counts.cloth - sums.thread / counts.thread) * (darker ? 1 : -1);
}
