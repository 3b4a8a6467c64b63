import { join } from 'node:path';
import Database from 'better-sqlite3';
import { UserError } from '../user-error.js';

/**
 * Holds a folder for one server: SQLite's own lock on a file of its own, which the system lets go even of a server that is
 * killed.
 * @returns lets it go
 * @throws UserError where another server has it
 */
export function holdFolder(folder: string): () => void {
  const lock = new Database(join(folder, 'open-kite.lock'), { timeout: 0 });
  try {
    lock.pragma('journal_mode = DELETE');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
    throw new UserError(409, `store: another Open Kite is already using ${folder}`);
  }
  return () => void lock.close();
}
