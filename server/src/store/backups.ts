import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database, { type Database as Store } from 'better-sqlite3';
import { Piscina } from 'piscina';

/** Backups that are kept. */
export const KEPT_BACKUPS = 7;
const DAY_MS = 86_400_000;

const folderOf = (path: string): string => join(dirname(path), 'backups');

/** Backups of a store, the newest first. */
export function backupsOf(path: string): string[] {
  try {
    return readdirSync(folderOf(path))
      .filter((name) => /^\d{8}-\d{6}.*\.sqlite$/.test(name))
      .sort()
      .reverse()
      .map((name) => join(folderOf(path), name));
  } catch {
    return [];
  }
}

/** `20260502-101500`, in UTC. */
const stamp = (at: Date): string => at.toISOString().replace(/[-:]/g, '').replace('T', '-').slice(0, 15);

/** Where the next backup goes; the oldest make room for it. */
function nextBackup(path: string, at: Date, why: string): string {
  mkdirSync(folderOf(path), { recursive: true });
  for (const old of backupsOf(path).slice(KEPT_BACKUPS - 1)) rmSync(old, { force: true });
  const next = join(folderOf(path), `${stamp(at)}${why}.sqlite`);
  rmSync(next, { force: true });
  return next;
}

/** A backup at once, before something changes the whole store. */
export function backUpBefore(db: Store, path: string, version: number): void {
  db.prepare('VACUUM INTO ?').run(nextBackup(path, new Date(), `-before-${version}`));
}

/** Copies a store while it is in use; the task of a thread, since the disk may take seconds. */
export function copyStore({ path, to }: { readonly path: string; readonly to: string }): void {
  const db = new Database(path, { readonly: true, timeout: 10_000 });
  try {
    db.prepare('VACUUM INTO ?').run(to);
  } finally {
    db.close();
  }
}

/** One backup a day while the server runs. */
export async function backUpDaily(path: string, now: Date = new Date()): Promise<void> {
  const [newest] = backupsOf(path);
  const made = /(\d{4})(\d\d)(\d\d)-(\d\d)(\d\d)(\d\d)[^/\\]*$/
    .exec(newest ?? '')
    ?.slice(1)
    .map(Number);
  if (made) {
    const [year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0] = made;
    if (now.getTime() - Date.UTC(year, month - 1, day, hour, minute, second) < DAY_MS) return;
  }
  const pool = new Piscina({ filename: fileURLToPath(import.meta.url), name: 'copyStore', maxThreads: 1 });
  try {
    await pool.run({ path, to: nextBackup(path, now, '') });
  } finally {
    await pool.destroy();
  }
}
