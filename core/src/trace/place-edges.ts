import type { Rgb } from '../colour/srgb.js';
import { blur } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Raster } from '../picture/raster.js';
import type { Arc, Boundaries } from './boundaries.js';
import { COLOUR_BITS } from './line-parts.js';

/** How much an edge may move off the crack it was found on, in pixels. */
const LARGEST_SHIFT = 0.9;

/**
 * Turns an arc of cracks into points, in pixels of the unframed picture: the middle of every crack, moved along its
 * normal by what the smoothing of two pixels on each side says about where the edge really lies, then smoothed once.
 * The ends of an open arc stay on their junctions.
 */
export function placeEdges(
  arc: Arc,
  bounds: Boundaries,
  raster: Raster,
  palette: readonly Rgb[],
  smoothEdges: boolean,
): Points {
  const { stride } = bounds;
  const { corners } = arc;
  const n = corners.length;
  const steps = arc.closed ? n : n - 1;
  const points: Points = [];
  for (let k = 0; k < steps; k++) {
    const from = corners[k];
    const to = corners[(k + 1) % n];
    const x = from % stride;
    const y = (from - x) / stride;
    const dx = to - from === 1 ? 1 : to - from === -1 ? -1 : 0;
    const dy = dx !== 0 ? 0 : to > from ? 1 : -1;
    // Walking along (dx, dy), the right-hand side lies towards (-dy, dx).
    const shift = edgeShift(bounds, raster, palette, from, dx, dy, smoothEdges);
    points.push(x + dx / 2 - dy * shift - 1, y + dy / 2 + dx * shift - 1);
  }
  let smooth = blur(points, arc.closed);
  if (!smoothEdges) for (let i = 0; i < 3; i++) smooth = blur(smooth, arc.closed);
  if (arc.closed) return smooth;
  const place = (corner: number): [number, number] => [(corner % stride) - 1, Math.floor(corner / stride) - 1];
  // The middles next to a junction are mixtures of three areas: they are left out where enough others remain.
  const inner = steps > 3 ? smooth.slice(2, -2) : steps > 2 ? smooth.slice(2, 4) : [];
  return [...place(corners[0]), ...inner, ...place(corners[n - 1])];
}

/** Distance from the crack to the true edge, towards the right-hand side of the walk. */
function edgeShift(
  bounds: Boundaries,
  raster: Raster,
  palette: readonly Rgb[],
  corner: number,
  dx: number,
  dy: number,
  smoothEdges: boolean,
): number {
  const w = bounds.width;
  // Pixel offset of one step to the right-hand side.
  const across = -dy + dx * w;
  const lowerRight = dx === 1 || dy === -1 ? corner + (dy === -1 ? -w : 0) : dx === -1 ? corner - w - 1 : corner - 1;
  const r1 = lowerRight;
  const l1 = r1 - across;
  const a = bounds.labels[l1];
  const b = bounds.labels[r1];
  // Between two colours of a photograph there is no edge to place; that of its mask is smooth all the same.
  if (!smoothEdges && a !== 0 && b !== 0) return 0;
  const sum =
    share(bounds, raster, palette, l1 - across, a, b, 0) +
    share(bounds, raster, palette, l1, a, b, 0) +
    share(bounds, raster, palette, r1, a, b, 1) +
    share(bounds, raster, palette, r1 + across, a, b, 1);
  return Math.max(-LARGEST_SHIFT, Math.min(LARGEST_SHIFT, 2 - sum));
}

/** How much of a framed pixel belongs to `b` rather than `a`; `nominal` where the pixel is neither or outside. */
function share(
  bounds: Boundaries,
  raster: Raster,
  palette: readonly Rgb[],
  pixel: number,
  a: number,
  b: number,
  nominal: number,
): number {
  if (pixel < 0 || pixel >= bounds.labels.length) return nominal;
  const label = bounds.labels[pixel];
  if (label !== (nominal === 0 ? a : b)) return nominal;
  const x = (pixel % bounds.width) - 1;
  const y = Math.floor(pixel / bounds.width) - 1;
  if (x < 0 || y < 0 || x >= raster.width || y >= raster.height) return nominal;
  const at = (y * raster.width + x) * 4;
  const { data } = raster;
  if (a === 0) return data[at + 3] / 255;
  if (b === 0) return 1 - data[at + 3] / 255;
  const ca = palette[(a & COLOUR_BITS) - 1];
  const cb = palette[(b & COLOUR_BITS) - 1];
  const r = cb.r - ca.r;
  const g = cb.g - ca.g;
  const bl = cb.b - ca.b;
  const square = r * r + g * g + bl * bl;
  if (square === 0) return nominal;
  const t = ((data[at] - ca.r) * r + (data[at + 1] - ca.g) * g + (data[at + 2] - ca.b) * bl) / square;
  return t < 0 ? 0 : t > 1 ? 1 : t;
}
