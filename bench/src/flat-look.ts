import { createRaster, fromHex, LINEAR, STITCH, toByte, type Design, type Raster } from '@open-kite/core';

interface Window {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  readonly scale: number;
}

/** Stitches as flat lines of 0.4 mm with round ends, each in its thread's own colour: what nobody can argue with. */
export function flatLines({ stitches, threads, fabric }: Design, { left, top, width, height, scale }: Window): Raster {
  const out = createRaster(width, height);
  const cloth = fromHex(fabric.hex);
  for (let i = 0; i < width * height; i++) out.data.set([cloth.r, cloth.g, cloth.b, 255], i * 4);
  const colours = threads.map(({ hex }) => fromHex(hex));
  const half = 0.2 * scale;
  for (let s = 1; s < stitches.count; s++) {
    if (stitches.command[s] !== STITCH) continue;
    const ax = (stitches.x[s - 1] - left) * scale;
    const ay = (stitches.y[s - 1] - top) * scale;
    const dx = (stitches.x[s] - left) * scale - ax;
    const dy = (stitches.y[s] - top) * scale - ay;
    const square = dx * dx + dy * dy;
    const { r, g, b } = colours[stitches.thread[s]];
    const to = Math.min(height - 1, Math.ceil(Math.max(ay, ay + dy) + half));
    const right = Math.min(width - 1, Math.ceil(Math.max(ax, ax + dx) + half));
    for (let y = Math.max(0, Math.floor(Math.min(ay, ay + dy) - half)); y <= to; y++) {
      for (let x = Math.max(0, Math.floor(Math.min(ax, ax + dx) - half)); x <= right; x++) {
        const px = x + 0.5 - ax;
        const py = y + 0.5 - ay;
        const t = square === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / square));
        if ((px - t * dx) ** 2 + (py - t * dy) ** 2 <= half * half) out.data.set([r, g, b, 255], (y * width + x) * 4);
      }
    }
  }
  return out;
}

/** A picture at another size, averaged in linear light; cloth where it is bare. */
export function shrunk(picture: Raster, width: number, height: number, clothHex: string): Raster {
  const out = createRaster(width, height);
  const cloth = fromHex(clothHex);
  const ground = [LINEAR[cloth.r], LINEAR[cloth.g], LINEAR[cloth.b]];
  for (let y = 0; y < height; y++) {
    const y0 = Math.floor((y * picture.height) / height);
    const y1 = Math.max(y0 + 1, Math.floor(((y + 1) * picture.height) / height));
    for (let x = 0; x < width; x++) {
      const x0 = Math.floor((x * picture.width) / width);
      const x1 = Math.max(x0 + 1, Math.floor(((x + 1) * picture.width) / width));
      const sum = [0, 0, 0];
      for (let py = y0; py < y1; py++) {
        for (let px = x0; px < x1; px++) {
          const at = (py * picture.width + px) * 4;
          const bare = picture.data[at + 3] < 128;
          for (let j = 0; j < 3; j++) sum[j] += bare ? ground[j] : LINEAR[picture.data[at + j]];
        }
      }
      const n = (y1 - y0) * (x1 - x0);
      out.data.set([toByte(sum[0] / n), toByte(sum[1] / n), toByte(sum[2] / n), 255], (y * width + x) * 4);
    }
  }
  return out;
}

/** A picture in greys of the same luminance. */
export function greyOf(picture: Raster): Raster {
  const out = createRaster(picture.width, picture.height);
  for (let i = 0; i < picture.data.length; i += 4) {
    const { data } = picture;
    const v = toByte(0.2126 * LINEAR[data[i]] + 0.7152 * LINEAR[data[i + 1]] + 0.0722 * LINEAR[data[i + 2]]);
    out.data.set([v, v, v, 255], i);
  }
  return out;
}

/** Share of the stitches that are shorter. */
export function shortShare({ stitches }: Design, shorterMm: number): number {
  let [short, all] = [0, 0];
  for (let s = 1; s < stitches.count; s++) {
    if (stitches.command[s] !== STITCH) continue;
    all++;
    if (Math.hypot(stitches.x[s] - stitches.x[s - 1], stitches.y[s] - stitches.y[s - 1]) < shorterMm) short++;
  }
  return all > 0 ? short / all : 0;
}
