import { latticeStride, stepBetween } from './back-stitch.js';
import { octantsOfPart, threadAtOctant, unpackCell, type CellGrid, type PackedCells } from './grid.js';

/** Where the edge between two octants beside each other lies in a cell, as steps in half cells: x, y, x, y. */
const SPOKES: readonly (readonly [number, number, number, number])[] = [
  [1, 1, 1, 0],
  [1, 1, 2, 0],
  [1, 1, 2, 1],
  [1, 1, 2, 2],
  [1, 1, 1, 2],
  [1, 1, 0, 2],
  [1, 1, 0, 1],
  [1, 1, 0, 0],
];

/**
 * Back stitches along edges between threads that differ enough, over the cells as they are sewn, so that they follow part
 * crosses too. The thread is the darker of the two.
 * @param difference how much two threads differ; -1 is the cloth
 * @param lightness of each thread; the darker one outlines
 */
export function strongEdges(
  grid: CellGrid,
  cells: PackedCells,
  least: number,
  difference: (a: number, b: number) => number,
  lightness: readonly number[],
): Map<number, number> {
  const { cols, rows } = grid;
  const stride = latticeStride(grid);
  const out = new Map<number, number>();
  const memo = new Map<number, boolean>();
  const isStrong = (a: number, b: number): boolean => {
    const key = (Math.min(a, b) + 1) * 1024 + Math.max(a, b) + 1;
    let strong = memo.get(key);
    if (strong === undefined) memo.set(key, (strong = difference(a, b) >= least));
    return strong;
  };
  const mark = (a: number, b: number, x0: number, y0: number, x1: number, y1: number): void => {
    if (a === b || !isStrong(a, b)) return;
    const step = stepBetween(stride, x0, y0, x1, y1);
    const thread = a < 0 ? b : b < 0 ? a : lightness[a] <= lightness[b] ? a : b;
    if (step !== undefined) out.set(step, thread);
  };
  const at = (x: number, y: number, octant: number): number =>
    x < 0 || y < 0 || x >= cols || y >= rows ? -1 : threadAtOctant(cells[y * cols + x], octant);
  for (let y = 0; y <= rows; y++) {
    for (let x = 0; x <= cols; x++) {
      // The upper edge of the cell, left half and right half, then its left edge.
      if (x < cols) {
        mark(at(x, y, 7), at(x, y - 1, 4), x * 2, y * 2, x * 2 + 1, y * 2);
        mark(at(x, y, 0), at(x, y - 1, 3), x * 2 + 1, y * 2, x * 2 + 2, y * 2);
      }
      if (y < rows) {
        mark(at(x, y, 6), at(x - 1, y, 1), x * 2, y * 2, x * 2, y * 2 + 1);
        mark(at(x, y, 5), at(x - 1, y, 2), x * 2, y * 2 + 1, x * 2, y * 2 + 2);
      }
      if (x === cols || y === rows) continue;
      const parts = unpackCell(cells[y * cols + x]);
      if (parts.every(({ part, corner }) => octantsOfPart(part, corner) === 0xff)) continue;
      for (let octant = 0; octant < 8; octant++) {
        const [x0, y0, x1, y1] = SPOKES[octant];
        mark(at(x, y, (octant + 7) % 8), at(x, y, octant), x * 2 + x0, y * 2 + y0, x * 2 + x1, y * 2 + y1);
      }
    }
  }
  return out;
}
