import { randomUUID } from 'node:crypto';
import type { Database, Statement } from 'better-sqlite3';
import type { BinnedProject, HistoryEntry, ProjectSummary, Save, Saved } from '@open-kite/contract';
import { RECIPE_VERSION, type Recipe } from '@open-kite/core';
import { UserError } from '../user-error.js';
import { isDamage } from './store-fault.js';
import { upgradeTimeline } from './upgrade-history.js';

/** A project as it is stored. */
export interface StoredProject {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  /** Hashes of its pictures, by their names in the recipe. */
  readonly pictures: Readonly<Record<string, string>>;
  readonly recipe: Recipe;
  readonly history: readonly HistoryEntry[];
  /** How many entries of the history are in force. */
  readonly position: number;
  /** Older entries that are not handed out. */
  readonly base: number;
  /** Key of the finished design that is stored with it. */
  readonly designKey: string | null;
}

export interface ProjectStore {
  list(): Omit<ProjectSummary, 'making'>[];
  /** @param pictures hashes by the names the recipe has for them */
  create(name: string, pictures: Readonly<Record<string, string>>, recipe: Recipe): StoredProject;
  /** @throws UserError 404, or 422 for one whose recipe cannot be read */
  get(id: string): StoredProject;
  /** Hashes of the pictures of a project. @throws UserError 404 */
  pictures(id: string): Readonly<Record<string, string>>;
  /** @throws UserError 404, or 409 with the stored revision if another save came first */
  save(id: string, save: Save): Saved;
  /**
   * Forgets the oldest changes of long histories. Done before anybody opens a project, since editors count what they were
   * handed; those that stayed open meanwhile are told that the project is another one now.
   */
  forgetOldest(): void;
  /** Takes a project off the shelf; `restore` brings it back. */
  remove(id: string): void;
  restore(id: string): void;
  /** What was taken off the shelf, the latest first. */
  bin(): BinnedProject[];
  /** Deletes a project for good. @throws UserError 404, also for one that still lies on the shelf and is not `anywhere` */
  erase(id: string, where?: 'bin' | 'anywhere'): void;
  /** Deletes for good what was taken off the shelf, before a moment or all of it; gives how many those were. */
  emptyBin(before?: string): number;
  /** @throws UserError 404 */
  rename(id: string, name: string): void;
  /** Makes a second one of a project, with its history, its pictures and its design. @throws UserError 404 */
  duplicate(id: string): string;
  setPreview(id: string, png: Buffer, figures: Readonly<Record<string, number>>): void;
  preview(id: string): Buffer;
  /** Keeps the finished design of a project, under the key of what it was made from. */
  setDesign(id: string, key: string, packed: Buffer): void;
  /** @throws UserError 404 where there is none of this key */
  design(id: string, key: string): Buffer;
}

/** Entries of the history that are handed out; older ones are forgotten when a server starts. */
const MOST_HISTORY = 1000;

/** Longest name of a project. */
const MOST_NAME = 120;

/** A name for a second one: `Crest, copy`, then `Crest, copy 2`. */
function copyName(name: string, taken: ReadonlySet<string>): string {
  const base = name.replace(/, copy( \d+)?$/, '');
  for (let n = 1; ; n++) {
    const end = n === 1 ? ', copy' : `, copy ${n}`;
    const next = base.slice(0, MOST_NAME - end.length) + end;
    if (!taken.has(next)) return next;
  }
}

interface ShelfRow {
  id: string;
  name: string;
  revision: number;
  updatedAt: string;
  figures: string | null;
}

interface BinRow {
  id: string;
  name: string;
  removedAt: string;
  figures: string | null;
}

interface ProjectRow {
  id: string;
  name: string;
  revision: number;
  recipe: string;
  position: number;
}

/** All rows at once; where a page of them is damaged, those that can still be read, one by one by the index of their ids. */
function rowsLeft<T>(all: () => T[], ids: Statement<[], { id: string }>, one: (id: string) => T[]): T[] {
  try {
    return all();
  } catch (error) {
    if (!isDamage(error)) throw error;
    return ids.all().flatMap(({ id }) => {
      try {
        return one(id);
      } catch (fault) {
        if (isDamage(fault)) return [];
        throw fault;
      }
    });
  }
}

export function createProjectStore(db: Database, now: () => string): ProjectStore {
  const select = db.prepare<[string], ProjectRow>(
    'SELECT id, name, revision, recipe, position FROM project WHERE id = ? AND deleted_at IS NULL',
  );
  const selectHistory = db.prepare<[string], { label: string; patches: string; inverse: string; version: number }>(
    'SELECT label, patches, inverse, version FROM history WHERE project_id = ? ORDER BY sequence',
  );
  const shelf = `SELECT id, name, revision, updated_at AS updatedAt, figures
     FROM project LEFT JOIN shelf_figures ON project_id = id
     WHERE deleted_at IS NULL`;
  const selectAll = db.prepare<[], ShelfRow>(`${shelf} ORDER BY updated_at DESC, project.rowid DESC`);
  const selectIds = db.prepare<[], { id: string }>('SELECT id FROM project');
  const selectOne = db.prepare<[string], ShelfRow>(`${shelf} AND id = ?`);
  const insert = db.prepare(
    `INSERT INTO project (id, name, recipe, created_at, updated_at) VALUES (@id, @name, @recipe, @at, @at)`,
  );
  const selectPictures = db.prepare<[string], { source: string; hash: string }>(
    'SELECT source, picture_hash AS hash FROM project_picture WHERE project_id = ? ORDER BY source',
  );
  const dropPictures = db.prepare('DELETE FROM project_picture WHERE project_id = ?');
  const insertPicture = db.prepare('INSERT INTO project_picture (project_id, source, picture_hash) VALUES (?, ?, ?)');
  const rewrite = db.prepare('UPDATE project SET recipe = @recipe, position = @position WHERE id = @id');
  const selectKey = db.prepare<[string], { key: string }>('SELECT key FROM design WHERE project_id = ?');
  const selectDesign = db.prepare<[string, string], { packed: Buffer }>(
    'SELECT packed FROM design WHERE project_id = ? AND key = ?',
  );
  const upsertDesign = db.prepare(
    `INSERT INTO design (project_id, key, packed) VALUES (?, ?, ?)
     ON CONFLICT (project_id) DO UPDATE SET key = excluded.key, packed = excluded.packed`,
  );
  const update = db.prepare(
    `UPDATE project SET name = @name, recipe = @recipe, revision = revision + 1, position = @position, updated_at = @at
     WHERE id = @id AND revision = @revision AND deleted_at IS NULL`,
  );
  const cutHistory = db.prepare('DELETE FROM history WHERE project_id = ? AND sequence >= ?');
  const insertHistory = db.prepare(
    'INSERT INTO history (project_id, sequence, label, patches, inverse, version) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const countHistory = db.prepare<[string], { n: number }>('SELECT COUNT(*) AS n FROM history WHERE project_id = ?');
  const selectLong = db.prepare<[number], { id: string; n: number; position: number }>(
    `SELECT project_id AS id, COUNT(*) AS n, project.position AS position FROM history JOIN project ON project.id = project_id
     GROUP BY project_id HAVING COUNT(*) > ?`,
  );
  const dropOldest = db.prepare('DELETE FROM history WHERE project_id = ? AND sequence < ?');
  const renumber = db.prepare('UPDATE history SET sequence = sequence - @by WHERE project_id = @id');
  const shiftPosition = db.prepare(
    'UPDATE project SET position = position - @by, revision = revision + 1 WHERE id = @id',
  );
  const mark = db.prepare('UPDATE project SET deleted_at = ? WHERE id = ?');
  const bin = `SELECT id, name, deleted_at AS removedAt, figures
     FROM project LEFT JOIN shelf_figures ON project_id = id
     WHERE deleted_at IS NOT NULL`;
  const selectBin = db.prepare<[], BinRow>(`${bin} ORDER BY deleted_at DESC, project.rowid DESC`);
  const selectBinned = db.prepare<[string], BinRow>(`${bin} AND id = ?`);
  const dropBinned = db.prepare('DELETE FROM project WHERE id = ? AND deleted_at IS NOT NULL');
  const dropAnywhere = db.prepare('DELETE FROM project WHERE id = ?');
  const dropBefore = db.prepare(
    'DELETE FROM project WHERE deleted_at IS NOT NULL AND (@before IS NULL OR deleted_at < @before)',
  );
  const setName = db.prepare(
    'UPDATE project SET name = ?, revision = revision + 1, updated_at = ? WHERE id = ? AND deleted_at IS NULL',
  );
  const selectNames = db.prepare<[], { name: string }>('SELECT name FROM project WHERE deleted_at IS NULL');
  const copyProject = db.prepare(
    `INSERT INTO project (id, name, recipe, position, created_at, updated_at)
     SELECT @to, @name, recipe, position, @at, @at FROM project WHERE id = @from AND deleted_at IS NULL`,
  );
  /** What belongs to a project, each table with its columns. */
  const copyParts = Object.entries({
    history: 'sequence, label, patches, inverse, version',
    project_picture: 'source, picture_hash',
    preview: 'png',
    shelf_figures: 'figures',
    design: 'key, packed',
  }).map(([table, columns]) =>
    db.prepare(
      `INSERT INTO ${table} (project_id, ${columns}) SELECT @to, ${columns} FROM ${table} WHERE project_id = @from`,
    ),
  );
  const upsertPreview = db.prepare(
    'INSERT INTO preview (project_id, png) VALUES (?, ?) ON CONFLICT (project_id) DO UPDATE SET png = excluded.png',
  );
  const upsertFigures = db.prepare(
    `INSERT INTO shelf_figures (project_id, figures) VALUES (?, ?)
     ON CONFLICT (project_id) DO UPDATE SET figures = excluded.figures`,
  );
  const writePreview = db.transaction((id: string, png: Buffer, figures: string): void => {
    upsertPreview.run(id, png);
    upsertFigures.run(id, figures);
  });
  const selectPreview = db.prepare<[string], { png: Buffer }>('SELECT png FROM preview WHERE project_id = ?');

  const rowOf = (id: string): ProjectRow => {
    const row = select.get(id);
    if (!row) throw new UserError(404, `there is no project ${id.slice(0, 64)}`);
    return row;
  };
  const writeHistory = (id: string, from: number, entries: readonly HistoryEntry[]): void => {
    cutHistory.run(id, from);
    entries.forEach(({ label, patches, inverse }, i) =>
      insertHistory.run(id, from + i, label, JSON.stringify(patches), JSON.stringify(inverse), RECIPE_VERSION),
    );
  };
  const writePictures = (id: string, pictures: Readonly<Record<string, string>>): void => {
    dropPictures.run(id);
    for (const [source, hash] of Object.entries(pictures)) insertPicture.run(id, source, hash);
  };
  const picturesOf = (id: string): Record<string, string> =>
    Object.fromEntries(selectPictures.all(id).map(({ source, hash }) => [source, hash]));
  const historyOf = (id: string): (HistoryEntry & { version: number })[] =>
    selectHistory.all(id).map(({ label, patches, inverse, version }) => ({
      label,
      version,
      patches: JSON.parse(patches) as HistoryEntry['patches'],
      inverse: JSON.parse(inverse) as HistoryEntry['inverse'],
    }));
  const get = (id: string): StoredProject => {
    const { recipe, position, ...row } = rowOf(id);
    const history = historyOf(id).map(({ label, patches, inverse }) => ({ label, patches, inverse }));
    const base = Math.max(0, Math.min(history.length - MOST_HISTORY, position));
    return {
      ...row,
      recipe: JSON.parse(recipe) as Recipe,
      pictures: picturesOf(id),
      history: history.slice(base),
      position: position - base,
      base,
      designKey: selectKey.get(id)?.key ?? null,
    };
  };
  /** Brings a project of an earlier version up to date, its whole history with it; done once, on opening. */
  const upgrade = db.transaction((id: string): void => {
    const row = rowOf(id);
    const stored = JSON.parse(row.recipe) as { version?: unknown };
    const history = historyOf(id);
    if (stored.version === RECIPE_VERSION && history.every(({ version }) => version === RECIPE_VERSION)) return;
    try {
      const timeline = upgradeTimeline(stored, history, row.position);
      writeHistory(id, 0, timeline.history);
      rewrite.run({ id, recipe: JSON.stringify(timeline.recipe), position: timeline.position });
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      throw new UserError(422, `this project cannot be opened: ${error.message}`);
    }
  });
  const setDeleted = (id: string, at: string | null): void => {
    if (mark.run(at, id).changes === 0) throw new UserError(404, `there is no project ${id.slice(0, 64)}`);
  };

  const duplicate = db.transaction((id: string): string => {
    const { name } = rowOf(id);
    const to = randomUUID();
    copyProject.run({
      from: id,
      to,
      name: copyName(name, new Set(selectNames.all().map((row) => row.name))),
      at: now(),
    });
    for (const part of copyParts) part.run({ from: id, to });
    return to;
  });

  const save = db.transaction((id: string, change: Save): Saved => {
    const row = rowOf(id);
    if (row.revision !== change.revision) {
      throw new UserError(409, 'this project was changed elsewhere in the meantime', { revision: row.revision });
    }
    const n = countHistory.get(id)?.n ?? 0;
    const { base = 0, name, revision } = change;
    const keep = base + change.keep;
    const position = base + change.position;
    if (keep > n || position > keep + change.entries.length) {
      throw new UserError(400, `the save keeps ${keep} changes of the history, but there are ${n}`);
    }
    if (change.entries.length > 0) writeHistory(id, keep, change.entries);
    if (change.pictures) writePictures(id, change.pictures);
    update.run({ id, name, recipe: JSON.stringify(change.recipe), position, revision, at: now() });
    return { revision: revision + 1 };
  });

  const forgetOldest = db.transaction((): void => {
    for (const { id, n, position } of selectLong.all(MOST_HISTORY)) {
      const by = Math.min(n - MOST_HISTORY, position);
      if (by <= 0) continue;
      dropOldest.run(id, by);
      renumber.run({ id, by });
      shiftPosition.run({ id, by });
    }
  });

  return {
    list: () =>
      rowsLeft(
        () => selectAll.all(),
        selectIds,
        (id) => selectOne.all(id),
      ).map(({ figures, ...row }) => ({
        ...row,
        hasPreview: figures !== null,
        figures: figures === null ? null : (JSON.parse(figures) as ProjectSummary['figures']),
      })),
    create: (name, pictures, recipe) => {
      const id = randomUUID();
      db.transaction(() => {
        insert.run({ id, name, recipe: JSON.stringify(recipe), at: now() });
        writePictures(id, pictures);
      })();
      return get(id);
    },
    get: (id) => {
      if (!db.readonly) upgrade(id);
      return get(id);
    },
    pictures: (id) => {
      rowOf(id);
      return picturesOf(id);
    },
    save,
    forgetOldest,
    remove: (id) => setDeleted(id, now()),
    restore: (id) => setDeleted(id, null),
    bin: () =>
      rowsLeft(
        () => selectBin.all(),
        selectIds,
        (id) => selectBinned.all(id),
      ).map(({ figures, ...row }) => ({
        ...row,
        hasPreview: figures !== null,
      })),
    erase: (id, where = 'bin') => {
      const { changes } = (where === 'bin' ? dropBinned : dropAnywhere).run(id);
      if (changes === 0) throw new UserError(404, `there is no project ${id.slice(0, 64)} to be deleted`);
    },
    emptyBin: (before) => dropBefore.run({ before: before ?? null }).changes,
    rename: (id, name) => {
      if (setName.run(name, now(), id).changes === 0)
        throw new UserError(404, `there is no project ${id.slice(0, 64)}`);
    },
    duplicate,
    setPreview: (id, png, figures) => {
      rowOf(id);
      writePreview(id, png, JSON.stringify(figures));
    },
    preview: (id) => {
      const row = selectPreview.get(id);
      if (!row) throw new UserError(404, 'there is no preview yet');
      return row.png;
    },
    setDesign: (id, key, packed) => {
      rowOf(id);
      upsertDesign.run(id, key, packed);
    },
    design: (id, key) => {
      const row = selectDesign.get(id, key);
      if (!row) throw new UserError(404, 'there is no stored design of this key');
      return row.packed;
    },
  };
}
