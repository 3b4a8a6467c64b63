import { array, boolean, mixed, number, object, string, type Schema } from 'yup';
import type { ShelfFigures } from './projects.js';

/** What becomes of one file of a bulk run. */
export interface BulkItem {
  readonly name: string;
  readonly state: 'waiting' | 'making' | 'done' | 'failed';
  readonly error: string | null;
  /** Project it became. */
  readonly project: string | null;
  readonly figures: ShelfFigures | null;
}

export interface BulkRun {
  readonly id: string;
  readonly name: string;
  readonly createdAt: string;
  readonly cancelled: boolean;
  readonly items: readonly BulkItem[];
}

/** A new bulk run: through the settings of a project, or each picture by its own. */
export interface NewBulkRun {
  readonly name: string;
  readonly project: string | null;
}

export const newBulkRunSchema = object({
  name: string().strict(true).required('a bulk run needs a name').max(120, 'a name has at most 120 characters'),
  project: string().strict(true).nullable().defined('say a project, or null').max(60),
}).noUnknown('a bulk run has no "${unknown}"') as unknown as Schema<NewBulkRun>;

/** Texts of a run and the letters of one. */
const MOST_NAMES = 1000;
const MOST_LETTERS = 200;

/** Names for a bulk run: each takes the place of the text of its project. */
export interface BulkNames {
  readonly names: readonly string[];
}

export const bulkNamesSchema = object({
  names: array(
    string()
      .strict(true)
      .required('a name has at least one letter')
      .max(MOST_LETTERS, `a name has at most ${MOST_LETTERS} letters`),
  )
    .required()
    .min(1, 'there are no names')
    .max(MOST_NAMES, `at most ${MOST_NAMES} names at a time`),
}).noUnknown('names have no "${unknown}"') as unknown as Schema<BulkNames>;

const item = object({
  name: string().defined(),
  state: mixed<BulkItem['state']>().required().oneOf(['waiting', 'making', 'done', 'failed']),
  error: string().nullable().defined(),
  project: string().nullable().defined(),
  figures: object({ stitches: number().required(), threads: number().required(), minutes: number().required() })
    .nullable()
    .defined()
    .default(undefined),
});

export const bulkRunSchema = object({
  id: string().required(),
  name: string().defined(),
  createdAt: string().required(),
  cancelled: boolean().required(),
  items: array(item).required(),
}) as unknown as Schema<BulkRun>;

export const bulkRunsSchema = array(bulkRunSchema).required() as unknown as Schema<BulkRun[]>;
