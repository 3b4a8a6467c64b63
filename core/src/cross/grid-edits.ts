import { endsOfStep, latticeStride, stepBetween, type BackStitches } from './back-stitch.js';
import { withThreads, type CellGrid, type PackedCells } from './grid.js';

/** One change by hand: what cells become, and back stitches drawn or taken away. */
export interface GridEdit {
  /** Packed cells and where they go: first cell and number of cells, in turn. Their threads count the list beside. */
  readonly cells: readonly { readonly put: number; readonly runs: readonly number[] }[];
  /** Steps of the half-cell lattice that a thread of the list is laid along; -1 takes them away. */
  readonly backs: readonly { readonly thread: number; readonly steps: readonly number[] }[];
}

/** Changes by hand of a grid, in the order they were made, and the grid they were made on. */
export interface GridEdits {
  readonly cols: number;
  readonly rows: number;
  readonly cellMm: number;
  /** Threads the changes name: a colour takes the nearest thread of the design, one of a chart is just that. */
  readonly threads: readonly ({ readonly hex: string } | { readonly chart: string; readonly code: string })[];
  readonly edits: readonly GridEdit[];
}

/** A grid as it is sewn: packed cells, and the thread of each step that is back stitched. */
export interface StitchedGrid {
  readonly cells: PackedCells;
  readonly backs: BackStitches;
}

/** Value of cells nobody touched, while changes are put together; no packed cell has it. */
const UNTOUCHED = 0xffffffff;

/** Whether changes were made on just this grid. */
export const isSameGrid = (a: Pick<CellGrid, 'cols' | 'rows'>, b: Pick<CellGrid, 'cols' | 'rows'>): boolean =>
  a.cols === b.cols && a.rows === b.rows;

/**
 * Carries changes out.
 * @param threadOf thread of the design for each thread the changes name
 */
export function applyEdits(base: StitchedGrid, edits: readonly GridEdit[], threadOf: readonly number[]): StitchedGrid {
  const cells = base.cells.slice();
  const backs = new Map(base.backs);
  for (const edit of edits) {
    for (const { put, runs } of edit.cells) {
      const code = withThreads(put, (thread) => threadOf[thread]);
      for (let i = 0; i + 1 < runs.length; i += 2) cells.fill(code, runs[i], runs[i] + runs[i + 1]);
    }
    for (const { thread, steps } of edit.backs) {
      for (const step of steps) {
        if (thread < 0) backs.delete(step);
        else backs.set(step, threadOf[thread]);
      }
    }
  }
  return { cells, backs };
}

/**
 * What leads from one grid to another, as one change.
 * @param nameOf place in the changes' list of a thread of the design
 * @param within cells that may differ, where that is known: the others are not looked at
 */
export function editBetween(
  before: StitchedGrid,
  after: StitchedGrid,
  nameOf: (thread: number) => number,
  within?: ReadonlySet<number>,
): GridEdit {
  const [now, then] = [after.cells, before.cells];
  const changed: number[] = [];
  if (within) {
    for (const i of within) if (now[i] !== then[i]) changed.push(i);
    changed.sort((a, b) => a - b);
  } else {
    for (let i = 0; i < now.length; i++) if (now[i] !== then[i]) changed.push(i);
  }
  const backs = new Map<number, number>();
  for (const [step, thread] of after.backs) if (before.backs.get(step) !== thread) backs.set(step, thread);
  for (const step of before.backs.keys()) if (!after.backs.has(step)) backs.set(step, -1);
  const edit = editOf(changed, now, backs);
  return {
    cells: edit.cells.map(({ put, runs }) => ({ put: withThreads(put, nameOf), runs })),
    backs: edit.backs.map(({ thread, steps }) => ({ thread: thread < 0 ? -1 : nameOf(thread), steps })),
  };
}

export const isNoEdit = ({ cells, backs }: GridEdit): boolean => cells.length === 0 && backs.length === 0;

/** All changes as one: the last of each cell and each step. */
export function mergeEdits({ cols, rows, edits }: Pick<GridEdits, 'cols' | 'rows' | 'edits'>): GridEdit {
  const cells = new Uint32Array(cols * rows).fill(UNTOUCHED);
  const backs = new Map<number, number>();
  for (const edit of edits) {
    for (const { put, runs } of edit.cells) {
      for (let i = 0; i + 1 < runs.length; i += 2) cells.fill(put, runs[i], runs[i] + runs[i + 1]);
    }
    for (const { thread, steps } of edit.backs) for (const step of steps) backs.set(step, thread);
  }
  return editOf(touchedOf(cells), cells, backs);
}

/** Cells that somebody touched, in their order. */
function touchedOf(cells: PackedCells): number[] {
  const touched: number[] = [];
  for (let i = 0; i < cells.length; i++) if (cells[i] !== UNTOUCHED) touched.push(i);
  return touched;
}

/** @param changed cells that become what `cells` has, in their order */
function editOf(changed: readonly number[], cells: PackedCells, backs: ReadonlyMap<number, number>): GridEdit {
  const runsOf = new Map<number, number[]>();
  for (const i of changed) {
    const put = cells[i];
    let runs = runsOf.get(put);
    if (!runs) runsOf.set(put, (runs = []));
    if (runs.length > 0 && runs[runs.length - 2] + runs[runs.length - 1] === i) runs[runs.length - 1]++;
    else runs.push(i, 1);
  }
  const stepsOf = new Map<number, number[]>();
  for (const [step, thread] of backs) {
    const steps = stepsOf.get(thread);
    if (steps) steps.push(step);
    else stepsOf.set(thread, [step]);
  }
  return {
    cells: [...runsOf].map(([put, runs]) => ({ put, runs })),
    backs: [...stepsOf].map(([thread, steps]) => ({ thread, steps })),
  };
}

/**
 * Carries changes over to another grid of the same picture: each cell takes the change of the cell its middle lies in, each
 * back stitch goes to the nearest places.
 */
export function carryEdits(edits: GridEdits, grid: CellGrid): GridEdits {
  const { cols, rows, cellMm } = grid;
  if (isSameGrid(edits, grid)) return edits;
  const all = mergeEdits(edits);
  const old = new Uint32Array(edits.cols * edits.rows).fill(UNTOUCHED);
  for (const { put, runs } of all.cells) {
    for (let i = 0; i + 1 < runs.length; i += 2) old.fill(put, runs[i], runs[i] + runs[i + 1]);
  }
  const cells = new Uint32Array(cols * rows).fill(UNTOUCHED);
  for (let y = 0; y < rows; y++) {
    const from = Math.min(edits.rows - 1, Math.floor(((y + 0.5) / rows) * edits.rows));
    for (let x = 0; x < cols; x++) {
      const over = Math.min(edits.cols - 1, Math.floor(((x + 0.5) / cols) * edits.cols));
      cells[y * cols + x] = old[from * edits.cols + over];
    }
  }
  const backs = new Map<number, number>();
  for (const { thread, steps } of all.backs) {
    for (const step of steps) for (const to of carriedSteps(step, edits, grid)) backs.set(to, thread);
  }
  return { cols, rows, cellMm, threads: edits.threads, edits: [editOf(touchedOf(cells), cells, backs)] };
}

/** Steps of a grid that lie where a step of another did: by diagonals as far as they lead, then straight. */
function carriedSteps(step: number, from: GridEdits, { cols, rows }: CellGrid): number[] {
  const [x0, y0, x1, y1] = endsOfStep(latticeStride(from), step);
  const scale = (v: number, old: number, now: number): number => Math.round((v / old) * now);
  let [x, y] = [scale(x0, from.cols, cols), scale(y0, from.rows, rows)];
  const [endX, endY] = [scale(x1, from.cols, cols), scale(y1, from.rows, rows)];
  const out: number[] = [];
  while (x !== endX || y !== endY) {
    const [nextX, nextY] = [x + Math.sign(endX - x), y + Math.sign(endY - y)];
    const between = stepBetween(latticeStride({ cols }), x, y, nextX, nextY);
    if (between !== undefined) out.push(between);
    [x, y] = [nextX, nextY];
  }
  return out;
}
