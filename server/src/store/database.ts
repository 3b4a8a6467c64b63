import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';
import { UserError } from '../user-error.js';
import { backUpBefore } from './backups.js';
import { isDamage, storeFault } from './store-fault.js';

const MIGRATIONS = fileURLToPath(new URL('../../migrations', import.meta.url));

/** An open store, and what is wrong with it. */
export interface OpenStore {
  readonly db: Database.Database;
  /** Said of a store with damaged pages: it is only read, as far as it can be. */
  readonly damage?: string;
}

/**
 * Opens the store for a server. One with damaged pages is opened to be read, so that what is left can be taken out.
 * @throws UserError as `openDatabase` does, where not even that is possible
 */
export function openStore(path: string): OpenStore {
  try {
    return { db: openDatabase(path) };
  } catch (error) {
    const db = isDamage(error) ? openToRead(path) : undefined;
    if (!db) throw error;
    return { db, damage: (error as UserError).message };
  }
}

/** A store nothing is written to; undefined where its tables are not there, or are those of another version. */
function openToRead(path: string): Database.Database | undefined {
  let db: Database.Database | undefined;
  try {
    db = new Database(path, { readonly: true, fileMustExist: true });
    db.prepare('SELECT COUNT(*) FROM project').get();
    if (db.pragma('user_version', { simple: true }) === migrations().length) return db;
  } catch {
    // What cannot even be read is told as it was found.
  }
  db?.close();
  return undefined;
}

const migrations = (): string[] =>
  readdirSync(MIGRATIONS)
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort();

/**
 * Opens the store and brings it up to date. Migrations are numbered .sql files; each runs once, in a transaction, after a
 * backup. A store that is damaged is found here, not in the middle of the work.
 * @param path file, or `:memory:`
 * @throws UserError with the path where it is damaged, cannot be written, or was written by a newer version
 */
export function openDatabase(path: string): Database.Database {
  try {
    if (path !== ':memory:') mkdirSync(dirname(path), { recursive: true });
    const db = new Database(path);
    try {
      return upToDate(db, path);
    } catch (error) {
      db.close();
      throw error;
    }
  } catch (error) {
    throw storeFault(path, error);
  }
}

function upToDate(db: Database.Database, path: string): Database.Database {
  db.pragma('journal_mode = WAL');
  // What was acknowledged outlasts a power cut too.
  db.pragma('synchronous = FULL');
  db.pragma('busy_timeout = 3000');
  const faults = db.pragma('quick_check(1)', { simple: true }) as string;
  if (faults !== 'ok') throw Object.assign(new Error(faults), { code: 'SQLITE_CORRUPT' });
  // Tables are rebuilt by some migrations, which must not take along what refers to them.
  db.pragma('foreign_keys = OFF');
  const files = migrations();
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > files.length) {
    throw new UserError(422, `store: ${path} was written by a newer version (${done}; this one knows ${files.length})`);
  }
  if (done > 0 && done < files.length && path !== ':memory:') backUpBefore(db, path, done + 1);
  files.slice(done).forEach((name, i) => {
    db.transaction(() => {
      db.exec(readFileSync(join(MIGRATIONS, name), 'utf8'));
      const broken = db.pragma('foreign_key_check') as unknown[];
      if (broken.length > 0) throw new Error(`it refers to ${broken.length} things that are not there`);
      db.pragma(`user_version = ${done + i + 1}`);
    })();
  });
  db.pragma('foreign_keys = ON');
  return db;
}
