import type { BackStitches } from './back-stitch.js';
import type { CellGrid, PackedCells } from './grid.js';
import type { StitchedGrid } from './grid-edits.js';

/** The grid of a design as it can be shown, edited and printed. */
export interface GridChart extends StitchedGrid {
  readonly grid: CellGrid;
  /** Cells and back stitches as the picture gave them, before changes by hand. */
  readonly base: StitchedGrid;
  /** Thread of the design for each thread that changes by hand name. */
  readonly threadOfEdits: readonly number[];
  /** The changes by hand were made on a grid of another size and are carried over. */
  readonly carried: boolean;
}

/** What is counted of one thread of a chart. */
export interface ThreadCount {
  readonly thread: number;
  readonly cells: number;
  /** Parts of cells other than full crosses. */
  readonly parts: number;
  readonly backStitchMm: number;
}

/** Cells, part crosses and back stitches of every thread that has any, in thread order. */
export function countThreads(grid: CellGrid, cells: PackedCells, backs: BackStitches, threads: number): ThreadCount[] {
  const full = new Uint32Array(threads);
  const parts = new Uint32Array(threads);
  const lengths = new Float64Array(threads);
  // Cells are counted by what lies on them first: there are far fewer kinds of that than cells.
  const alike = new Uint32Array((threads + 1) << 5);
  for (const code of cells) {
    alike[code & 0xffff]++;
    if (code > 0xffff) alike[code >>> 16]++;
  }
  for (let half = 1; half < alike.length; half++) {
    if (alike[half] === 0) continue;
    if (((half >>> 2) & 7) === 0) full[(half >>> 5) - 1] += alike[half];
    else parts[(half >>> 5) - 1] += alike[half];
  }
  // A step is half a cell long, or half a diagonal.
  for (const [step, thread] of backs) lengths[thread] += (grid.cellMm / 2) * (step % 2 === 1 ? Math.SQRT2 : 1);
  const out: ThreadCount[] = [];
  for (let thread = 0; thread < threads; thread++) {
    const count = { thread, cells: full[thread], parts: parts[thread], backStitchMm: lengths[thread] };
    if (count.cells + count.parts > 0 || count.backStitchMm > 0) out.push(count);
  }
  return out;
}
