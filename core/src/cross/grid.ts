/** A grid of cells over the cloth. */
export interface CellGrid {
  readonly cols: number;
  readonly rows: number;
  readonly cellMm: number;
  /** Left and upper edge in mm. */
  readonly left: number;
  readonly top: number;
}

/** Parts of a cell that one thread fills; their places in the list are what packed cells hold. */
export const PARTS = ['full', 'three-quarter', 'quarter', 'side', 'half'] as const;
/**
 * What a thread sews of a cell. A full cross has both legs; a half one leg; a quarter a short leg from its corner to the
 * middle; a three-quarter one whole leg and the short one at its corner; a side the two short legs of one side.
 */
export type Part = (typeof PARTS)[number];

/** What a thread sews in one cell: legs from corner to corner, or from a corner to the middle. */
export interface Cross {
  readonly cell: number;
  readonly thread: number;
  readonly part: Part;
  /**
   * Corner the part belongs to: 0 upper left, 1 upper right, 2 lower right, 3 lower left. A side begins there and goes on
   * clockwise; a half begins there and ends at the opposite corner.
   */
  readonly corner: number;
}

/** Lays a grid of cells over a box, in its middle; as many as fit, and one at least. */
export function cellGrid(box: { left: number; top: number; width: number; height: number }, cellMm: number): CellGrid {
  const cols = Math.max(1, Math.round(box.width / cellMm));
  const rows = Math.max(1, Math.round(box.height / cellMm));
  return {
    cols,
    rows,
    cellMm,
    left: box.left + (box.width - cols * cellMm) / 2,
    top: box.top + (box.height - rows * cellMm) / 2,
  };
}

/** Most threads a packed cell can tell apart. */
export const MOST_GRID_THREADS = 250;

/**
 * Every cell in one number, so that a large grid is copied, compared and moved quickly: two halves of 16 bits, each a
 * thread (from 1; 0 is nothing) times 32, and a part times 4 and its corner. A cell holds two parts at most.
 */
export type PackedCells = Uint32Array;

export function packPart({ thread, part, corner }: Omit<Cross, 'cell'>): number {
  return ((thread + 1) << 5) | (PARTS.indexOf(part) << 2) | corner;
}

export function packCell(parts: readonly Omit<Cross, 'cell'>[]): number {
  const [first, second] = parts;
  if (!first) return 0;
  return (packPart(first) | (second ? packPart(second) << 16 : 0)) >>> 0;
}

function unpackPart(half: number): Omit<Cross, 'cell'> {
  return { thread: (half >>> 5) - 1, part: PARTS[(half >>> 2) & 7], corner: half & 3 };
}

/** The parts of a packed cell, none for a bare one. */
export function unpackCell(code: number): Omit<Cross, 'cell'>[] {
  const [first, second] = [code & 0xffff, code >>> 16];
  if (first === 0) return second === 0 ? [] : [unpackPart(second)];
  return second === 0 ? [unpackPart(first)] : [unpackPart(first), unpackPart(second)];
}

/** Whether a number is a packed cell whose threads are below a limit. */
export function isPackedCell(code: unknown, threads: number): code is number {
  if (typeof code !== 'number' || !Number.isInteger(code) || code < 0 || code > 0xffffffff) return false;
  return [code & 0xffff, code >>> 16].every(
    (half) => half === 0 || ((half >>> 5) - 1 < threads && half >>> 5 > 0 && ((half >>> 2) & 7) < PARTS.length),
  );
}

/** A packed cell with its threads counted anew. */
export function withThreads(code: number, threadOf: (thread: number) => number): number {
  const half = (bits: number): number => (bits === 0 ? 0 : ((threadOf((bits >>> 5) - 1) + 1) << 5) | (bits & 31));
  return (half(code & 0xffff) | (half(code >>> 16) << 16)) >>> 0;
}

export function packCells(grid: CellGrid, crosses: readonly Cross[]): PackedCells {
  const cells = new Uint32Array(grid.cols * grid.rows);
  for (const cross of crosses) {
    const code = cells[cross.cell];
    cells[cross.cell] = (code === 0 ? packPart(cross) : (code & 0xffff) | (packPart(cross) << 16)) >>> 0;
  }
  return cells;
}

export function unpackCells(cells: PackedCells): Cross[] {
  const out: Cross[] = [];
  for (let cell = 0; cell < cells.length; cell++) {
    if (cells[cell] === 0) continue;
    for (const part of unpackCell(cells[cell])) out.push({ cell, ...part });
  }
  return out;
}

/** Octant of a place around the middle, clockwise from the one right of straight up. */
export function octantAt(x: number, y: number): number {
  if (y < 0) {
    if (x >= 0) return x < -y ? 0 : 1;
    return -x < -y ? 7 : 6;
  }
  if (x >= 0) return x > y ? 2 : 3;
  return -x > y ? 5 : 4;
}

const EVERY_OCTANT = 0xff;
const bits = (...octants: readonly number[]): number => octants.reduce((sum, k) => sum | (1 << k), 0);
/** The half of a cell on the side of a corner, as octants clockwise from the one right of straight up. */
const TRIANGLE = [bits(5, 6, 7, 0), bits(7, 0, 1, 2), bits(1, 2, 3, 4), bits(3, 4, 5, 6)];
const SIDE = [bits(6, 7, 0, 1), bits(0, 1, 2, 3), bits(2, 3, 4, 5), bits(4, 5, 6, 7)];

/** Octants of a cell that a part is seen to fill. */
export function octantsOfPart(part: Part, corner: number): number {
  if (part === 'full' || part === 'half') return EVERY_OCTANT;
  return part === 'side' ? SIDE[corner] : TRIANGLE[corner];
}

/** Thread that is seen in an octant of a packed cell, -1 for none. */
export function threadAtOctant(code: number, octant: number): number {
  for (const { thread, part, corner } of unpackCell(code)) {
    if ((octantsOfPart(part, corner) >> octant) & 1) return thread;
  }
  return -1;
}
