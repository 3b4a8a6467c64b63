import { clipLine } from '../geometry/clip-line.js';
import { lengthOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { maskOfRings } from '../trace/area-mask.js';
import { createInsideTest } from '../trace/inside-test.js';
import type { Linked } from './cells.js';
import { levelLines, valueAt, type Field } from './level-lines.js';

/** One row of a fill whose rows bend, and what it is connected to. */
export interface CurvedRow extends Linked {
  readonly row: number;
  readonly points: Points;
  readonly closed: boolean;
}

/** Rows shorter than this are left to their neighbours. */
const LEAST_ROW_MM = 0.5;
/** Pixels to the millimetre at which connections are looked for. */
const LINK_SCALE = 8;

/**
 * Rows of a shape along the level lines of a field whose unit is one row.
 * @param field covers the shape and a little more
 * @param isKept whether a row is sewn at a place; everywhere unless given
 */
export function curvedRows(
  rings: readonly Points[],
  field: Field,
  isKept?: (row: number, x: number, y: number) => boolean,
): CurvedRow[] {
  const rows: { row: number; points: Points; closed: boolean }[] = [];
  const isIn = createInsideTest(rings);
  for (const [row, lines] of levelLines(field)) {
    for (const { points, closed } of lines) {
      const inShape = (x: number, y: number): boolean => isIn(x, y) && (isKept === undefined || isKept(row, x, y));
      for (const part of clipLine(inShape, points, closed)) {
        if (lengthOf(part.points) >= LEAST_ROW_MM) rows.push({ row, ...part });
      }
    }
  }
  return linkRows(rings, field, rows);
}

/** Finds which rows lie beside each other: bands between the lines, painted, that touch inside the shape. */
function linkRows(
  rings: readonly Points[],
  field: Field,
  rows: readonly { row: number; points: Points; closed: boolean }[],
): CurvedRow[] {
  const mask = maskOfRings(rings, LINK_SCALE);
  const { width, height, inside, left, top, scale } = mask;
  const band = new Int32Array(width * height);
  for (let i = 0; i < band.length; i++) {
    if (!inside[i]) continue;
    const x = left + ((i % width) + 0.5) / scale;
    const y = top + (Math.floor(i / width) + 0.5) / scale;
    band[i] = Math.floor(valueAt(field, x, y));
  }
  const { of, count } = bandsOf(band, inside, width, height);
  const touching = Array.from({ length: count }, () => new Set<number>());
  for (let i = 0; i < of.length; i++) {
    if (of[i] < 0) continue;
    for (const other of [(i + 1) % width === 0 ? -1 : i + 1, i + width < of.length ? i + width : -1]) {
      if (other < 0 || of[other] < 0 || of[other] === of[i]) continue;
      touching[of[i]].add(of[other]);
      touching[of[other]].add(of[i]);
    }
  }
  const rowsOf = Array.from({ length: count }, (): number[] => []);
  rows.forEach(({ points }, id) => {
    const component = componentOf(points, of, width, height, left, top, scale);
    if (component >= 0) rowsOf[component].push(id);
  });
  const out = rows.map((row) => ({ ...row, above: [] as number[], below: [] as number[], beside: [] as number[] }));
  const link = (a: number, b: number): void => {
    const list = rows[b].row < rows[a].row ? out[a].above : rows[b].row > rows[a].row ? out[a].below : out[a].beside;
    if (a !== b && !list.includes(b)) list.push(b);
  };
  rowsOf.forEach((own, component) => {
    // Bands without a row of their own only lead on.
    const seen = new Set([component]);
    const reach: number[] = [];
    const queue = [component];
    for (const at of queue) {
      for (const other of touching[at]) {
        if (seen.has(other)) continue;
        seen.add(other);
        if (rowsOf[other].length > 0) reach.push(...rowsOf[other]);
        else queue.push(other);
      }
    }
    for (const a of own) {
      for (const b of own) link(a, b);
      for (const b of reach) link(a, b);
    }
  });
  return out;
}

/** The band most points of a row lie in. */
function componentOf(
  points: Points,
  of: Int32Array,
  width: number,
  height: number,
  left: number,
  top: number,
  scale: number,
): number {
  const n = points.length / 2;
  const votes = new Map<number, number>();
  for (let k = 0; k < 9; k++) {
    const i = Math.floor(((k + 0.5) / 9) * n);
    const x = Math.floor((points[i * 2] - left) * scale);
    const y = Math.floor((points[i * 2 + 1] - top) * scale);
    if (x < 0 || y < 0 || x >= width || y >= height) continue;
    const component = of[y * width + x];
    if (component >= 0) votes.set(component, (votes.get(component) ?? 0) + 1);
  }
  let best = -1;
  let most = 0;
  for (const [component, count] of votes) if (count > most) [best, most] = [component, count];
  return best;
}

/** Connected pixels of one band. */
function bandsOf(
  band: Int32Array,
  inside: Uint8Array,
  width: number,
  height: number,
): { of: Int32Array; count: number } {
  const of = new Int32Array(width * height).fill(-1);
  let count = 0;
  const stack: number[] = [];
  for (let start = 0; start < of.length; start++) {
    if (!inside[start] || of[start] >= 0) continue;
    of[start] = count;
    stack.push(start);
    while (stack.length > 0) {
      const i = stack.pop() as number;
      // The mask has a frame of its own: no neighbour of a pixel inside is beyond it.
      for (const j of [i - 1, i + 1, i - width, i + width]) {
        if (inside[j] && of[j] < 0 && band[j] === band[i]) {
          of[j] = count;
          stack.push(j);
        }
      }
    }
    count++;
  }
  return { of, count };
}
