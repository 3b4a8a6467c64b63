import type { Recipe } from '@open-kite/core';
import { array, lazy, mixed, number, object, string, type ObjectSchema, type Schema } from 'yup';
import { hashField, pictureSchema, SOURCE, type Picture } from './pictures.js';

/** One step of a change of plain data, as immer makes them. */
export interface Patch {
  readonly op: 'add' | 'remove' | 'replace';
  readonly path: (string | number)[];
  readonly value?: unknown;
}

/** One change of a project, as patches that lead forwards and back. */
export interface HistoryEntry {
  readonly label: string;
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

/** Figures of a design, for the shelf. */
export interface ShelfFigures {
  readonly stitches: number;
  readonly threads: number;
  readonly minutes: number;
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly hasPreview: boolean;
  /** Figures that belong to the preview. */
  readonly figures: ShelfFigures | null;
  /** What is being done with it: a sample that is still being made. */
  readonly making: boolean;
}

/** A project that was taken off the shelf, and can come back. */
export interface BinnedProject {
  readonly id: string;
  readonly name: string;
  readonly removedAt: string;
  readonly hasPreview: boolean;
}

export interface Project {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly recipe: Recipe;
  /** Its pictures, by their names in the recipe. */
  readonly pictures: Readonly<Record<string, Picture>>;
  readonly history: readonly HistoryEntry[];
  /** How many entries of the history are in force. */
  readonly position: number;
  /** Older entries that are kept no longer, or are not handed out: a save says the same number. */
  readonly base: number;
  /** Key of the finished design that is stored with it; null where none is. */
  readonly designKey: string | null;
}

/** A new project of one picture. */
export interface NewProject {
  readonly name: string;
  /** Hash of its picture; null for a design without one. */
  readonly picture: string | null;
  readonly recipe?: Recipe;
  /** Hashes of the pictures the recipe shows, by their names in it, where there is no one picture. */
  readonly pictures?: Readonly<Record<string, string>>;
}

/** What a save carries: the new state, and what it adds to the history. */
export interface Save {
  readonly revision: number;
  readonly name: string;
  readonly recipe: Recipe;
  /** Hashes of the pictures, by their names in the recipe; those there are stay where nothing is said. */
  readonly pictures?: Readonly<Record<string, string>>;
  /** Entries before the new ones that stay; later ones were undone and are dropped. */
  readonly keep: number;
  /** The number of older entries that the project came with; `keep` and `position` count from there. */
  readonly base?: number;
  readonly entries: readonly HistoryEntry[];
  readonly position: number;
}

export interface Saved {
  readonly revision: number;
}

const whole = (name: string) =>
  number().strict(true).required(`${name} is missing`).integer(`${name} must be whole`).min(0, `${name} is below 0`);
const nameField = () =>
  string().strict(true).required('a project needs a name').matches(/\S/, 'a project needs a name').max(120);

/** A recipe: core's own schema checks it, at both ends; it is too large to be loaded with the shelf. */
const recipeField = () => mixed<Recipe>().required('the recipe is missing');

/** Name of a field, or place in a list. */
const step = mixed<string | number>((value): value is string | number =>
  ['string', 'number'].includes(typeof value),
).required('a path has names and places only');

const patch = object({
  op: string().strict(true).oneOf(['add', 'remove', 'replace']).required(),
  path: array(step).required().max(40),
  value: mixed().nullable().optional(),
}).noUnknown('a patch has no "${unknown}"');

/** Changes one entry may have: a whole trace of decisions may change at once. */
const MOST_PATCHES = 4000;

const entry = object({
  label: string().strict(true).required().max(80),
  patches: array(patch).required().max(MOST_PATCHES),
  inverse: array(patch).required().max(MOST_PATCHES),
}).noUnknown('a change has no "${unknown}"');

/** A record of whatever is named like the pictures of a recipe. */
const byName = (what: Schema, needed = true) =>
  lazy((value: unknown) => {
    if (value === undefined && !needed) return mixed();
    const names = typeof value === 'object' && value !== null ? Object.keys(value) : [];
    const fields = Object.fromEntries(names.filter((name) => SOURCE.test(name)).map((name) => [name, what]));
    return object(fields).noUnknown('a picture cannot be called "${unknown}"').required('its pictures are missing');
  }) as unknown as Schema;

export const newProjectSchema = object({
  name: nameField(),
  picture: hashField().nullable().defined(),
  recipe: recipeField().notRequired(),
  pictures: byName(hashField(), false),
}).noUnknown('a project has no "${unknown}"') as unknown as ObjectSchema<NewProject>;

export const saveSchema = object({
  revision: whole('revision'),
  name: nameField(),
  recipe: recipeField(),
  pictures: byName(hashField(), false),
  keep: whole('keep'),
  base: whole('base').optional(),
  position: whole('position'),
  entries: array(entry).required().max(2000, 'a save adds 2000 changes at most'),
}).noUnknown('a save has no "${unknown}"') as unknown as ObjectSchema<Save>;

/** Another name for a project. */
export const renameSchema = object({ name: nameField() }).noUnknown(
  'a name has no "${unknown}"',
) as unknown as ObjectSchema<{ readonly name: string }>;

/** Most projects that are shared out at once. */
export const MOST_SHARED = 100;

/** Projects to be shared out. */
export const shareSchema = object({
  ids: array(string().strict(true).required().max(64))
    .required('which projects are to be shared?')
    .min(1, 'which projects are to be shared?')
    .max(MOST_SHARED, `at most ${MOST_SHARED} projects are shared at once`),
}).noUnknown('sharing has no "${unknown}"') as unknown as ObjectSchema<{ readonly ids: string[] }>;

export const savedSchema = object({ revision: whole('revision') }) as unknown as ObjectSchema<Saved>;

export const figuresSchema = object({
  stitches: whole('stitches'),
  threads: whole('threads'),
  minutes: number().strict(true).required().min(0),
}).noUnknown('figures have no "${unknown}"') as unknown as ObjectSchema<ShelfFigures>;

export const projectSchema = object({
  id: string().strict(true).required(),
  name: string().strict(true).required(),
  revision: whole('revision'),
  recipe: recipeField(),
  pictures: byName(pictureSchema),
  history: array(entry).required(),
  position: whole('position'),
  base: whole('base'),
  designKey: string().strict(true).nullable().defined(),
}) as unknown as ObjectSchema<Project>;

export const projectsSchema = array(
  object({
    id: string().strict(true).required(),
    name: string().strict(true).required(),
    revision: whole('revision'),
    updatedAt: string().strict(true).required(),
    hasPreview: mixed<boolean>().oneOf([true, false]).required(),
    figures: figuresSchema.nullable().defined(),
    making: mixed<boolean>().oneOf([true, false]).required(),
  }),
).required() as unknown as Schema<ProjectSummary[]>;

export const binnedSchema = array(
  object({
    id: string().strict(true).required(),
    name: string().strict(true).required(),
    removedAt: string().strict(true).required(),
    hasPreview: mixed<boolean>().oneOf([true, false]).required(),
  }),
).required() as unknown as Schema<BinnedProject[]>;

/** How the server is: what is wrong with its store, where it is damaged and only read. */
export interface Health {
  readonly ok: boolean;
  readonly damage?: string;
}

export const healthSchema = object({
  ok: mixed<boolean>().oneOf([true, false]).required(),
  damage: string().strict(true),
}) as unknown as Schema<Health>;
