import { distance, type Point } from '../geometry/vector.js';
import type { Raster } from '../picture/raster.js';
import { findComponents } from '../trace/components.js';
import { DOT_MM, RING_MM } from './corner-marks.js';

/** Darkness against the cloth around it counts from so much of the strongest on. */
const STRONG = 0.4;
/** The cloth around a place is looked at over this share of the picture's longer side. */
const AROUND = 0.12;
/** Threads are blurred together over so many pixels of a picture of 1000. */
const BLUR = 1.6;
/** Boxes of dot and ring compare as they were sewn, within these factors. */
const RATIO = RING_MM.outer / DOT_MM;
const LOOSE = 1.45;
/** Middles of both lie together within this share of the ring's size. */
const TOGETHER = 0.14;
/** A mark is at least so many pixels wide, and at most this share of the picture. */
const LEAST_PX = 10;
const MOST_SHARE = 0.25;

/**
 * Looks for corner marks in a photograph: a dot inside a ring, both of one middle.
 * @param darker whether the thread is darker than the cloth
 * @returns middles in pixels; as many as there are
 */
export function findMarks(photo: Raster, darker: boolean): Point[] {
  const { width, height } = photo;
  const grey = lightOf(photo);
  const size = Math.max(width, height);
  const smooth = boxMean(grey, width, height, Math.max(1, Math.round((BLUR * size) / 1000)));
  const around = boxMean(grey, width, height, Math.max(4, Math.round((AROUND * size) / 2)));
  const over = smooth.map((v, i) => (darker ? around[i] - v : v - around[i]) / Math.max(20, around[i]));
  const strongest = quantile(over, 0.985);
  const labels = new Uint8Array(width * height);
  for (let i = 0; i < labels.length; i++) labels[i] = over[i] > STRONG * strongest ? 1 : 0;
  const { count, label, box, area, of } = findComponents(labels, width, height);

  const sum = Array.from({ length: count }, () => ({ x: 0, y: 0 }));
  for (let i = 0; i < of.length; i++) {
    if (labels[i] === 0) continue;
    sum[of[i]].x += i % width;
    sum[of[i]].y += Math.floor(i / width);
  }
  const spots = sum.flatMap(({ x, y }, c) => {
    const [left, top, right, bottom] = box.subarray(c * 4, c * 4 + 4);
    const [wide, high] = [right - left + 1, bottom - top + 1];
    const across = (wide + high) / 2;
    const fits = label[c] === 1 && across >= LEAST_PX / RATIO && across <= MOST_SHARE * size;
    if (!fits || Math.max(wide, high) > 2 * Math.min(wide, high)) return [];
    return [{ x: x / area[c] + 0.5, y: y / area[c] + 0.5, across, fills: area[c] / (wide * high) }];
  });
  const dots = spots.filter(({ fills }) => fills > 0.6);
  const rings = spots.filter(({ fills, across }) => fills < 0.62 && across >= LEAST_PX);
  return rings.flatMap((ring) => {
    const dot = dots.find(
      ({ x, y, across }) =>
        distance(x, y, ring.x, ring.y) < TOGETHER * ring.across &&
        ring.across / across > RATIO / LOOSE &&
        ring.across / across < RATIO * LOOSE,
    );
    return dot ? [{ x: (dot.x + ring.x) / 2, y: (dot.y + ring.y) / 2 }] : [];
  });
}

/** Four places in order around their middle, clockwise as seen, beginning anywhere. */
export function clockwise(places: readonly Point[]): Point[] {
  const x = places.reduce((sum, p) => sum + p.x, 0) / places.length;
  const y = places.reduce((sum, p) => sum + p.y, 0) / places.length;
  return places.toSorted((a, b) => Math.atan2(a.y - y, a.x - x) - Math.atan2(b.y - y, b.x - x));
}

function lightOf({ width, height, data }: Raster): Float32Array {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = 0.3 * data[i * 4] + 0.59 * data[i * 4 + 1] + 0.11 * data[i * 4 + 2];
  return out;
}

/** Mean over a square around each pixel, smaller at the border. */
function boxMean(values: Float32Array, width: number, height: number, reach: number): Float32Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += values[y * width + x];
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1] + row;
    }
  }
  const out = new Float32Array(values.length);
  for (let y = 0; y < height; y++) {
    const [y0, y1] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)];
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const at = (i: number, j: number): number => sums[j * (width + 1) + i];
      out[y * width + x] = (at(x1, y1) - at(x0, y1) - at(x1, y0) + at(x0, y0)) / ((x1 - x0) * (y1 - y0));
    }
  }
  return out;
}

function quantile(values: Float32Array, share: number): number {
  const some = values.filter((_, i) => i % 7 === 0).sort();
  return some[Math.floor(share * (some.length - 1))];
}
