import { array, number, object, string, ValidationError } from 'yup';
import type { ChartThread } from './charts.js';

/** Threads a chart may have. */
export const MOST_THREADS = 3000;

const thread = object({
  code: string()
    .strict(true)
    .matches(/\S/, 'the code is missing')
    .max(40, 'the code is longer than 40 signs')
    .required('the code is missing'),
  name: string().strict(true).max(80, 'the name is longer than 80 signs').required('the name is missing'),
  hex: string()
    .strict(true)
    .matches(/^#[0-9a-f]{6}$/i, '"${value}" is not a colour like #1f2d2c')
    .required('the colour is missing'),
  weight: number()
    .strict(true)
    .typeError('the thread weight must be a number from 5 to 200')
    .min(5, '"${value}" is not a thread weight from 5 to 200')
    .max(200, '"${value}" is not a thread weight from 5 to 200')
    .required(),
  finish: string().strict(true).max(30, 'the finish is longer than 30 signs').required('the finish is missing'),
}).noUnknown('a thread has no "${unknown}"');

const chart = object({
  name: string()
    .strict(true)
    .matches(/\S/, 'a chart needs a name')
    .max(80, 'the name is longer than 80 signs')
    .required('a chart needs a name'),
  threads: array(thread.required())
    .required()
    .max(MOST_THREADS, `a chart has ${MOST_THREADS} threads at most`)
    .test('codes', 'two threads have the same code', (threads, context) => {
      const seen = new Set<string>();
      for (const { code } of threads ?? []) {
        if (seen.has(code)) return context.createError({ message: `the code "${code}" is used twice` });
        seen.add(code);
      }
      return true;
    }),
}).noUnknown('a chart has no "${unknown}"');

const spools = object({
  spools: number()
    .strict(true)
    .typeError('spools must be a whole number from 0 to 999')
    .integer('spools must be a whole number from 0 to 999')
    .min(0, 'spools must be a whole number from 0 to 999')
    .max(999, 'spools must be a whole number from 0 to 999')
    .required(),
  lowAt: number()
    .strict(true)
    .typeError('low stock must be a whole number from 0 to 999')
    .integer('low stock must be a whole number from 0 to 999')
    .min(0, 'low stock must be a whole number from 0 to 999')
    .max(999, 'low stock must be a whole number from 0 to 999')
    .required(),
}).noUnknown('a drawer entry has no "${unknown}"');

/** A chart without its id: what a user edits. */
export interface ChartContent {
  readonly name: string;
  readonly threads: readonly ChartThread[];
}

/** How many spools of a thread are in the drawer; at `lowAt` or fewer it is time to buy more. */
export interface Spools {
  readonly spools: number;
  readonly lowAt: number;
}

/** Fields of a thread in the order a person fills them in. */
const FIELDS = ['code', 'name', 'hex', 'weight', 'finish'];

/** What is wrong with a thread first, in a sentence; undefined where nothing is. */
export function threadFault(value: unknown): string | undefined {
  try {
    thread.validateSync(value, { strict: true, abortEarly: false });
    return undefined;
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const first = FIELDS.map((field) => error.inner.find((fault) => fault.path === field)).find(Boolean);
    return (first ?? error.inner[0] ?? error).message;
  }
}

/** Checks a chart. @throws RangeError that says what is wrong */
export function parseChartContent(value: unknown): ChartContent {
  return checked(() => chart.validateSync(value, { strict: true }) as ChartContent);
}

/** Checks an entry of the drawer. @throws RangeError that says what is wrong */
export function parseSpools(value: unknown): Spools {
  return checked(() => spools.validateSync(value, { strict: true }) as Spools);
}

function checked<T>(check: () => T): T {
  try {
    return check();
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(error.message);
    throw error;
  }
}
