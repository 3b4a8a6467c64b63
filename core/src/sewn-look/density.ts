import type { Segments } from './segments.js';
import type { View } from './view.js';

const CELL_MM = 0.5;
const THREAD_MM = 0.4;

/** How many covers of thread lie over each cell of a grid; a cover is thread area over cell area. */
export interface DensityMap {
  readonly columns: number;
  readonly rows: number;
  readonly left: number;
  readonly top: number;
  readonly cellMm: number;
  readonly covers: Float32Array;
}

/** Adds up the thread over half-millimetre cells, smoothed over the neighbouring cells. */
export function densityOf(segments: Segments, to = segments.count): DensityMap {
  let [left, top, right, bottom] = [0, 0, 0, 0];
  for (let i = 0; i < segments.boxes.length; i += 4) {
    left = Math.min(left, segments.boxes[i]);
    top = Math.min(top, segments.boxes[i + 1]);
    right = Math.max(right, segments.boxes[i + 2]);
    bottom = Math.max(bottom, segments.boxes[i + 3]);
  }
  left = Math.floor(left / CELL_MM) * CELL_MM - 2 * CELL_MM;
  top = Math.floor(top / CELL_MM) * CELL_MM - 2 * CELL_MM;
  const columns = Math.ceil((right - left) / CELL_MM) + 3;
  const rows = Math.ceil((bottom - top) / CELL_MM) + 3;
  const raw = new Float32Array(columns * rows);
  const e = segments.ends;
  for (let s = 0; s < to; s++) {
    const dx = e[s * 4 + 2] - e[s * 4];
    const dy = e[s * 4 + 3] - e[s * 4 + 1];
    const length = Math.sqrt(dx * dx + dy * dy);
    const steps = Math.max(1, Math.ceil(length / 0.2));
    const cover = ((length / steps) * THREAD_MM) / (CELL_MM * CELL_MM);
    for (let k = 0; k < steps; k++) {
      const t = (k + 0.5) / steps;
      const x = Math.floor((e[s * 4] + dx * t - left) / CELL_MM);
      const y = Math.floor((e[s * 4 + 1] + dy * t - top) / CELL_MM);
      raw[y * columns + x] += cover;
    }
  }
  const covers = new Float32Array(columns * rows);
  for (let y = 1; y < rows - 1; y++) {
    for (let x = 1; x < columns - 1; x++) {
      const i = y * columns + x;
      let sum = 4 * raw[i] + 2 * (raw[i - 1] + raw[i + 1] + raw[i - columns] + raw[i + columns]);
      sum += raw[i - columns - 1] + raw[i - columns + 1] + raw[i + columns - 1] + raw[i + columns + 1];
      covers[i] = sum / 16;
    }
  }
  return { columns, rows, left, top, cellMm: CELL_MM, covers };
}

/** Stops of the scale: covers and colour. Up to three covers are fine; above, needles suffer. */
const SCALE: readonly (readonly [number, number, number, number])[] = [
  [0.3, 214, 228, 224],
  [1, 120, 176, 168],
  [2, 47, 117, 110],
  [3, 232, 176, 64],
  [4.5, 200, 72, 31],
  [7, 92, 20, 12],
];

/** Lays the density map over a view. */
export function drawDensity(pixels: Int32Array, view: View, map: DensityMap): void {
  for (let y = 0; y < view.height; y++) {
    const v = ((view.top + y + 0.5) / view.scale - map.top) / map.cellMm - 0.5;
    const row = Math.floor(v);
    if (row < 0 || row >= map.rows - 1) continue;
    for (let x = 0; x < view.width; x++) {
      const u = ((view.left + x + 0.5) / view.scale - map.left) / map.cellMm - 0.5;
      const column = Math.floor(u);
      if (column < 0 || column >= map.columns - 1) continue;
      const i = row * map.columns + column;
      const fx = u - column;
      const fy = v - row;
      const c = map.covers;
      const covers =
        (c[i] * (1 - fx) + c[i + 1] * fx) * (1 - fy) +
        (c[i + map.columns] * (1 - fx) + c[i + map.columns + 1] * fx) * fy;
      if (covers >= 0.15) pixels[y * view.width + x] = colourFor(covers);
    }
  }
}

function colourFor(covers: number): number {
  let k = 0;
  while (k < SCALE.length - 2 && covers > SCALE[k + 1][0]) k++;
  const [a, b] = [SCALE[k], SCALE[k + 1]];
  const t = Math.min(1, Math.max(0, (covers - a[0]) / (b[0] - a[0])));
  const mix = (j: 1 | 2 | 3): number => Math.round(a[j] + (b[j] - a[j]) * t);
  return -16777216 | (mix(3) << 16) | (mix(2) << 8) | mix(1);
}
