import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';

const MIGRATIONS = fileURLToPath(new URL('../../migrations', import.meta.url));

/**
 * Opens the store and brings it up to date. Migrations are numbered .sql files; each runs once, in a transaction.
 * @param path file, or `:memory:`
 * @throws Error if the file was written by a newer version.
 */
export function openDatabase(path: string): Database.Database {
  if (path !== ':memory:') mkdirSync(dirname(path), { recursive: true });
  const db = new Database(path);
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = NORMAL');
  db.pragma('busy_timeout = 3000');
  // Tables are rebuilt by some migrations, which must not take along what refers to them.
  db.pragma('foreign_keys = OFF');
  const files = readdirSync(MIGRATIONS)
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort();
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > files.length) {
    db.close();
    throw new Error(`store: ${path} was written by a newer version (${done}; this one knows ${files.length})`);
  }
  files.slice(done).forEach((name, i) => {
    db.transaction(() => {
      db.exec(readFileSync(join(MIGRATIONS, name), 'utf8'));
      const broken = db.pragma('foreign_key_check') as unknown[];
      if (broken.length > 0) throw new Error(`store: ${path} refers to ${broken.length} things that are not there`);
      db.pragma(`user_version = ${done + i + 1}`);
    })();
  });
  db.pragma('foreign_keys = ON');
  return db;
}
