import { fromHex } from '../colour/srgb.js';
import { seededRandom } from '../geometry/chance.js';
import { direction, type Point } from '../geometry/vector.js';
import { createRaster, type Raster } from '../picture/raster.js';
import type { Sewing } from '../sequence/sewing.js';
import { stitchBounds } from '../sequence/stitch-list.js';
import { drawScene, sceneOf } from '../sewn-look/render.js';
import { laidAt, overlayOf } from './lay-over.js';
import { sewnOn, type PracticeCloth } from './practice-cloth.js';

/** How a photograph is taken. */
export interface PhotoSettings {
  /** Turned by so many degrees. */
  readonly turn: number;
  /** How much smaller the far side is than the near one, as a share. */
  readonly tilt: number;
  /** How much darker the dim corner is, as a share. */
  readonly shade: number;
  /** Noise, as a standard deviation of 255. */
  readonly noise: number;
  readonly pxPerMm: number;
  readonly seed: number;
}

/** A photograph by hand, in the light of a window. */
export const BY_HAND: PhotoSettings = { turn: 10, tilt: 0.08, shade: 0.3, noise: 4, pxPerMm: 14, seed: 1 };

/** Cloth around the design that is in the picture. */
const AROUND_MM = 9;
/** Scale the sewn design is drawn at before it is photographed. */
const DRAWN_PX = 16;
const MOST_PIXELS = 16_000_000;

/** A photograph of a design sewn on a practice cloth. */
export function practicePhoto(sewing: Sewing, cloth: PracticeCloth, settings: PhotoSettings = BY_HAND): Raster {
  const stitches = sewnOn(sewing.stitches, cloth);
  const box = stitchBounds(stitches) ?? { left: -10, top: -10, right: 10, bottom: 10 };
  const [wide, high] = [box.right - box.left + 2 * AROUND_MM, box.bottom - box.top + 2 * AROUND_MM];
  const fine = Math.min(DRAWN_PX, Math.floor(Math.sqrt(MOST_PIXELS / (wide * high))));
  const view = {
    width: Math.ceil(wide * fine),
    height: Math.ceil(high * fine),
    scale: fine,
    left: Math.floor((box.left - AROUND_MM) * fine),
    top: Math.floor((box.top - AROUND_MM) * fine),
  };
  const drawn = drawScene(sceneOf({ ...sewing, stitches }), view, 'sewn');
  return photographed(drawn, view.width, view.height, fromHex(sewing.fabric.hex), settings, fine);
}

/** Turns, tilts, shades and roughens a picture as a camera does. */
function photographed(
  pixels: Int32Array,
  width: number,
  height: number,
  cloth: { readonly r: number; readonly g: number; readonly b: number },
  { turn, tilt, shade, noise, pxPerMm, seed }: PhotoSettings,
  fine: number,
): Raster {
  const scale = Math.min(1, pxPerMm / fine);
  const { x: cos, y: sin } = direction(turn);
  const corners: Point[] = [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ];
  const seen = corners.map(({ x, y }): Point => {
    const [cx, cy] = [(x - width / 2) * scale, (y - height / 2) * scale];
    const [tx, ty] = [cx * cos - cy * sin, cx * sin + cy * cos];
    // What is farther up is farther away.
    const near = 1 / (1 - (tilt * ty) / (height * scale));
    return { x: tx * near, y: ty * near };
  });
  const [left, top] = [Math.min(...seen.map(({ x }) => x)), Math.min(...seen.map(({ y }) => y))];
  const outWidth = Math.ceil(Math.max(...seen.map(({ x }) => x)) - left);
  const outHeight = Math.ceil(Math.max(...seen.map(({ y }) => y)) - top);
  const back = overlayOf(
    seen.map(({ x, y }) => ({ x: x - left, y: y - top })),
    corners,
  );
  const out = createRaster(outWidth, outHeight);
  const random = seededRandom(seed);
  const { x: lx, y: ly } = direction(random() * 360);
  const table = cloth.r / 2 + cloth.g / 2;
  const reach = Math.max(outWidth, outHeight);
  // Four samples a pixel: what the camera sees of one is a small area.
  const samples = [0.25, 0.75];
  for (let y = 0; y < outHeight; y++) {
    for (let x = 0; x < outWidth; x++) {
      const sum = [0, 0, 0];
      for (const sy of samples) {
        for (const sx of samples) {
          const place = laidAt(back, x + sx, y + sy);
          const [i, j] = [Math.floor(place.x), Math.floor(place.y)];
          const beside = i < 0 || j < 0 || i >= width || j >= height;
          const pixel = beside ? 0 : pixels[j * width + i];
          sum[0] += beside ? table * 0.55 : pixel & 255;
          sum[1] += beside ? table * 0.5 : (pixel >> 8) & 255;
          sum[2] += beside ? table * 0.42 : (pixel >> 16) & 255;
        }
      }
      const far = ((x - outWidth / 2) * lx + (y - outHeight / 2) * ly) / reach;
      const light = 1 - shade * (0.5 + far) + shade * 0.1;
      // The sum of three even chances is near enough to the noise of a sensor.
      const rough = (random() + random() + random() - 1.5) * 2 * noise;
      const at = (y * outWidth + x) * 4;
      for (let c = 0; c < 3; c++) out.data[at + c] = (sum[c] / 4) * light + rough;
      out.data[at + 3] = 255;
    }
  }
  return out;
}
