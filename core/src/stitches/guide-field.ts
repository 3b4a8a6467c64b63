import { boundsOf } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import type { Field } from './level-lines.js';

/** Grid of one guide, in mm; of several, whose field has to be solved for. */
const FINE_STEP = 0.5;
const MOST_NODES = 90;
const SWEEPS = 160;
const MARGIN_MM = 2;

interface Nearest {
  /** Distance to the guide; its ends go on straight. */
  readonly gap: number;
  /** Which side of it: 1 left, -1 right. */
  readonly side: number;
  /** Unit vector along it there. */
  readonly tx: number;
  readonly ty: number;
}

/**
 * A field whose level lines follow guide lines, one unit a row. With one guide the rows are parallel to it everywhere;
 * between several their direction goes over from one to the next, and rows lie at most `spacingMm` apart.
 */
export function guideField(rings: readonly Points[], guides: readonly Points[], spacingMm: number): Field {
  const box = boundsOf(rings);
  const [w, h] = [box.right - box.left + 2 * MARGIN_MM, box.bottom - box.top + 2 * MARGIN_MM];
  const step = guides.length === 1 ? FINE_STEP : Math.max(FINE_STEP, Math.max(w, h) / MOST_NODES);
  const width = Math.ceil(w / step) + 1;
  const height = Math.ceil(h / step) + 1;
  const field = { width, height, left: box.left - MARGIN_MM, top: box.top - MARGIN_MM, step };
  const lines = alike(guides);
  const values = new Float64Array(width * height);
  if (lines.length === 1) {
    for (let i = 0; i < values.length; i++) {
      const { gap, side } = nearestOn(
        lines[0],
        field.left + (i % width) * step,
        field.top + Math.floor(i / width) * step,
      );
      values[i] = (gap * side) / spacingMm;
    }
    return { ...field, values };
  }
  const nx = new Float64Array(values.length);
  const ny = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) {
    const x = field.left + (i % width) * step;
    const y = field.top + Math.floor(i / width) * step;
    let [sx, sy] = [0, 0];
    for (const line of lines) {
      const { gap, tx, ty } = nearestOn(line, x, y);
      const weight = 1 / (gap * gap + 1);
      // The normal, towards larger values.
      sx += ty * weight;
      sy -= tx * weight;
    }
    const length = Math.sqrt(sx * sx + sy * sy) || 1;
    nx[i] = sx / length;
    ny[i] = sy / length;
    values[i] = x * nx[i] + y * ny[i];
  }
  solve(values, nx, ny, width, height, step);
  scaleTo(values, width, height, step, spacingMm);
  return { ...field, values };
}

/** Guides that all run the same way as the first. */
function alike(guides: readonly Points[]): Points[] {
  const [first] = guides;
  const chord = (line: Points): [number, number] => {
    const n = line.length;
    return [line[n - 2] - line[0], line[n - 1] - line[1]];
  };
  const [dx, dy] = chord(first);
  return guides.map((line) => {
    const [x, y] = chord(line);
    if (x * dx + y * dy >= 0) return line;
    const out: Points = [];
    for (let i = line.length - 2; i >= 0; i -= 2) out.push(line[i], line[i + 1]);
    return out;
  });
}

function nearestOn(line: Points, x: number, y: number): Nearest {
  let best: Nearest = { gap: Infinity, side: 1, tx: 1, ty: 0 };
  const last = line.length - 4;
  for (let i = 0; i <= last; i += 2) {
    const [ax, ay] = [line[i], line[i + 1]];
    const length = distance(ax, ay, line[i + 2], line[i + 3]);
    if (length === 0) continue;
    const tx = (line[i + 2] - ax) / length;
    const ty = (line[i + 3] - ay) / length;
    let along = (x - ax) * tx + (y - ay) * ty;
    // The ends go on straight.
    if (i > 0) along = Math.max(0, along);
    if (i < last) along = Math.min(length, along);
    const gap = distance(ax + tx * along, ay + ty * along, x, y);
    if (gap < best.gap - 1e-9) {
      const side = (x - ax) * ty - (y - ay) * tx >= 0 ? 1 : -1;
      best = { gap, side, tx, ty };
    }
  }
  return best;
}

/** The field whose slope is nearest to the normals in the mean: successive over-relaxation (Young 1954). */
function solve(
  values: Float64Array,
  nx: Float64Array,
  ny: Float64Array,
  width: number,
  height: number,
  step: number,
): void {
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        let [sum, count] = [0, 0];
        const pull = (j: number, dx: number, dy: number): void => {
          sum += values[j] + ((dx * (nx[i] + nx[j]) + dy * (ny[i] + ny[j])) * step) / 2;
          count++;
        };
        if (x > 0) pull(i - 1, 1, 0);
        if (x + 1 < width) pull(i + 1, -1, 0);
        if (y > 0) pull(i - width, 0, 1);
        if (y + 1 < height) pull(i + width, 0, -1);
        values[i] += 1.7 * (sum / count - values[i]);
      }
    }
  }
}

/** Scales a field so that its rows are at most the spacing apart, but for the flattest twentieth. */
function scaleTo(values: Float64Array, width: number, height: number, step: number, spacingMm: number): void {
  const slopes: number[] = [];
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      const dx = values[i + 1] - values[i];
      const dy = values[i + width] - values[i];
      slopes.push(Math.sqrt(dx * dx + dy * dy) / step);
    }
  }
  slopes.sort((a, b) => a - b);
  const flat = Math.max(0.4, slopes[Math.floor(slopes.length * 0.05)] ?? 1);
  for (let i = 0; i < values.length; i++) values[i] /= flat * spacingMm;
}

/** How many rows a millimetre a field has at a place. */
export function slopeAt(field: Field, x: number, y: number): number {
  const { width, height, left, top, step, values } = field;
  const u = Math.min(width - 2, Math.max(0, Math.floor((x - left) / step)));
  const v = Math.min(height - 2, Math.max(0, Math.floor((y - top) / step)));
  const i = v * width + u;
  const dx = values[i + 1] - values[i];
  const dy = values[i + width] - values[i];
  return Math.sqrt(dx * dx + dy * dy) / step;
}
