import { endsOfStep, latticeStride, stepBetween } from './back-stitch.js';
import { packCell, unpackCell, type CellGrid, type Cross } from './grid.js';
import type { StitchedGrid } from './grid-edits.js';

/** A block of cells: its left upper cell, and how many there are across and down. */
export interface CellBlock {
  readonly x: number;
  readonly y: number;
  readonly cols: number;
  readonly rows: number;
}

/** A block taken out of a grid: its cells row by row, and back stitches with steps counted on its own lattice. */
export interface CellPatch extends StitchedGrid {
  readonly cols: number;
  readonly rows: number;
}

type Size = Pick<CellGrid, 'cols' | 'rows'>;

/** Takes a block out of a grid; back stitches on its edges belong to it. */
export function takeBlock(grid: Size, from: StitchedGrid, block: CellBlock): CellPatch {
  const cells = new Uint32Array(block.cols * block.rows);
  for (let y = 0; y < block.rows; y++) {
    for (let x = 0; x < block.cols; x++) {
      const [gx, gy] = [block.x + x, block.y + y];
      if (gx >= 0 && gy >= 0 && gx < grid.cols && gy < grid.rows) {
        cells[y * block.cols + x] = from.cells[gy * grid.cols + gx];
      }
    }
  }
  const backs = new Map<number, number>();
  const stride = latticeStride(grid);
  for (const [step, thread] of from.backs) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    const own = stepInside(block, x0 - block.x * 2, y0 - block.y * 2, x1 - block.x * 2, y1 - block.y * 2);
    if (own !== undefined) backs.set(own, thread);
  }
  return { cols: block.cols, rows: block.rows, cells, backs };
}

/** The step between two places, if both lie in a block. */
function stepInside({ cols, rows }: Size, x0: number, y0: number, x1: number, y1: number): number | undefined {
  const inside = (x: number, y: number): boolean => x >= 0 && y >= 0 && x <= cols * 2 && y <= rows * 2;
  return inside(x0, y0) && inside(x1, y1) ? stepBetween(latticeStride({ cols }), x0, y0, x1, y1) : undefined;
}

/** Makes a block bare, in place. */
export function clearBlock(grid: Size, on: { cells: Uint32Array; backs: Map<number, number> }, block: CellBlock): void {
  for (let y = block.y; y < block.y + block.rows; y++) {
    for (let x = block.x; x < block.x + block.cols; x++) {
      if (x >= 0 && y >= 0 && x < grid.cols && y < grid.rows) on.cells[y * grid.cols + x] = 0;
    }
  }
  const stride = latticeStride(grid);
  for (const step of [...on.backs.keys()]) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    if (stepInside(block, x0 - block.x * 2, y0 - block.y * 2, x1 - block.x * 2, y1 - block.y * 2) !== undefined) {
      on.backs.delete(step);
    }
  }
}

/** Lays a patch onto a grid, in place; its bare cells change nothing unless `solid`. */
export function layPatch(
  grid: Size,
  on: { cells: Uint32Array; backs: Map<number, number> },
  patch: CellPatch,
  left: number,
  top: number,
  solid = false,
): void {
  for (let y = 0; y < patch.rows; y++) {
    for (let x = 0; x < patch.cols; x++) {
      const code = patch.cells[y * patch.cols + x];
      const [gx, gy] = [left + x, top + y];
      if ((code === 0 && !solid) || gx < 0 || gy < 0 || gx >= grid.cols || gy >= grid.rows) continue;
      on.cells[gy * grid.cols + gx] = code;
    }
  }
  const stride = latticeStride(patch);
  for (const [step, thread] of patch.backs) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    const to = stepInside(grid, x0 + left * 2, y0 + top * 2, x1 + left * 2, y1 + top * 2);
    if (to !== undefined) on.backs.set(to, thread);
  }
}

/** Ways a patch is turned over or round. */
export type Turning = 'mirror' | 'flip' | 'turn';

/** A patch mirrored left to right, flipped upside down, or turned a quarter clockwise. */
export function turnPatch(patch: CellPatch, how: Turning): CellPatch {
  const { cols, rows } = patch;
  const [newCols, newRows] = how === 'turn' ? [rows, cols] : [cols, rows];
  const cells = new Uint32Array(cols * rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < cols; x++) {
      const [nx, ny] = how === 'mirror' ? [cols - 1 - x, y] : how === 'flip' ? [x, rows - 1 - y] : [rows - 1 - y, x];
      const parts = unpackCell(patch.cells[y * cols + x]).map((part) => turnPart(part, how));
      cells[ny * newCols + nx] = packCell(parts);
    }
  }
  const place = (x: number, y: number): readonly [number, number] =>
    how === 'mirror' ? [cols * 2 - x, y] : how === 'flip' ? [x, rows * 2 - y] : [rows * 2 - y, x];
  const backs = new Map<number, number>();
  for (const [step, thread] of patch.backs) {
    const [x0, y0, x1, y1] = endsOfStep(latticeStride(patch), step);
    const to = stepBetween(latticeStride({ cols: newCols }), ...place(x0, y0), ...place(x1, y1));
    if (to !== undefined) backs.set(to, thread);
  }
  return { cols: newCols, rows: newRows, cells, backs };
}

function turnPart({ thread, part, corner }: Omit<Cross, 'cell'>, how: Turning): Omit<Cross, 'cell'> {
  if (part === 'full') return { thread, part, corner };
  if (how === 'turn') return { thread, part, corner: (corner + 1) % 4 };
  const mirrored = how === 'mirror' ? [1, 0, 3, 2][corner] : [3, 2, 1, 0][corner];
  // A side begins at one of its corners and goes on clockwise: over the mirror it begins at the other.
  return { thread, part, corner: part === 'side' ? (mirrored + 3) % 4 : mirrored };
}

/**
 * Places of a patch repeated around the edge of a grid: along the top as it is, turned by a quarter on each side that
 * follows, so that its upper edge always points outwards. Gaps between are as even as whole cells allow.
 */
export function borderPlaces(grid: Size, patch: Size): readonly { x: number; y: number; turns: number }[] {
  const out: { x: number; y: number; turns: number }[] = [];
  const deep = Math.max(patch.rows, 1);
  const along = (length: number): number[] => {
    // Corners belong to the side that begins there.
    const room = length - deep;
    const count = Math.floor(room / patch.cols);
    return Array.from(
      { length: count },
      (_, k) => Math.round(((room - count * patch.cols) * (k + 0.5)) / count) + k * patch.cols,
    );
  };
  for (const at of along(grid.cols)) {
    out.push({ x: at, y: 0, turns: 0 });
    out.push({ x: grid.cols - at - patch.cols, y: grid.rows - patch.rows, turns: 2 });
  }
  for (const at of along(grid.rows)) {
    out.push({ x: grid.cols - patch.rows, y: at, turns: 1 });
    out.push({ x: 0, y: grid.rows - at - patch.cols, turns: 3 });
  }
  return out;
}

/** Repeats a patch around the edge of a grid, in place. */
export function layBorder(
  grid: Size,
  on: { cells: Uint32Array; backs: Map<number, number> },
  patch: CellPatch,
): number {
  const turned: CellPatch[] = [patch];
  for (let k = 1; k < 4; k++) turned.push(turnPatch(turned[k - 1], 'turn'));
  const places = borderPlaces(grid, patch);
  for (const { x, y, turns } of places) layPatch(grid, on, turned[turns], x, y);
  return places.length;
}

/** Cells of the same content that hang together by their edges, from one on. */
export function floodCells({ cols, rows }: Size, cells: Uint32Array, start: number): number[] {
  const code = cells[start];
  const seen = new Uint8Array(cells.length);
  const out = [start];
  seen[start] = 1;
  // The list grows while it is gone through.
  for (const cell of out) {
    const x = cell % cols;
    const y = (cell - x) / cols;
    for (const [nx, ny] of [
      [x + 1, y],
      [x - 1, y],
      [x, y + 1],
      [x, y - 1],
    ]) {
      if (nx < 0 || ny < 0 || nx >= cols || ny >= rows) continue;
      const next = ny * cols + nx;
      if (seen[next] || cells[next] !== code) continue;
      seen[next] = 1;
      out.push(next);
    }
  }
  return out;
}
