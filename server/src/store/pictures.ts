import type { Database } from 'better-sqlite3';
import type { Picture } from '@open-kite/contract';
import { UserError } from '../user-error.js';

export interface StoredPicture extends Picture {
  readonly png: Buffer;
  readonly source: Buffer | null;
}

/** Pictures by content hash. */
export interface PictureStore {
  /** Stores a picture once; a second time changes nothing. */
  add(picture: StoredPicture): void;
  /** Forgets pictures no project uses that were uploaded before a moment; gives how many. */
  sweep(before: string): number;
  /** @throws UserError 404 */
  info(hash: string): Picture;
  /** @throws UserError 404 */
  get(hash: string): StoredPicture;
}

export function createPictureStore(db: Database, now: () => string): PictureStore {
  const insert = db.prepare(
    `INSERT INTO picture (hash, width, height, kind, png, source, created_at)
     VALUES (@hash, @width, @height, @kind, @png, @source, @createdAt) ON CONFLICT (hash) DO NOTHING`,
  );
  const selectInfo = db.prepare<[string], Picture>('SELECT hash, width, height, kind FROM picture WHERE hash = ?');
  const select = db.prepare<[string], StoredPicture>(
    'SELECT hash, width, height, kind, png, source FROM picture WHERE hash = ?',
  );
  const sweep = db.prepare(
    'DELETE FROM picture WHERE created_at < ? AND hash NOT IN (SELECT picture_hash FROM project_picture)',
  );
  const found = <T>(row: T | undefined, hash: string): T => {
    if (!row) throw new UserError(404, `there is no picture ${hash.slice(0, 64)}`);
    return row;
  };
  return {
    add: (picture) => void insert.run({ ...picture, createdAt: now() }),
    sweep: (before) => sweep.run(before).changes,
    info: (hash) => found(selectInfo.get(hash), hash),
    get: (hash) => found(select.get(hash), hash),
  };
}
