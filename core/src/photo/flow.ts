import { direction, type Points } from '../geometry/vector.js';
import { CELL_MM } from './cell.js';
import type { Plate } from './plate.js';

/** Heights of rows that bend. */
export interface Levels {
  readonly rows: number;
  /** Height in mm from the middle of a row in a column of cells. */
  height(row: number, column: number): number;
}

/** Bends rows so that they follow something. */
export interface Flow {
  /** Rows for a lattice that reaches so far from its middle and whose rows are to be this far apart. */
  levels(reachX: number, reachY: number, pitch: number): Levels;
}

/** Wanted directions on a grid, as double angles: cos 2a, sin 2a times their weight, two numbers a node. */
interface Directions {
  readonly across: number;
  readonly down: number;
  readonly values: Float64Array;
}

const STEP_MM = 2.5;
const SWEEPS = 160;
/** Rounds that follow the wanted directions, and further ones that only even out the distances of rows. */
const ROUNDS = 4;
const EVEN_ROUNDS = 8;
/** Share of the places where rows may lie farther apart than they are to. */
const WIDE_PLACES = 0.01;
/** Rows never climb more steeply than this, in degrees: they run on from side to side. */
const STEEPEST = 48;
const DEGREE = Math.PI / 180;

/** Rows that follow the forms of a picture: they run along its edges, and level where there are none. */
export function formFlow(plate: Plate, angle: number): Flow {
  const u = direction(angle);
  return flowOf((across, down, place) => {
    const values = new Float64Array(across * down * 2);
    const { width, height, scale, data } = plate;
    const light = (x: number, y: number): number => {
      const at = (Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) * 4;
      return Math.sqrt(0.2126 * data[at] + 0.7152 * data[at + 1] + 0.0722 * data[at + 2]);
    };
    const half = Math.round((STEP_MM * scale) / 2);
    const every = 2;
    for (let j = 0; j < down; j++) {
      for (let i = 0; i < across; i++) {
        const [lx, ly] = place(i, j);
        const px = Math.round((lx * u.x - ly * u.y) * scale + width / 2);
        const py = Math.round((lx * u.y + ly * u.x) * scale + height / 2);
        let [xx, xy, yy] = [0, 0, 0];
        for (let y = py - half; y <= py + half; y += every) {
          for (let x = px - half; x <= px + half; x += every) {
            if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) continue;
            const gx = light(x + 1, y) - light(x - 1, y);
            const gy = light(x, y + 1) - light(x, y - 1);
            // The gradient as the lattice sees it.
            const rx = gx * u.x + gy * u.y;
            const ry = gy * u.x - gx * u.y;
            xx += rx * rx;
            xy += rx * ry;
            yy += ry * ry;
          }
        }
        // Rows run across the gradient: its double angle turned by half a turn.
        values[(j * across + i) * 2] = yy - xx;
        values[(j * across + i) * 2 + 1] = -2 * xy;
      }
    }
    evenOut(values);
    return { across, down, values: spread({ across, down, values }, 5, 0.004) };
  });
}

/**
 * Rows that follow lines somebody has drawn.
 * @param strokes lines in mm on the cloth
 * @param midX middle of the lattice
 */
export function drawnFlow(strokes: readonly Points[], angle: number, midX: number, midY: number): Flow {
  const u = direction(angle);
  const parts: { x: number; y: number; c: number; s: number }[] = [];
  for (const stroke of strokes) {
    for (let i = 2; i < stroke.length; i += 2) {
      const place = (k: number): [number, number] => {
        const [x, y] = [stroke[k] - midX, stroke[k + 1] - midY];
        return [x * u.x + y * u.y, y * u.x - x * u.y];
      };
      const [ax, ay] = place(i - 2);
      const [bx, by] = place(i);
      const [dx, dy] = [bx - ax, by - ay];
      const square = dx * dx + dy * dy;
      if (square < 1e-6) continue;
      const length = Math.sqrt(square);
      parts.push({
        x: (ax + bx) / 2,
        y: (ay + by) / 2,
        c: ((dx * dx - dy * dy) / square) * length,
        s: ((2 * dx * dy) / square) * length,
      });
    }
  }
  return flowOf((across, down, place) => {
    const values = new Float64Array(across * down * 2);
    for (let j = 0; j < down; j++) {
      for (let i = 0; i < across; i++) {
        const [x, y] = place(i, j);
        let [c, s] = [0, 0];
        for (const part of parts) {
          const w = 1 / ((part.x - x) ** 2 + (part.y - y) ** 2 + 9) ** 2;
          c += part.c * w;
          s += part.s * w;
        }
        const n = Math.sqrt(c * c + s * s) || 1;
        values[(j * across + i) * 2] = c / n;
        values[(j * across + i) * 2 + 1] = s / n;
      }
    }
    return { across, down, values };
  });
}

/** Strong edges count more than weak ones, but not by as much as they are stronger. */
function evenOut(values: Float64Array): void {
  for (let k = 0; k < values.length; k += 2) {
    const n = Math.sqrt(values[k] * values[k] + values[k + 1] * values[k + 1]);
    const f = n > 0 ? Math.sqrt(n) / n : 0;
    values[k] *= f;
    values[k + 1] *= f;
  }
}

/** Smooths directions over their surroundings; where there are none rows lie level. */
function spread({ across, down, values }: Directions, times: number, level: number): Float64Array {
  let now = values;
  for (let n = 0; n < times; n++) {
    const next = new Float64Array(now.length);
    for (let j = 0; j < down; j++) {
      for (let i = 0; i < across; i++) {
        for (let k = 0; k < 2; k++) {
          let [sum, weight] = [0, 0];
          for (let dj = -1; dj <= 1; dj++) {
            for (let di = -1; di <= 1; di++) {
              const [x, y] = [i + di, j + dj];
              if (x < 0 || y < 0 || x >= across || y >= down) continue;
              const w = (2 - Math.abs(di)) * (2 - Math.abs(dj));
              sum += w * now[(y * across + x) * 2 + k];
              weight += w;
            }
          }
          next[(j * across + i) * 2 + k] = sum / weight;
        }
      }
    }
    now = next;
  }
  return now.map((v, k) => (k % 2 === 0 ? v + level : v));
}

/**
 * Rows from directions: the field whose slope is nearest to the wanted normals (successive over-relaxation, Young 1954), its
 * slope drawn towards one everywhere so that rows keep their distance; rows are its level lines.
 */
function flowOf(
  directionsOn: (across: number, down: number, place: (i: number, j: number) => [number, number]) => Directions,
): Flow {
  return {
    levels(reachX, reachY, pitch) {
      const across = Math.max(3, Math.ceil((2 * reachX) / STEP_MM) + 1);
      const down = Math.max(3, Math.ceil((2 * reachY) / STEP_MM) + 1);
      const place = (i: number, j: number): [number, number] => [i * STEP_MM - reachX, j * STEP_MM - reachY];
      const { values } = directionsOn(across, down, place);
      const normals = new Float64Array(values.length);
      for (let k = 0; k < values.length; k += 2) {
        const a = Math.max(-STEEPEST, Math.min(STEEPEST, Math.atan2(values[k + 1], values[k]) / 2 / DEGREE));
        const d = direction(a);
        normals[k] = -d.y;
        normals[k + 1] = d.x;
      }
      const field = solve(normals, across, down);
      return levelsOf(field, across, down, reachX, reachY, pitch);
    },
  };
}

function solve(normals: Float64Array, across: number, down: number): Float64Array {
  const field = new Float64Array(across * down);
  for (let i = 0; i < field.length; i++) field[i] = Math.floor(i / across) * STEP_MM;
  const goal = normals.slice();
  for (let round = 0; round < ROUNDS + EVEN_ROUNDS; round++) {
    for (let sweep = 0; sweep < SWEEPS; sweep++) relax(field, goal, across, down);
    for (let j = 0; j < down; j++) {
      for (let i = 0; i < across; i++) {
        const at = j * across + i;
        const gx = (field[j * across + Math.min(across - 1, i + 1)] - field[j * across + Math.max(0, i - 1)]) / 2;
        const gy = (field[Math.min(down - 1, j + 1) * across + i] - field[Math.max(0, j - 1) * across + i]) / 2;
        const n = Math.sqrt(gx * gx + gy * gy) || 1;
        // The goal of the next round.
        const follows = round < ROUNDS - 1 ? 1 : 0;
        const x = normals[at * 2] * follows + gx / n;
        const y = normals[at * 2 + 1] * follows + gy / n;
        const m = Math.sqrt(x * x + y * y) || 1;
        goal[at * 2] = x / m;
        goal[at * 2 + 1] = y / m;
      }
    }
  }
  return field;
}

/** One sweep towards the field whose differences are those of the normals. */
function relax(field: Float64Array, goal: Float64Array, across: number, down: number): void {
  for (let j = 0; j < down; j++) {
    for (let i = 0; i < across; i++) {
      const at = j * across + i;
      let [sum, n] = [0, 0];
      const pull = (other: number, part: 0 | 1, sign: number): void => {
        sum += field[other] + (sign * STEP_MM * (goal[at * 2 + part] + goal[other * 2 + part])) / 2;
        n++;
      };
      if (i > 0) pull(at - 1, 0, 1);
      if (i < across - 1) pull(at + 1, 0, -1);
      if (j > 0) pull(at - across, 1, 1);
      if (j < down - 1) pull(at + across, 1, -1);
      field[at] += 1.7 * (sum / n - field[at]);
    }
  }
}

/** Rows at heights where the field reaches whole steps; the steps are such that nearly all rows lie close enough. */
function levelsOf(
  field: Float64Array,
  across: number,
  down: number,
  reachX: number,
  reachY: number,
  pitch: number,
): Levels {
  const slopes: number[] = [];
  for (let j = 1; j < down - 1; j++) {
    for (let i = 1; i < across - 1; i++) {
      const at = j * across + i;
      const gx = (field[at + 1] - field[at - 1]) / (2 * STEP_MM);
      const gy = (field[at + across] - field[at - across]) / (2 * STEP_MM);
      slopes.push(Math.sqrt(gx * gx + gy * gy));
    }
  }
  slopes.sort((a, b) => a - b);
  const low = slopes[Math.floor(slopes.length * WIDE_PLACES)] ?? 1;
  const step = pitch * Math.max(0.72, Math.min(1.05, low));
  const cols = Math.ceil((2 * reachX) / CELL_MM);
  let least = Infinity;
  let most = -Infinity;
  for (const v of field) {
    least = Math.min(least, v);
    most = Math.max(most, v);
  }
  const rows = Math.ceil((most - least) / step);
  const heights = new Float32Array(rows * cols);
  const column = new Float64Array(down);
  for (let c = 0; c < cols; c++) {
    const fx = Math.min(across - 1.001, ((c + 0.5) * CELL_MM) / STEP_MM);
    const i = Math.floor(fx);
    for (let j = 0; j < down; j++) {
      const v = field[j * across + i] * (1 - (fx - i)) + field[j * across + i + 1] * (fx - i);
      // Heights must grow from row to row.
      column[j] = j === 0 ? v : Math.max(v, column[j - 1] + 0.35 * STEP_MM);
    }
    let j = 0;
    for (let r = 0; r < rows; r++) {
      const level = least + (r + 0.5) * step;
      while (j < down - 2 && column[j + 1] < level) j++;
      const slope = (column[j + 1] - column[j]) / STEP_MM;
      heights[r * cols + c] = j * STEP_MM + (level - column[j]) / slope - reachY;
    }
  }
  return { rows, height: (row, col) => heights[row * cols + col] };
}
