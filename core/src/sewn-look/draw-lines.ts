import { fromHex } from '../colour/srgb.js';
import type { Segments } from './segments.js';
import type { View } from './view.js';

/** Draws stitches as thin lines with a dot at every needle point. */
export function drawLines(
  pixels: Int32Array,
  view: View,
  segments: Segments,
  hexes: readonly string[],
  from: number,
  to: number,
): void {
  const colours = hexes.map((hex) => fromHex(hex));
  const half = Math.max(0.55, Math.min(1.4, 0.05 * view.scale));
  const dot = Math.max(0.8, Math.min(2.6, 0.14 * view.scale));
  const e = segments.ends;
  for (let s = from; s < to; s++) {
    const ax = e[s * 4] * view.scale - view.left;
    const ay = e[s * 4 + 1] * view.scale - view.top;
    const bx = e[s * 4 + 2] * view.scale - view.left;
    const by = e[s * 4 + 3] * view.scale - view.top;
    const margin = dot + 1;
    if (Math.max(ax, bx) < -margin || Math.min(ax, bx) > view.width + margin) continue;
    if (Math.max(ay, by) < -margin || Math.min(ay, by) > view.height + margin) continue;
    const { r, g, b } = colours[segments.thread[s]] ?? { r: 0, g: 0, b: 0 };
    capsule(pixels, view, ax, ay, bx, by, half, r, g, b, 1);
    if (view.scale >= 6) capsule(pixels, view, bx, by, bx, by, dot * 0.7, r * 0.45, g * 0.45, b * 0.45, 0.9);
  }
}

function capsule(
  pixels: Int32Array,
  view: View,
  ax: number,
  ay: number,
  bx: number,
  by: number,
  half: number,
  r: number,
  g: number,
  b: number,
  strength: number,
): void {
  const dx = bx - ax;
  const dy = by - ay;
  const square = dx * dx + dy * dy;
  const reach = half + 1;
  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - reach));
  const y1 = Math.min(view.height - 1, Math.ceil(Math.max(ay, by) + reach));
  for (let y = y0; y <= y1; y++) {
    const py = y + 0.5 - ay;
    let low = Math.max(0, Math.floor(Math.min(ax, bx) - reach));
    let high = Math.min(view.width - 1, Math.ceil(Math.max(ax, bx) + reach));
    if (dy !== 0 && square > 1) {
      const c = ax + (py * dx) / dy;
      const d = (reach * Math.sqrt(square)) / Math.abs(dy);
      low = Math.max(low, Math.floor(c - d));
      high = Math.min(high, Math.ceil(c + d));
    }
    for (let x = low; x <= high; x++) {
      const px = x + 0.5 - ax;
      const t = square === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / square));
      const ex = px - t * dx;
      const ey = py - t * dy;
      const inside = (half - Math.sqrt(ex * ex + ey * ey) + 0.5) * strength;
      if (inside <= 0) continue;
      const a = inside > strength ? strength : inside;
      const i = y * view.width + x;
      const p = pixels[i];
      const mix = (from: number, to: number): number => Math.round(from + (to - from) * a);
      pixels[i] = -16777216 | (mix((p >> 16) & 255, b) << 16) | (mix((p >> 8) & 255, g) << 8) | mix(p & 255, r);
    }
  }
}
