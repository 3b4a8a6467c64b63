import { array, lazy, mixed, object, string, ValidationError } from 'yup';
import type { Design } from '../design/design.js';
import { figuresOf } from '../sequence/figures.js';
import { countThreads, type ThreadCount } from '../cross/grid-chart.js';
import { isStep } from '../cross/back-stitch.js';
import { isPackedCell, MOST_GRID_THREADS } from '../cross/grid.js';
import type { StitchedGrid } from '../cross/grid-edits.js';
import { gridSides, gridSizeOf, hex, measure, text, type GridSize } from '../settings/fields.js';

/** A thread of a chart, with what it needs. */
export interface PrintedThread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
  readonly lengthM: number;
}

/** A grid as it is handed over for printing. */
export interface PrintedGrid {
  readonly name: string;
  readonly cols: number;
  readonly rows: number;
  readonly cellMm: number;
  readonly clothHex: string;
  readonly threads: readonly PrintedThread[];
  /** Packed cells row by row: a cell, and how often it follows. */
  readonly cells: readonly number[];
  /** Back stitches: a step of the half-cell lattice and its thread, in turn. */
  readonly backs: readonly number[];
}

/**
 * The grid of a design, ready to be printed.
 * @param object the picture it is of; the lowest with a grid where none is named
 * @throws RangeError for a design that is not sewn on a grid
 */
export function printedGridOf(design: Design, name: string, object?: string): PrintedGrid {
  const picture = design.pictures.find(({ chart: own, object: id }) => own && (object === undefined || id === object));
  const chart = picture?.chart;
  if (!picture || !chart) throw new RangeError('chart: the design is not made of counted crosses');
  const figures = figuresOf(design.stitches, design.threads.length);
  const cells: number[] = [];
  for (const code of chart.cells) {
    if (cells.length > 0 && cells[cells.length - 2] === code) cells[cells.length - 1]++;
    else cells.push(code, 1);
  }
  const { cols, rows, cellMm } = chart.grid;
  return {
    name,
    cols,
    rows,
    cellMm,
    clothHex: design.fabric.hex,
    threads: picture.threads.map((i) => {
      const { code, name: called, hex } = design.threads[i];
      return { code, name: called, hex, lengthM: figures.threads[i].lengthM };
    }),
    cells,
    backs: [...chart.backs].flat(),
  };
}

/** Cells and back stitches of a chart that was handed over, and what is counted of each thread. */
export function readPrintedGrid(file: PrintedGrid): StitchedGrid & { readonly counts: readonly ThreadCount[] } {
  const cells = new Uint32Array(file.cols * file.rows);
  let at = 0;
  for (let i = 0; i + 1 < file.cells.length; i += 2) {
    cells.fill(file.cells[i], at, at + file.cells[i + 1]);
    at += file.cells[i + 1];
  }
  const backs = new Map<number, number>();
  for (let i = 0; i + 1 < file.backs.length; i += 2) backs.set(file.backs[i], file.backs[i + 1]);
  const grid = { cols: file.cols, rows: file.rows, cellMm: file.cellMm, left: 0, top: 0 };
  return { cells, backs, counts: countThreads(grid, cells, backs, file.threads.length) };
}

const UNKNOWN = 'a chart has no "${unknown}"';

/** Packed cells and how often each follows; checked as a whole, since they may be many. */
const cellRuns = (size: GridSize | undefined, threads: number) =>
  mixed<number[]>()
    .required()
    .test('cells', 'its cells must be pairs of a cell and how often it follows', (value: unknown, context) => {
      if (!Array.isArray(value) || value.length % 2 !== 0) return false;
      let sum = 0;
      for (let i = 0; i < value.length; i += 2) {
        if (!isPackedCell(value[i], threads) || !Number.isInteger(value[i + 1]) || Number(value[i + 1]) < 1)
          return false;
        sum += Number(value[i + 1]);
      }
      const cells = size ? size.cols * size.rows : sum;
      return sum === cells || context.createError({ message: `it must have ${cells} cells, got ${sum}` });
    });

const backRuns = (size: GridSize | undefined, threads: number) =>
  mixed<number[]>()
    .required()
    .test('backs', 'a back stitch must be a step and its thread', (value: unknown) => {
      if (!Array.isArray(value) || value.length % 2 !== 0) return false;
      return value.every((v: unknown, i) =>
        i % 2 === 0 ? !size || isStep(size, Number(v)) : Number.isInteger(v) && Number(v) >= 0 && Number(v) < threads,
      );
    });

const thread = object({
  code: text('the code of a thread'),
  name: text('the name of a thread', 200),
  hex: hex('the colour of a thread'),
  lengthM: measure('the length of a thread', 0, 1e6),
}).noUnknown(UNKNOWN);

const chartSchema = lazy((value: unknown) => {
  const size = gridSizeOf(value);
  const { threads } = (value ?? {}) as Partial<PrintedGrid>;
  const count = Array.isArray(threads) ? threads.length : MOST_GRID_THREADS;
  return object({
    name: string().strict(true).defined('it must have a name').max(200, 'its name must have at most 200 characters'),
    ...gridSides('its'),
    clothHex: hex('its cloth'),
    threads: array(thread).required().max(MOST_GRID_THREADS, `it may have ${MOST_GRID_THREADS} threads at most`),
    cells: cellRuns(size, count),
    backs: backRuns(size, count),
  })
    .required('it must be an object')
    .noUnknown(UNKNOWN);
});

/**
 * Checks a chart that was handed over.
 * @throws RangeError that says what is wrong
 */
export function parsePrintedGrid(value: unknown): PrintedGrid {
  try {
    return chartSchema.validateSync(value, { strict: true });
  } catch (error) {
    throw error instanceof ValidationError ? new RangeError(`chart: ${error.message}`) : error;
  }
}
