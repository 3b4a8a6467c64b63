import { LINEAR } from '../colour/srgb.js';
import { STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { drawScene } from '../sewn-look/render.js';
import { segmentsOf } from '../sewn-look/segments.js';
import { ThreadShades } from '../sewn-look/threads.js';
import { direction } from '../geometry/vector.js';

const SIDE_MM = 8;
const SCALE = 10;

/**
 * How threads look once they are sewn in close rows: their mean colour in linear light, measured on drawn patches. It is
 * a little darker than the thread itself, for the shadows between rows.
 * @returns r, g, b of every thread, three numbers each
 */
export function sewnColours(hexes: readonly string[], angle: number, spacingMm: number): Float32Array {
  const out = new Float32Array(hexes.length * 3);
  hexes.forEach((hex, i) => {
    const mean = patchColour(hex, angle, spacingMm);
    out.set(mean, i * 3);
  });
  return out;
}

/** Mean linear colour of the middle of a patch of level rows, turned. */
function patchColour(hex: string, angle: number, spacingMm: number): [number, number, number] {
  const writer = new StitchWriter();
  const u = direction(angle);
  const rows = Math.ceil(SIDE_MM / spacingMm);
  for (let k = 0; k < rows; k++) {
    const y = (k - rows / 2) * spacingMm;
    for (let j = 0; j <= 4; j++) {
      const x = (j / 4 - 0.5) * SIDE_MM * (k % 2 === 0 ? 1 : -1);
      writer.add(x * u.x - y * u.y, x * u.y + y * u.x, STITCH, 0, 0);
    }
  }
  const half = 2.4;
  const side = Math.round(half * 2 * SCALE);
  const view = { width: side, height: side, scale: SCALE, left: -side / 2, top: -side / 2 };
  const scene = {
    segments: segmentsOf(writer.finish()),
    shades: new ThreadShades([hex]),
    hexes: [hex],
    clothHex: hex,
    patches: [],
  };
  const pixels = drawScene(scene, view, 'sewn');
  const sum: [number, number, number] = [0, 0, 0];
  for (const p of pixels) {
    sum[0] += LINEAR[p & 255];
    sum[1] += LINEAR[(p >> 8) & 255];
    sum[2] += LINEAR[(p >> 16) & 255];
  }
  return [sum[0] / pixels.length, sum[1] / pixels.length, sum[2] / pixels.length];
}
