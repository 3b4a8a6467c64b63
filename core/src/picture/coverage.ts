import type { Points } from '../geometry/vector.js';

/** Lines a pixel row is cut into. */
const LINES = 8;

/**
 * How much of every pixel lies inside some rings under the even-odd rule, 0 to 255.
 * @param rings in pixels of the picture
 */
export function ringCoverage(rings: readonly Points[], width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  const row = new Float32Array(width + 1);
  const crossings: number[] = [];
  for (let y = 0; y < height; y++) {
    row.fill(0);
    let any = false;
    for (let k = 0; k < LINES; k++) {
      const at = y + (k + 0.5) / LINES;
      crossings.length = 0;
      for (const ring of rings) cross(ring, at, crossings);
      if (crossings.length < 2) continue;
      any = true;
      crossings.sort((a, b) => a - b);
      for (let i = 0; i + 1 < crossings.length; i += 2) addSpan(row, crossings[i], crossings[i + 1], width);
    }
    if (any) for (let x = 0; x < width; x++) out[y * width + x] = Math.round((row[x] / LINES) * 255);
  }
  return out;
}

function cross(ring: Points, y: number, out: number[]): void {
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [x0, y0, x1, y1] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
    if (y0 <= y !== y1 <= y) out.push(x0 + ((y - y0) / (y1 - y0)) * (x1 - x0));
  }
}

function addSpan(row: Float32Array, from: number, to: number, width: number): void {
  const a = Math.max(0, from);
  const b = Math.min(width, to);
  if (b <= a) return;
  const first = Math.floor(a);
  const last = Math.min(width - 1, Math.floor(b));
  if (first === last) {
    row[first] += b - a;
    return;
  }
  row[first] += first + 1 - a;
  for (let x = first + 1; x < last; x++) row[x] += 1;
  row[last] += b - last;
}
