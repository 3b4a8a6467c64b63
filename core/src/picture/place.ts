import { flattenRing } from '../geometry/curve.js';
import { direction } from '../geometry/vector.js';
import { ringCoverage } from './coverage.js';
import { placedFrame, type Placement } from './frame.js';
import { maskCurve } from './mask.js';
import { createRaster, type Raster } from './raster.js';
import { shrink, shrinkWindow, workingSize, type Fill } from './resample.js';

/** The pixels a placed picture becomes: their number, and where they lie in mm around the middle of the hoop. */
export interface Grid {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** A picture whose sides are this near to the proportion it is sewn in is not resampled for it. */
const SAME_PROPORTION = 0.01;

/** A picture turned by quarter turns and mirrored, and what its size is then. */
interface Upright {
  readonly quarter: number;
  readonly width: number;
  readonly height: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

function uprightOf(width: number, height: number, placement: Placement): Upright | undefined {
  if (placement.turn % 90 !== 0) return undefined;
  const quarter = (((placement.turn / 90) % 4) + 4) % 4;
  const { widthMm, heightMm } = placement;
  return quarter % 2 === 0
    ? { quarter, width, height, widthMm, heightMm }
    : { quarter, width: height, height: width, widthMm: heightMm, heightMm: widthMm };
}

/** Pixels of the upright picture that a frame covers, whole ones; they may lie outside the picture. */
function windowOf(
  upright: Upright,
  placement: Placement,
): { left: number; top: number; width: number; height: number } {
  if (!placement.mask) return { left: 0, top: 0, width: upright.width, height: upright.height };
  const frame = placedFrame(placement);
  const kx = upright.width / upright.widthMm;
  const ky = upright.height / upright.heightMm;
  const left = Math.floor((frame.left + upright.widthMm / 2) * kx + 1e-6);
  const top = Math.floor((frame.top + upright.heightMm / 2) * ky + 1e-6);
  const right = Math.ceil((frame.right + upright.widthMm / 2) * kx - 1e-6);
  const bottom = Math.ceil((frame.bottom + upright.heightMm / 2) * ky - 1e-6);
  return { left, top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}

/**
 * Plans the pixels of a placed picture: as fine as the source, at most `pixels` of them. A picture that is only cut
 * keeps the source's own pixels, so that nothing is blurred.
 */
export function gridOf(width: number, height: number, placement: Placement, pixels: number): Grid {
  const frame = placedFrame(placement);
  const midX = (frame.left + frame.right) / 2;
  const midY = (frame.top + frame.bottom) / 2;
  const upright = uprightOf(width, height, placement);
  const kx = width / placement.widthMm;
  const ky = height / placement.heightMm;
  if (upright) {
    const window = windowOf(upright, placement);
    const mmX = upright.widthMm / upright.width;
    const mmY = upright.heightMm / upright.height;
    const box = {
      left: window.left * mmX - upright.widthMm / 2 - midX,
      top: window.top * mmY - upright.heightMm / 2 - midY,
      widthMm: window.width * mmX,
      heightMm: window.height * mmY,
    };
    if (Math.abs(mmX / mmY - 1) < SAME_PROPORTION) {
      return { ...workingSize(window.width, window.height, pixels), ...box };
    }
    const k = Math.sqrt(kx * ky);
    return { ...workingSize(Math.ceil(box.widthMm * k), Math.ceil(box.heightMm * k), pixels), ...box };
  }
  const k = Math.sqrt(kx * ky);
  const widthMm = frame.right - frame.left;
  const heightMm = frame.bottom - frame.top;
  return {
    ...workingSize(Math.ceil(widthMm * k), Math.ceil(heightMm * k), pixels),
    left: frame.left - midX,
    top: frame.top - midY,
    widthMm,
    heightMm,
  };
}

/**
 * Draws a placed picture on its grid: turned, mirrored, cut by its mask. Outside the mask everything is bare.
 * @param fill colour of the ground where the mask reaches beyond the picture; bare without it
 */
export function placePicture(source: Raster, placement: Placement, grid: Grid, fill?: Fill): Raster {
  const upright = uprightOf(source.width, source.height, placement);
  const drawn = upright
    ? cutUpright(source, placement, upright, grid, fill)
    : turnFreely(source, placement, grid, fill);
  return placement.mask ? cut(drawn, maskOnGrid(placement, grid)) : drawn;
}

/** How much of every pixel of a grid lies inside the mask, 0 to 255; undefined where there is none. */
export function maskOnGrid(placement: Placement, grid: Grid): Uint8Array | undefined {
  if (!placement.mask) return undefined;
  const frame = placedFrame(placement);
  const kx = grid.width / grid.widthMm;
  const ky = grid.height / grid.heightMm;
  const ring = flattenRing(maskCurve(placement.mask), 0.02).map((v, i) =>
    i % 2 === 0
      ? (v - (frame.left + frame.right) / 2 - grid.left) * kx
      : (v - (frame.top + frame.bottom) / 2 - grid.top) * ky,
  );
  return ringCoverage([ring], grid.width, grid.height);
}

function cut(drawn: Raster, inside: Uint8Array | undefined): Raster {
  if (!inside) return drawn;
  const out = createRaster(drawn.width, drawn.height, drawn.data.slice());
  for (let i = 0; i < inside.length; i++) {
    if (inside[i] < 255) out.data[i * 4 + 3] = Math.round((out.data[i * 4 + 3] * inside[i]) / 255);
  }
  return out;
}

function cutUpright(source: Raster, placement: Placement, upright: Upright, grid: Grid, fill?: Fill): Raster {
  const turned = quarterTurn(source, upright.quarter, placement.mirror);
  const window = windowOf(upright, placement);
  const whole =
    window.left === 0 && window.top === 0 && window.width === turned.width && window.height === turned.height;
  if (whole && grid.width <= turned.width && grid.height <= turned.height) {
    return shrink(turned, grid.width, grid.height);
  }
  return shrinkWindow(turned, window, grid.width, grid.height, fill);
}

/** A picture mirrored (first) and turned clockwise by quarter turns; the same picture where neither is asked for. */
export function quarterTurn(source: Raster, quarter: number, mirror: boolean): Raster {
  if (quarter === 0 && !mirror) return source;
  const { width: w, height: h } = source;
  const onSide = quarter % 2 === 1;
  const out = createRaster(onSide ? h : w, onSide ? w : h);
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, w * h);
  const to = new Uint32Array(out.data.buffer);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const mx = mirror ? w - 1 - x : x;
      const [tx, ty] =
        quarter === 0
          ? [mx, y]
          : quarter === 1
            ? [h - 1 - y, mx]
            : quarter === 2
              ? [w - 1 - mx, h - 1 - y]
              : [y, w - 1 - mx];
      to[ty * out.width + tx] = from[y * w + x];
    }
  }
  return out;
}

/** Turns a picture by any angle: every new pixel is the mean of bilinear samples, as many as it covers. */
function turnFreely(source: Raster, placement: Placement, grid: Grid, fill?: Fill): Raster {
  // Halved until a new pixel covers less than two old ones each way, so that few samples are enough.
  let picture = source;
  const ratio = (): number => Math.sqrt((picture.width / placement.widthMm) * (picture.height / placement.heightMm));
  const wanted = grid.width / grid.widthMm;
  while (ratio() >= wanted * 2 && picture.width > 2 && picture.height > 2) {
    picture = shrink(picture, Math.ceil(picture.width / 2), Math.ceil(picture.height / 2));
  }
  const samples = ratio() > wanted * 1.05 ? 2 : 1;
  const out = createRaster(grid.width, grid.height);
  const { x: cos, y: sin } = direction(placement.turn);
  const frame = placedFrame(placement);
  const midX = (frame.left + frame.right) / 2;
  const midY = (frame.top + frame.bottom) / 2;
  const kx = (picture.width / placement.widthMm) * (placement.mirror ? -1 : 1);
  const ky = picture.height / placement.heightMm;
  const sum = [0, 0, 0, 0];
  for (let y = 0; y < grid.height; y++) {
    for (let x = 0; x < grid.width; x++) {
      sum.fill(0);
      for (let s = 0; s < samples * samples; s++) {
        const mx = grid.left + midX + ((x + ((s % samples) + 0.5) / samples) * grid.widthMm) / grid.width;
        const my = grid.top + midY + ((y + (Math.floor(s / samples) + 0.5) / samples) * grid.heightMm) / grid.height;
        sample(
          picture,
          (mx * cos + my * sin) * kx + picture.width / 2,
          (-mx * sin + my * cos) * ky + picture.height / 2,
          sum,
          fill,
        );
      }
      if (sum[3] <= 0) continue;
      const at = (y * grid.width + x) * 4;
      for (let j = 0; j < 3; j++) out.data[at + j] = sum[j] / sum[3];
      out.data[at + 3] = (sum[3] / (samples * samples)) * 255;
    }
  }
  return out;
}

/** Adds a bilinear sample, colour weighted by alpha; outside the picture it is the fill, or bare. */
function sample(picture: Raster, x: number, y: number, sum: number[], fill?: Fill): void {
  const x0 = Math.floor(x - 0.5);
  const y0 = Math.floor(y - 0.5);
  for (let dy = 0; dy <= 1; dy++) {
    for (let dx = 0; dx <= 1; dx++) {
      const wx = dx === 0 ? 1 - (x - 0.5 - x0) : x - 0.5 - x0;
      const wy = dy === 0 ? 1 - (y - 0.5 - y0) : y - 0.5 - y0;
      const weight = wx * wy;
      if (weight === 0) continue;
      const px = x0 + dx;
      const py = y0 + dy;
      if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) {
        if (!fill) continue;
        sum[0] += fill.r * weight;
        sum[1] += fill.g * weight;
        sum[2] += fill.b * weight;
        sum[3] += weight;
        continue;
      }
      const at = (py * picture.width + px) * 4;
      const alpha = (picture.data[at + 3] / 255) * weight;
      sum[0] += picture.data[at] * alpha;
      sum[1] += picture.data[at + 1] * alpha;
      sum[2] += picture.data[at + 2] * alpha;
      sum[3] += alpha;
    }
  }
}
