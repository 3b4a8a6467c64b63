import { randomUUID } from 'node:crypto';
import type { Database } from 'better-sqlite3';
import type { CupboardChart, SewnOff } from '@open-kite/contract';
import type { ChartContent, ChartThread, StashEntry } from '@open-kite/core';
import { UserError } from '../user-error.js';

/** More spools of one thread nobody has. */
const MOST_SPOOLS = 999;

export interface CupboardStore {
  /** The user's own charts, deleted ones last. */
  charts(): CupboardChart[];
  create(content: ChartContent): CupboardChart;
  /** @throws UserError 404, or 409 with the stored revision if another save came first */
  save(id: string, revision: number, content: ChartContent): CupboardChart;
  /** @throws UserError 404 */
  remove(id: string): void;
  restore(id: string): void;
  stash(): StashEntry[];
  /** Sets entries of the drawer, all or none; one without spools and without a low mark is forgotten. */
  setStash(entries: readonly StashEntry[]): void;
  /** Takes what was sewn off threads there are: metres of the spool in use, and spools that are used up by them. */
  takeOff(sewn: SewnOff): void;
}

interface ChartRow {
  id: string;
  name: string;
  revision: number;
  deletedAt: string | null;
}

export function createCupboardStore(db: Database, now: () => string): CupboardStore {
  const selectCharts = db.prepare<[], ChartRow>(
    `SELECT id, name, revision, deleted_at AS deletedAt FROM chart ORDER BY deleted_at IS NOT NULL, created_at, rowid`,
  );
  const selectChart = db.prepare<[string], ChartRow>(
    'SELECT id, name, revision, deleted_at AS deletedAt FROM chart WHERE id = ?',
  );
  const selectThreads = db.prepare<[string], ChartThread>(
    'SELECT code, name, hex, weight, finish FROM chart_thread WHERE chart_id = ? ORDER BY position',
  );
  const insertChart = db.prepare('INSERT INTO chart (id, name, created_at) VALUES (?, ?, ?)');
  const updateChart = db.prepare('UPDATE chart SET name = ?, revision = revision + 1 WHERE id = ?');
  const clearThreads = db.prepare('DELETE FROM chart_thread WHERE chart_id = ?');
  const insertThread = db.prepare(
    `INSERT INTO chart_thread (chart_id, position, code, name, hex, weight, finish)
     VALUES (@chart, @position, @code, @name, @hex, @weight, @finish)`,
  );
  const mark = db.prepare('UPDATE chart SET deleted_at = ? WHERE id = ?');
  const selectStash = db.prepare<[], StashEntry>(
    'SELECT chart_id AS chart, code, spools, low_at AS lowAt FROM stash ORDER BY chart_id, code',
  );
  const upsertStash = db.prepare(
    `INSERT INTO stash (chart_id, code, spools, low_at) VALUES (@chart, @code, @spools, @lowAt)
     ON CONFLICT (chart_id, code) DO UPDATE SET spools = excluded.spools, low_at = excluded.low_at`,
  );
  const selectOpen = db.prepare<[string, string], { spools: number; usedM: number }>(
    'SELECT spools, used_m AS usedM FROM stash WHERE chart_id = ? AND code = ?',
  );
  const updateOpen = db.prepare('UPDATE stash SET spools = ?, used_m = ? WHERE chart_id = ? AND code = ?');
  const deleteStash = db.prepare('DELETE FROM stash WHERE chart_id = ? AND code = ?');

  const chartOf = ({ id, name, revision, deletedAt }: ChartRow): CupboardChart => ({
    id,
    name,
    revision,
    own: true,
    deleted: deletedAt !== null,
    threads: selectThreads.all(id),
  });
  const rowOf = (id: string): ChartRow => {
    const row = selectChart.get(id);
    if (!row) throw new UserError(404, `there is no chart ${id.slice(0, 64)}`);
    return row;
  };
  const fill = (chart: string, { threads }: ChartContent): void => {
    clearThreads.run(chart);
    threads.forEach((thread, position) => insertThread.run({ ...thread, chart, position }));
  };
  const setDeleted = (id: string, at: string | null): void => {
    if (mark.run(at, id).changes === 0) throw new UserError(404, `there is no chart ${id.slice(0, 64)}`);
  };

  return {
    charts: () => selectCharts.all().map(chartOf),
    create: db.transaction((content: ChartContent) => {
      const id = `own-${randomUUID()}`;
      insertChart.run(id, content.name.trim(), now());
      fill(id, content);
      return chartOf(rowOf(id));
    }),
    save: db.transaction((id: string, revision: number, content: ChartContent) => {
      const row = rowOf(id);
      if (row.revision !== revision) {
        throw new UserError(409, 'this chart was changed elsewhere in the meantime', { revision: row.revision });
      }
      updateChart.run(content.name.trim(), id);
      fill(id, content);
      return chartOf(rowOf(id));
    }),
    remove: (id) => setDeleted(id, now()),
    restore: (id) => setDeleted(id, null),
    stash: () => selectStash.all(),
    setStash: db.transaction((entries: readonly StashEntry[]) => {
      for (const entry of entries) {
        if (entry.spools === 0 && entry.lowAt === 0) deleteStash.run(entry.chart, entry.code);
        else upsertStash.run(entry);
      }
    }),
    takeOff: db.transaction(({ threads, spoolM }: SewnOff) => {
      for (const { chart, code, metres } of threads) {
        const open = selectOpen.get(chart, code);
        if (!open) continue;
        const used = open.usedM + metres;
        const whole = Math.floor(used / spoolM);
        const spools = Math.min(MOST_SPOOLS, Math.max(0, open.spools - whole));
        updateOpen.run(spools, used - whole * spoolM, chart, code);
      }
    }),
  };
}
