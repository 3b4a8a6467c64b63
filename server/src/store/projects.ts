import { randomUUID } from 'node:crypto';
import type { Database } from 'better-sqlite3';
import { upgradeRecipe, type Recipe } from '@open-kite/core';
import { UserError } from '../user-error.js';

/** One change of a project, as JSON patches that lead forwards and back. */
export interface HistoryEntry {
  readonly label: string;
  readonly patches: readonly unknown[];
  readonly inverse: readonly unknown[];
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly hasPreview: boolean;
  /** Figures shown on the shelf; they belong to the preview. */
  readonly figures: Readonly<Record<string, number>> | null;
}

export interface Project {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly pictureHash: string;
  readonly recipe: Recipe;
  readonly history: readonly HistoryEntry[];
  /** How many entries of the history are in force. */
  readonly position: number;
}

/** What a save carries: the new state, and what it adds to the history. */
export interface Save {
  readonly revision: number;
  readonly name: string;
  readonly recipe: Recipe;
  /** Entries before the new ones that stay; later ones were undone and are dropped. */
  readonly keep: number;
  readonly entries: readonly HistoryEntry[];
  readonly position: number;
}

export interface ProjectStore {
  list(): ProjectSummary[];
  create(name: string, pictureHash: string, recipe: Recipe): Project;
  /** @throws UserError 404 */
  get(id: string): Project;
  /** @throws UserError 404, or 409 with the stored revision if another save came first */
  save(id: string, save: Save): { revision: number };
  /** Takes a project off the shelf; `restore` brings it back. */
  remove(id: string): void;
  restore(id: string): void;
  setPreview(id: string, png: Buffer, figures: Readonly<Record<string, number>>): void;
  preview(id: string): Buffer;
}

/** Entries of the history that are kept. */
const MOST_HISTORY = 1000;

interface ProjectRow {
  id: string;
  name: string;
  revision: number;
  pictureHash: string;
  recipe: string;
  position: number;
}

export function createProjectStore(db: Database, now: () => string): ProjectStore {
  const select = db.prepare<[string], ProjectRow>(
    `SELECT id, name, revision, picture_hash AS pictureHash, recipe, position
     FROM project WHERE id = ? AND deleted_at IS NULL`,
  );
  const selectHistory = db.prepare<[string], { label: string; patches: string; inverse: string }>(
    'SELECT label, patches, inverse FROM history WHERE project_id = ? ORDER BY sequence',
  );
  const selectAll = db.prepare<
    [],
    { id: string; name: string; revision: number; updatedAt: string; figures: string | null }
  >(
    `SELECT id, name, revision, updated_at AS updatedAt, figures
     FROM project LEFT JOIN preview ON project_id = id
     WHERE deleted_at IS NULL ORDER BY updated_at DESC, project.rowid DESC`,
  );
  const insert = db.prepare(
    `INSERT INTO project (id, name, picture_hash, recipe, created_at, updated_at)
     VALUES (@id, @name, @pictureHash, @recipe, @at, @at)`,
  );
  const update = db.prepare(
    `UPDATE project SET name = @name, recipe = @recipe, revision = revision + 1, position = @position, updated_at = @at
     WHERE id = @id AND revision = @revision AND deleted_at IS NULL`,
  );
  const cutHistory = db.prepare('DELETE FROM history WHERE project_id = ? AND sequence >= ?');
  const insertHistory = db.prepare(
    'INSERT INTO history (project_id, sequence, label, patches, inverse) VALUES (?, ?, ?, ?, ?)',
  );
  const countHistory = db.prepare<[string], { n: number }>('SELECT COUNT(*) AS n FROM history WHERE project_id = ?');
  const dropOldest = db.prepare('DELETE FROM history WHERE project_id = ? AND sequence < ?');
  const renumber = db.prepare('UPDATE history SET sequence = sequence - @by WHERE project_id = @id');
  const shiftPosition = db.prepare('UPDATE project SET position = position - @by WHERE id = @id');
  const mark = db.prepare('UPDATE project SET deleted_at = ? WHERE id = ?');
  const upsertPreview = db.prepare(
    `INSERT INTO preview (project_id, png, figures) VALUES (?, ?, ?)
     ON CONFLICT (project_id) DO UPDATE SET png = excluded.png, figures = excluded.figures`,
  );
  const selectPreview = db.prepare<[string], { png: Buffer }>('SELECT png FROM preview WHERE project_id = ?');

  const rowOf = (id: string): ProjectRow => {
    const row = select.get(id);
    if (!row) throw new UserError(404, `there is no project ${id.slice(0, 64)}`);
    return row;
  };
  const get = (id: string): Project => {
    const row = rowOf(id);
    const history = selectHistory.all(id).map((entry) => ({
      label: entry.label,
      patches: JSON.parse(entry.patches) as unknown[],
      inverse: JSON.parse(entry.inverse) as unknown[],
    }));
    return { ...row, recipe: upgradeRecipe(JSON.parse(row.recipe)) as Recipe, history };
  };
  const setDeleted = (id: string, at: string | null): void => {
    if (mark.run(at, id).changes === 0) throw new UserError(404, `there is no project ${id.slice(0, 64)}`);
  };

  const save = db.transaction((id: string, change: Save): { revision: number } => {
    const row = rowOf(id);
    if (row.revision !== change.revision) {
      throw new UserError(409, 'this project was changed elsewhere in the meantime', { revision: row.revision });
    }
    const { n } = countHistory.get(id) as { n: number };
    if (change.keep > n || change.position > change.keep + change.entries.length) {
      throw new UserError(400, `the save keeps ${change.keep} changes of the history, but there are ${n}`);
    }
    if (change.entries.length > 0) {
      cutHistory.run(id, change.keep);
      change.entries.forEach((entry, i) =>
        insertHistory.run(
          id,
          change.keep + i,
          entry.label,
          JSON.stringify(entry.patches),
          JSON.stringify(entry.inverse),
        ),
      );
    }
    const { name, position, revision } = change;
    update.run({ id, name, recipe: JSON.stringify(change.recipe), position, revision, at: now() });
    return { revision: revision + 1 };
  });

  /** Forgets the oldest changes of a long history; done on opening, so that open editors keep their numbers. */
  const trim = db.transaction((id: string): void => {
    const count = countHistory.get(id)?.n ?? 0;
    const row = select.get(id);
    if (!row || count <= MOST_HISTORY) return;
    const by = Math.min(count - MOST_HISTORY, row.position);
    if (by <= 0) return;
    dropOldest.run(id, by);
    renumber.run({ id, by });
    shiftPosition.run({ id, by });
  });

  return {
    list: () =>
      selectAll.all().map(({ figures, ...row }) => ({
        ...row,
        hasPreview: figures !== null,
        figures: figures === null ? null : (JSON.parse(figures) as Record<string, number>),
      })),
    create: (name, pictureHash, recipe) => {
      const id = randomUUID();
      insert.run({ id, name, pictureHash, recipe: JSON.stringify(recipe), at: now() });
      return get(id);
    },
    get: (id) => {
      trim(id);
      return get(id);
    },
    save,
    remove: (id) => setDeleted(id, now()),
    restore: (id) => setDeleted(id, null),
    setPreview: (id, png, figures) => {
      rowOf(id);
      upsertPreview.run(id, png, JSON.stringify(figures));
    },
    preview: (id) => {
      const row = selectPreview.get(id);
      if (!row) throw new UserError(404, 'there is no preview yet');
      return row.png;
    },
  };
}
