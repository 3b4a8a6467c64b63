import type { Points } from '../geometry/vector.js';

/** Lines a pixel row is cut into. */
const LINES = 8;

/**
 * How much of every pixel lies inside some rings under the even-odd rule, 0 to 255.
 * @param rings in pixels of the picture
 */
export function ringCoverage(rings: readonly Points[], width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  const { start, xs } = crossings(rings, height * LINES);
  const row = new Float32Array(width + 1);
  for (let y = 0; y < height; y++) {
    const first = start[y * LINES];
    const end = start[(y + 1) * LINES];
    if (first === end) continue;
    row.fill(0);
    for (let line = y * LINES; line < (y + 1) * LINES; line++) {
      const at = xs.subarray(start[line], start[line + 1]).sort();
      for (let i = 0; i + 1 < at.length; i += 2) addSpan(row, at[i], at[i + 1], width);
    }
    for (let x = 0; x < width; x++) out[y * width + x] = Math.round((row[x] / LINES) * 255);
  }
  return out;
}

/** Where rings cross every line: those of line k are `xs[start[k]]` to `xs[start[k + 1] - 1]`, in no order. */
function crossings(rings: readonly Points[], lines: number): { start: Int32Array; xs: Float64Array } {
  const start = new Int32Array(lines + 1);
  eachCrossing(rings, lines, (line) => start[line + 1]++);
  for (let line = 0; line < lines; line++) start[line + 1] += start[line];
  const next = start.slice();
  const xs = new Float64Array(start[lines]);
  eachCrossing(rings, lines, (line, x) => (xs[next[line]++] = x));
  return { start, xs };
}

function eachCrossing(rings: readonly Points[], lines: number, visit: (line: number, x: number) => void): void {
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [x0, y0, x1, y1] = [ring[j], ring[j + 1] * LINES - 0.5, ring[i], ring[i + 1] * LINES - 0.5];
      const [top, bottom] = y0 < y1 ? [y0, y1] : [y1, y0];
      // A line is crossed by an edge that begins on or above it and ends below it.
      const last = Math.min(lines, Math.ceil(bottom));
      for (let line = Math.max(0, Math.ceil(top)); line < last; line++) {
        visit(line, x0 + ((line - y0) / (y1 - y0)) * (x1 - x0));
      }
    }
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
