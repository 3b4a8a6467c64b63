import type { Chart, ChartContent, StashEntry } from '@open-kite/core';
import { array, boolean, number, object, string, type Schema } from 'yup';

/** A thread chart as the cupboard holds it. */
export interface CupboardChart extends Chart {
  /** Made by the user, so it can be edited. */
  readonly own: boolean;
  readonly revision: number;
  /** Taken out of the cupboard; projects that use it still find it. */
  readonly deleted: boolean;
}

/** A chart as it is saved: its content, and the revision it grew from. */
export type ChartSave = ChartContent & { readonly revision: number };

const text = (most: number) => string().strict(true).required().max(most);

const thread = object({
  code: text(40),
  name: text(80),
  hex: string().strict(true).required(),
  weight: number().strict(true).required(),
  finish: text(30),
});

export const chartSchema = object({
  id: text(80),
  name: text(80),
  threads: array(thread).required(),
  own: boolean().strict(true).required(),
  revision: number().strict(true).required().integer(),
  deleted: boolean().strict(true).required(),
}) as unknown as Schema<CupboardChart>;

export const chartsSchema = array(chartSchema).required() as unknown as Schema<CupboardChart[]>;

/** Entries of the drawer one request may set. */
export const MOST_STASH = 5000;

const spools = (name: string) =>
  number()
    .strict(true)
    .typeError(`${name} must be a whole number from 0 to 999`)
    .required(`${name} is missing`)
    .integer(`${name} must be a whole number from 0 to 999`)
    .min(0, `${name} must be a whole number from 0 to 999`)
    .max(999, `${name} must be a whole number from 0 to 999`);

const entry = object({
  chart: string().strict(true).required('an entry of the drawer names a chart and a code').max(80),
  code: string().strict(true).required('an entry of the drawer names a chart and a code').max(80),
  spools: spools('spools'),
  lowAt: spools('low stock'),
}).noUnknown('a drawer entry has no "${unknown}"');

export const stashSchema = array(entry).required() as unknown as Schema<StashEntry[]>;

export const stashSaveSchema = object({
  entries: array(entry)
    .required(`the drawer takes a list of at most ${MOST_STASH} entries`)
    .max(MOST_STASH, `the drawer takes a list of at most ${MOST_STASH} entries`),
}).noUnknown('the drawer has no "${unknown}"') as unknown as Schema<{ readonly entries: readonly StashEntry[] }>;

/** A thread that was sewn, and how much of it; less than nothing gives it back. */
export interface SewnThread {
  readonly chart: string;
  readonly code: string;
  readonly metres: number;
}

/** What was sewn, to be taken off the drawer. */
export interface SewnOff {
  readonly threads: readonly SewnThread[];
  /** Metres a spool holds. */
  readonly spoolM: number;
}

const LONGEST_M = 100_000;

export const sewnOffSchema = object({
  threads: array(
    object({
      chart: string().strict(true).required('a sewn thread names a chart and a code').max(80),
      code: string().strict(true).required('a sewn thread names a chart and a code').max(80),
      metres: number()
        .strict(true)
        .required('metres are missing')
        .min(-LONGEST_M, `metres must be at least ${-LONGEST_M}`)
        .max(LONGEST_M, `metres must be at most ${LONGEST_M}`),
    }).noUnknown('a sewn thread has no "${unknown}"'),
  )
    .required('what was sewn is missing')
    .max(MOST_STASH, `at most ${MOST_STASH} threads at a time`),
  spoolM: number()
    .strict(true)
    .required('the length of a spool is missing')
    .min(10, 'a spool holds at least 10 m')
    .max(20_000, 'a spool holds at most 20000 m'),
}).noUnknown('what was sewn has no "${unknown}"') as unknown as Schema<SewnOff>;

/** The revision a chart was read with. */
export const revisionSchema = number()
  .strict(true)
  .typeError('a chart is saved with the revision it was read with')
  .required('a chart is saved with the revision it was read with')
  .integer('a chart is saved with the revision it was read with')
  .min(1, 'a chart is saved with the revision it was read with');
