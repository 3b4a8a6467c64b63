import { BOX_STITCHES, type Segments } from './segments.js';
import { ACROSS, ALONG, type ThreadShades } from './threads.js';
import type { View } from './view.js';

const RADIUS_MM = 0.2;
/** Width of the shadow a thread casts on what lies below, and how dark it is at most. */
const SHADOW_MM = 0.16;
/** How far from its middle line a thread changes pixels. */
export const REACH_MM = RADIUS_MM + SHADOW_MM;
const SHADOW_NEAR = 0.1;
const SHADOW_FAR = 0.17;

/**
 * Draws stitches `from` up to `to` as lit threads, later ones over earlier ones. Per pixel row only the stretch that
 * the thread and its shadow can reach is visited; the inside is a table look-up, and only edges compute coverage.
 * @param pixels 0xAABBGGRR, opaque, `view.width * view.height` long
 */
export function drawStitches(
  pixels: Int32Array,
  view: View,
  segments: Segments,
  shades: ThreadShades,
  from: number,
  to: number,
): void {
  const { scale } = view;
  const reach = REACH_MM;
  const left = view.left / scale - reach;
  const top = view.top / scale - reach;
  const right = (view.left + view.width) / scale + reach;
  const bottom = (view.top + view.height) / scale + reach;
  for (let s = from; s < to;) {
    const group = Math.floor(s / BOX_STITCHES);
    const end = Math.min(to, (group + 1) * BOX_STITCHES);
    const { boxes } = segments;
    const b = group * 4;
    if (boxes[b] > right || boxes[b + 2] < left || boxes[b + 1] > bottom || boxes[b + 3] < top) {
      s = end;
      continue;
    }
    for (; s < end; s++) drawOne(pixels, view, segments, shades, s);
  }
}

function drawOne(pixels: Int32Array, view: View, segments: Segments, shades: ThreadShades, s: number): void {
  const { scale, width, height } = view;
  const e = segments.ends;
  const ax = e[s * 4] * scale - view.left;
  const ay = e[s * 4 + 1] * scale - view.top;
  const bx = e[s * 4 + 2] * scale - view.left;
  const by = e[s * 4 + 3] * scale - view.top;
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  const ux = (bx - ax) / length;
  const uy = (by - ay) / length;
  const radius = RADIUS_MM * scale;
  const reach = REACH_MM * scale;
  // Ends are rounded off, but flatter than a half circle: the thread dives into the cloth.
  const cap = radius * 0.5;
  const table = shades.table(segments.thread[s], ux, uy, length / scale);
  const alongScale = ALONG / (length + 2 * cap);
  const acrossScale = ACROSS / (2 * radius);
  const shadow = reach - radius > 0 ? 1 / (reach - radius) : 0;
  // The side away from the light (upper left) lies where the across axis (-uy, ux) points down and right.
  const away = -uy * 0.58 + ux * 0.81;
  const far = away >= 0 ? SHADOW_FAR : SHADOW_NEAR;
  const near = away >= 0 ? SHADOW_NEAR : SHADOW_FAR;

  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - reach));
  const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + reach));
  for (let y = y0; y <= y1; y++) {
    const py = y + 0.5 - ay;
    // Stretch of the row with |v| <= reach and t within the stitch and its shadow.
    let low = 0;
    let high = width - 1;
    if (uy > 1e-6 || uy < -1e-6) {
      const c = ax - 0.5 + (py * ux) / uy;
      const d = Math.abs(reach / uy);
      low = Math.max(low, Math.ceil(c - d));
      high = Math.min(high, Math.floor(c + d));
    } else if (py * ux > reach || py * ux < -reach) continue;
    if (ux > 1e-6 || ux < -1e-6) {
      const a = ax - 0.5 + (-reach - py * uy) / ux;
      const b = ax - 0.5 + (length + reach - py * uy) / ux;
      low = Math.max(low, Math.ceil(Math.min(a, b)));
      high = Math.min(high, Math.floor(Math.max(a, b)));
    } else if (py * uy < -reach || py * uy > length + reach) continue;
    // Computed anew for every pixel: sums would round differently in windows that start elsewhere.
    const tRow = py * uy;
    const vRow = py * ux;
    for (let x = low, i = y * width + low; x <= high; x++, i++) {
      const px = x + 0.5 - ax;
      const t = px * ux + tRow;
      const v = vRow - px * uy;
      const over = t < 0 ? -t : t > length ? t - length : 0;
      const side = v < 0 ? -v : v;
      // Rounded ends count their overshoot in full circles of the flatter cap.
      const gap = over === 0 ? side : Math.sqrt(side * side + over * over * (radius / cap) * (radius / cap));
      const inside = radius - gap + 0.5;
      if (inside <= 0) {
        const strength = 1 - (gap - radius) * shadow;
        if (strength > 0) {
          const keep = (256 - (v > 0 ? far : near) * strength * 256) | 0;
          const p = pixels[i];
          pixels[i] =
            -16777216 |
            (((((p >> 16) & 255) * keep) >> 8) << 16) |
            (((((p >> 8) & 255) * keep) >> 8) << 8) |
            (((p & 255) * keep) >> 8);
        }
        continue;
      }
      let ti = ((t + cap) * alongScale) | 0;
      if (ti < 0) ti = 0;
      else if (ti >= ALONG) ti = ALONG - 1;
      let vi = ((v + radius) * acrossScale) | 0;
      if (vi < 0) vi = 0;
      else if (vi >= ACROSS) vi = ACROSS - 1;
      const colour = table[ti * ACROSS + vi];
      if (inside >= 1) {
        pixels[i] = -16777216 | colour;
        continue;
      }
      const a = (inside * 256) | 0;
      const p = pixels[i];
      const r = (p & 255) + ((((colour & 255) - (p & 255)) * a) >> 8);
      const g = ((p >> 8) & 255) + (((((colour >> 8) & 255) - ((p >> 8) & 255)) * a) >> 8);
      const bl = ((p >> 16) & 255) + (((((colour >> 16) & 255) - ((p >> 16) & 255)) * a) >> 8);
      pixels[i] = -16777216 | (bl << 16) | (g << 8) | r;
    }
  }
}
