import type { Design } from '../design/design.js';
import { figuresOf } from '../sequence/figures.js';
import { countThreads, type ThreadCount } from '../cross/grid-chart.js';
import { isStep } from '../cross/back-stitch.js';
import { isPackedCell, MOST_GRID_THREADS } from '../cross/grid.js';
import type { StitchedGrid } from '../cross/grid-edits.js';

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

const MOST_SIDE = 400;
const isText = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;
const isHex = (value: unknown): boolean => typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value);
const isSide = (value: unknown): value is number =>
  Number.isInteger(value) && (value as number) >= 1 && (value as number) <= MOST_SIDE;

/**
 * Checks a chart that was handed over.
 * @throws RangeError that says what is wrong
 */
export function parsePrintedGrid(value: unknown): PrintedGrid {
  const fault = (what: string): never => {
    throw new RangeError(`chart: ${what}`);
  };
  if (typeof value !== 'object' || value === null) return fault('it must be an object');
  const { name, cols, rows, cellMm, clothHex, threads, cells, backs } = value as Record<string, unknown>;
  if (!isText(name, 200)) return fault('its name must be text');
  if (!isSide(cols) || !isSide(rows)) return fault(`its sides must be whole numbers from 1 to ${MOST_SIDE}`);
  if (typeof cellMm !== 'number' || !(cellMm > 0 && cellMm <= 400)) return fault('its cells must have a size in mm');
  if (!isHex(clothHex)) return fault('its cloth must be a colour like #f4f1ea');
  if (!Array.isArray(threads) || threads.length > MOST_GRID_THREADS) return fault('its threads must be a list');
  const areThreads = threads.every(
    (t: unknown) =>
      typeof t === 'object' &&
      t !== null &&
      isText((t as PrintedThread).code, 80) &&
      isText((t as PrintedThread).name, 200) &&
      isHex((t as PrintedThread).hex) &&
      Number.isFinite((t as PrintedThread).lengthM),
  );
  if (!areThreads) return fault('a thread needs a code, a name, a colour and a length');
  if (!Array.isArray(cells) || cells.length % 2 !== 0) return fault('its cells must be pairs of numbers');
  let count = 0;
  for (let i = 0; i < cells.length; i += 2) {
    const many: unknown = cells[i + 1];
    if (!isPackedCell(cells[i], threads.length) || !Number.isInteger(many) || (many as number) < 1) {
      return fault('a cell is not as it must be');
    }
    count += many as number;
  }
  if (count !== cols * rows) return fault(`it must have ${cols * rows} cells, got ${count}`);
  const areBacks =
    Array.isArray(backs) &&
    backs.length % 2 === 0 &&
    backs.every((v: unknown, i) =>
      i % 2 === 0
        ? isStep({ cols, rows }, v as number)
        : Number.isInteger(v) && (v as number) >= 0 && (v as number) < threads.length,
    );
  if (!areBacks) return fault('a back stitch is not as it must be');
  return value as PrintedGrid;
}
