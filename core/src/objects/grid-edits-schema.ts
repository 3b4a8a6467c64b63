import { array, lazy, mixed, object } from 'yup';
import { isStep } from '../cross/back-stitch.js';
import { isPackedCell } from '../cross/grid.js';
import type { GridEdits } from '../cross/grid-edits.js';
import { gridSides, gridSizeOf, namedThread, wholeNumber, type GridSize } from '../settings/fields.js';

/** What changes of a grid may carry. */
const MOST_THREADS = 120;
const MOST_EDITS = 2000;
const MOST_NUMBERS = 1_500_000;

const UNKNOWN = 'grid: not known: ${unknown}';

/** First cell and number of cells in turn, all of them within the grid. */
const runs = (size: GridSize | undefined) =>
  mixed<number[]>()
    .required()
    .test(
      'runs',
      'grid: runs must be pairs of a first cell and a number of cells within the grid',
      (value: unknown) => {
        if (!Array.isArray(value) || value.length % 2 !== 0) return false;
        const cells = size ? size.cols * size.rows : Infinity;
        for (let i = 0; i < value.length; i += 2) {
          const [first, count] = [Number(value[i]), Number(value[i + 1])];
          if (!Number.isInteger(value[i]) || !Number.isInteger(value[i + 1])) return false;
          if (first < 0 || count < 1 || first + count > cells) return false;
        }
        return true;
      },
    );

const steps = (size: GridSize | undefined) =>
  mixed<number[]>()
    .required()
    .test(
      'steps',
      'grid: steps must be steps of the half-cell lattice',
      (value: unknown) =>
        Array.isArray(value) && value.every((step) => Number.isInteger(step) && (!size || isStep(size, Number(step)))),
    );

const lengthOf = (list: unknown): number => (Array.isArray(list) ? list.length : 0);

/** Numbers that all changes have together, whatever else they are. */
function numbersOf(edits: unknown): number {
  let sum = 0;
  const parts = (list: unknown): readonly Partial<Record<string, unknown>>[] =>
    Array.isArray(list) ? list.filter((part) => part !== null && part !== undefined) : [];
  for (const edit of parts(edits)) {
    for (const { runs } of parts(edit['cells'])) sum += lengthOf(runs);
    for (const { steps } of parts(edit['backs'])) sum += lengthOf(steps);
  }
  return sum;
}

/** Changes by hand of a grid. */
export const gridEditsSchema = lazy((value: unknown) => {
  const size = gridSizeOf(value);
  const threads = (value as Partial<GridEdits> | null)?.threads;
  const count = lengthOf(threads);
  const cell = object({
    put: mixed<number>()
      .required()
      .test('put', 'grid: put must be a cell of the threads named', (code) => isPackedCell(code, count)),
    runs: runs(size),
  }).noUnknown(UNKNOWN);
  const back = object({ thread: wholeNumber('grid: thread', -1, count - 1), steps: steps(size) }).noUnknown(UNKNOWN);
  return object({
    ...gridSides('grid:'),
    threads: array(namedThread()).required().max(MOST_THREADS),
    edits: array(object({ cells: array(cell).required(), backs: array(back).required() }).noUnknown(UNKNOWN))
      .required()
      .max(MOST_EDITS),
  })
    .strict(true)
    .noUnknown(UNKNOWN)
    .nullable()
    .defined()
    .test(
      'numbers',
      `grid: its changes may have ${MOST_NUMBERS} numbers at most`,
      (edits) => numbersOf(edits?.edits) <= MOST_NUMBERS,
    );
});
