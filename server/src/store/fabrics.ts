import { randomUUID } from 'node:crypto';
import type { Database } from 'better-sqlite3';
import type { NewFabric, OwnFabric } from '@open-kite/contract';
import { parseMeasured } from '@open-kite/core';
import { UserError } from '../user-error.js';

/** Fabrics that were measured. */
export interface FabricStore {
  /** All that were not taken out, by their names. */
  all(): OwnFabric[];
  add(fabric: NewFabric): OwnFabric;
  /** @throws UserError 404 */
  save(id: string, fabric: NewFabric): OwnFabric;
  remove(id: string): void;
  restore(id: string): void;
}

interface FabricRow {
  id: string;
  fabric: string;
  hex: string;
  measured: string;
}

export function createFabricStore(db: Database, now: () => string): FabricStore {
  const select = db.prepare<[], FabricRow>(
    'SELECT id, fabric, hex, measured FROM own_fabric WHERE deleted_at IS NULL ORDER BY created_at, rowid',
  );
  const insert = db.prepare(
    'INSERT INTO own_fabric (id, fabric, hex, measured, created_at) VALUES (@id, @fabric, @hex, @measured, @at)',
  );
  const update = db.prepare('UPDATE own_fabric SET fabric = @fabric, hex = @hex, measured = @measured WHERE id = @id');
  const mark = db.prepare('UPDATE own_fabric SET deleted_at = ? WHERE id = ?');

  const found = (changes: number, id: string): void => {
    if (changes === 0) throw new UserError(404, `there is no fabric ${id.slice(0, 64)}`);
  };
  const ofRow = ({ measured, ...row }: FabricRow): OwnFabric => ({
    ...row,
    measured: parseMeasured(JSON.parse(measured)),
  });
  return {
    all: () =>
      select
        .all()
        .map(ofRow)
        .sort((a, b) => a.measured.name.localeCompare(b.measured.name, 'en')),
    add: (fabric) => {
      const id = `own-${randomUUID()}`;
      insert.run({ ...fabric, id, measured: JSON.stringify(fabric.measured), at: now() });
      return { ...fabric, id };
    },
    save: (id, fabric) => {
      found(update.run({ ...fabric, id, measured: JSON.stringify(fabric.measured) }).changes, id);
      return { ...fabric, id };
    },
    remove: (id) => found(mark.run(now(), id).changes, id),
    restore: (id) => found(mark.run(null, id).changes, id),
  };
}
