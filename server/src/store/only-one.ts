import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { UserError } from '../user-error.js';
import { storeFault } from './store-fault.js';

/**
 * Holds a folder for one server, before anything in it is opened: SQLite's own lock on a file of its own, which the system
 * lets go even of a server that is killed.
 * @returns lets it go
 * @throws UserError where another server has it, or it cannot be written
 */
export function holdFolder(folder: string): () => void {
  const path = join(folder, 'open-kite.lock');
  let lock: Database.Database | undefined;
  try {
    mkdirSync(folder, { recursive: true });
    lock = new Database(path, { timeout: 0 });
    lock.pragma('journal_mode = DELETE');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock?.close();
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw storeFault(path, error);
    throw new UserError(409, `store: another Open Kite is already using ${folder}`);
  }
  const held = lock;
  return () => void held.close();
}
