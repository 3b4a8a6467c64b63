import { randomUUID } from 'node:crypto';
import type { Database } from 'better-sqlite3';
import type { BulkItem } from '@open-kite/contract';
import type { Recipe } from '@open-kite/core';

export interface StoredRun {
  readonly id: string;
  readonly name: string;
  readonly recipe: Recipe | null;
  /** Hashes of the pictures the recipe shows, by their names in it. */
  readonly pictures: Readonly<Record<string, string>>;
  readonly cancelled: boolean;
  readonly createdAt: string;
}

export interface StoredItem {
  readonly run: string;
  readonly place: number;
  readonly name: string;
  readonly picture: string | null;
  /** What is sewn instead of the text of the run's recipe. */
  readonly text: string | null;
  readonly state: BulkItem['state'];
  readonly error: string | null;
  readonly project: string | null;
}

/** Bulk runs and their files. */
export interface BulkStore {
  create(name: string, recipe: Recipe | null, pictures: Readonly<Record<string, string>>): string;
  runs(): StoredRun[];
  run(id: string): StoredRun | undefined;
  items(run: string): StoredItem[];
  add(run: string, name: string, picture: string | null, error: string | null): void;
  /** Adds names, all or none. */
  addTexts(run: string, texts: readonly string[]): void;
  /** The next file that waits, of the oldest run that goes on. */
  next(): StoredItem | undefined;
  set(
    item: Pick<StoredItem, 'run' | 'place'>,
    state: StoredItem['state'],
    project: string | null,
    error: string | null,
  ): void;
  cancel(run: string, cancelled: boolean): void;
  remove(run: string): void;
  /** What is under way. */
  making(): StoredItem[];
  /** What was under way when the server was cut off waits again. */
  resume(): void;
}

interface RunRow {
  id: string;
  name: string;
  recipe: string | null;
  pictures: string | null;
  cancelled: number;
  createdAt: string;
}

export function createBulkStore(db: Database, now: () => string): BulkStore {
  const insertRun = db.prepare(
    'INSERT INTO bulk_run (id, name, recipe, pictures, created_at) VALUES (@id, @name, @recipe, @pictures, @at)',
  );
  const runColumns = 'id, name, recipe, pictures, cancelled, created_at AS createdAt';
  const selectRuns = db.prepare<[], RunRow>(`SELECT ${runColumns} FROM bulk_run ORDER BY created_at DESC, rowid DESC`);
  const selectRun = db.prepare<[string], RunRow>(`SELECT ${runColumns} FROM bulk_run WHERE id = ?`);
  const columns = 'run_id AS run, place, name, picture_hash AS picture, text, state, error, project_id AS project';
  const selectItems = db.prepare<[string], StoredItem>(
    `SELECT ${columns} FROM bulk_item WHERE run_id = ? ORDER BY place`,
  );
  const insertItem = db.prepare(
    `INSERT INTO bulk_item (run_id, place, name, picture_hash, text, state, error)
     VALUES (@run, (SELECT COALESCE(MAX(place), 0) + 1 FROM bulk_item WHERE run_id = @run), @name, @picture, @text, @state, @error)`,
  );
  const selectNext = db.prepare<[], StoredItem>(
    `SELECT ${columns.replace('name', 'bulk_item.name')} FROM bulk_item JOIN bulk_run ON id = run_id
     WHERE state = 'waiting' AND cancelled = 0 ORDER BY created_at, bulk_run.rowid, place LIMIT 1`,
  );
  const selectMaking = db.prepare<[], StoredItem>(`SELECT ${columns} FROM bulk_item WHERE state = 'making'`);
  const update = db.prepare(
    'UPDATE bulk_item SET state = @state, project_id = @project, error = @error WHERE run_id = @run AND place = @place',
  );
  const cancel = db.prepare('UPDATE bulk_run SET cancelled = ? WHERE id = ?');
  const remove = db.prepare('DELETE FROM bulk_run WHERE id = ?');
  const resume = db.prepare("UPDATE bulk_item SET state = 'waiting', project_id = NULL WHERE state = 'making'");
  const insertTexts = db.transaction((run: string, texts: readonly string[]) => {
    for (const text of texts) insertItem.run({ run, name: text, picture: null, text, state: 'waiting', error: null });
  });
  const readRun = ({ recipe, pictures, cancelled, ...rest }: RunRow): StoredRun => ({
    ...rest,
    pictures: pictures === null ? {} : (JSON.parse(pictures) as Record<string, string>),
    recipe: recipe === null ? null : (JSON.parse(recipe) as Recipe),
    cancelled: cancelled === 1,
  });
  return {
    create: (name, recipe, pictures) => {
      const id = randomUUID();
      const held = Object.keys(pictures).length === 0 ? null : JSON.stringify(pictures);
      insertRun.run({ id, name, recipe: recipe && JSON.stringify(recipe), pictures: held, at: now() });
      return id;
    },
    runs: () => selectRuns.all().map(readRun),
    run: (id) => {
      const row = selectRun.get(id);
      return row && readRun(row);
    },
    items: (run) => selectItems.all(run),
    add: (run, name, picture, error) =>
      void insertItem.run({
        run,
        name,
        picture,
        text: null,
        state: error === null ? 'waiting' : 'failed',
        error,
      }),
    addTexts: (run, texts) => void insertTexts(run, texts),
    next: () => selectNext.get(),
    set: ({ run, place }, state, project, error) => void update.run({ run, place, state, project, error }),
    cancel: (run, cancelled) => void cancel.run(cancelled ? 1 : 0, run),
    remove: (run) => void remove.run(run),
    making: () => selectMaking.all(),
    resume: () => void resume.run(),
  };
}
