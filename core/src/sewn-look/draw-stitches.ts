import { BOX_STITCHES, type Segments } from './segments.js';
import { PER_PIXEL, REACH_MM, threadProfile, type ThreadProfile } from './thread-profile.js';
import { ACROSS, ALONG, type ThreadShades } from './threads.js';
import type { View } from './view.js';

/** Length of the rounded end of a thread, in half widths. */
const FLATTER = 0.5;
/** Bits behind the point of places along and across a thread. */
const FRACTION = 16;
const ONE = 1 << FRACTION;

/**
 * Draws stitches `from` up to `to` as lit threads, later ones over earlier ones. Per pixel row only the stretch that
 * the thread and its shadow can reach is visited, and what happens to a pixel is a table look-up.
 * @param pixels 0xAABBGGRR, `view.width * view.height` long, all 0 at first: colours times how much of the pixel threads
 *   cover, and that cover. Cloth comes under them last (`overCloth`)
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
  const profile = threadProfile(scale);
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
    for (; s < end; s++) drawOne(pixels, view, segments, shades, profile, s);
  }
}

function drawOne(
  pixels: Int32Array,
  view: View,
  segments: Segments,
  shades: ThreadShades,
  profile: ThreadProfile,
  s: number,
): void {
  const { scale, width, height } = view;
  const { radius, reach } = profile;
  const e = segments.ends;
  const ax = e[s * 4] * scale - view.left;
  const ay = e[s * 4 + 1] * scale - view.top;
  const bx = e[s * 4 + 2] * scale - view.left;
  const by = e[s * 4 + 3] * scale - view.top;
  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - reach));
  const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + reach));
  if (y0 > y1 || Math.min(ax, bx) - reach > width || Math.max(ax, bx) + reach < 0) return;
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  const ux = (bx - ax) / length;
  const uy = (by - ay) / length;
  // Ends are rounded off, but flatter than a half circle: the thread dives into the cloth.
  const cap = radius * FLATTER;
  const table = shades.table(segments.thread[s], ux, uy, length / scale);
  const alongScale = ALONG / (length + 2 * cap);
  // The side away from the light (upper left) lies where the across axis (-uy, ux) points down and right.
  const across = -uy * 0.58 + ux * 0.81 >= 0 ? profile.farAbove : profile.farBelow;

  // Places along and across the thread are whole numbers, so that adding them up comes to the same in every window.
  const [x0, yTop] = [Math.floor(e[s * 4] * scale), Math.floor(e[s * 4 + 1] * scale)];
  const [left, top] = [view.left - x0, view.top - yTop];
  const dx = x0 + 0.5 - e[s * 4] * scale;
  const dy = yTop + 0.5 - e[s * 4 + 1] * scale;
  const alongX = Math.round(ux * alongScale * ONE) | 0;
  const alongY = Math.round(uy * alongScale * ONE) | 0;
  const acrossX = Math.round(-uy * PER_PIXEL * ONE) | 0;
  const acrossY = Math.round(ux * PER_PIXEL * ONE) | 0;
  const along0 = Math.round((dx * ux + dy * uy + cap) * alongScale * ONE) | 0;
  const v0 = Math.round((dy * ux - dx * uy + profile.middle) * PER_PIXEL * ONE) | 0;
  const start = Math.round(cap * alongScale * ONE) | 0;
  const end = Math.round((cap + length) * alongScale * ONE) | 0;
  // Stretch of a row with |v| <= reach and t within the stitch and its shadow, and how it moves from row to row.
  const isLevel = uy < 1e-6 && uy > -1e-6;
  const isUpright = ux < 1e-6 && ux > -1e-6;
  const slide = isLevel ? 0 : ux / uy;
  const halfWide = isLevel ? width * 2 : Math.abs(reach / uy);
  const fall = isUpright ? 0 : -uy / ux;
  const middle = isUpright ? 0 : length / 2 / ux;
  const halfLong = isUpright ? width * 2 : Math.abs((length / 2 + reach) / ux);
  for (let y = y0; y <= y1; y++) {
    const py = y + 0.5 - ay;
    if (isLevel && (py > reach || py < -reach)) continue;
    if (isUpright && (py * uy < -reach || py * uy > length + reach)) continue;
    const wide = ax - 0.5 + py * slide;
    const long = ax - 0.5 + middle + py * fall;
    const low = Math.max(0, Math.ceil(Math.max(wide - halfWide, long - halfLong))) | 0;
    const high = Math.min(width - 1, Math.floor(Math.min(wide + halfWide, long + halfLong))) | 0;
    let along = (along0 + (left + low) * alongX + (top + y) * alongY) | 0;
    let v = (v0 + (left + low) * acrossX + (top + y) * acrossY) | 0;
    const last = y * width + high;
    for (let i = y * width + low; i <= last; i++, along = (along + alongX) | 0, v = (v + acrossX) | 0) {
      let place = along >> FRACTION;
      let side = v >> FRACTION;
      if (along < start || along > end) {
        // Rounded ends count their overshoot in full circles of the flatter cap.
        const over = (along < start ? start - along : along - end) / (alongScale * ONE * FLATTER);
        const off = v / (PER_PIXEL * ONE) - profile.middle;
        const gap = Math.sqrt(off * off + over * over);
        if (gap >= reach) continue;
        side = (((off < 0 ? -gap : gap) + profile.middle) * PER_PIXEL) | 0;
        place = place < 0 ? 0 : place < ALONG ? place : ALONG - 1;
      }
      const seen = across[side];
      const cover = (seen >> 9) & 511;
      if (cover === 256) {
        pixels[i] = -16777216 | table[place * ACROSS + (seen >> 18)];
        continue;
      }
      const p = pixels[i];
      const covered = p >>> 24;
      // What is kept of the threads below, and how much thread there is then.
      let keep = seen & 511;
      let now = covered + (((255 - covered) * (256 - keep)) >> 8);
      let colour = 0;
      if (cover > 0) {
        // An edge takes the room beside another first: between rows that touch no cloth is seen.
        keep = covered + cover <= 255 ? 256 : (((255 - cover) << 8) / covered) | 0;
        now = covered + cover <= 255 ? covered + cover : 255;
        colour = table[place * ACROSS + (seen >> 18)];
      }
      // Red and blue in one go: their products do not reach into each other.
      const rb = (Math.imul(p & 0xff00ff, keep) + Math.imul(colour & 0xff00ff, cover)) | 0;
      const g = (Math.imul(p & 0xff00, keep) + Math.imul(colour & 0xff00, cover)) | 0;
      pixels[i] = (now << 24) | ((rb >>> 8) & 0xff00ff) | ((g >>> 8) & 0xff00);
    }
  }
}
