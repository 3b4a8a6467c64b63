import { UserError } from '../user-error.js';
import { backupsOf } from './backups.js';

const DAMAGED = /NOTADB|CORRUPT/;
const FULL = /FULL|ENOSPC/;
const UNWRITABLE = /READONLY|EACCES|EROFS|EPERM|CANTOPEN|EISDIR|ENOTDIR|EEXIST/;

/** A fault of the file itself. */
class DamagedStore extends UserError {}

/** Whether a store could not be opened because its file is damaged, or a statement met a damaged page. */
export const isDamage = (error: unknown): boolean =>
  error instanceof DamagedStore || DAMAGED.test((error as { code?: unknown } | undefined)?.code as string);

/** What SQLite or the system says of a store, in a sentence about the file. */
export function storeFault(path: string, error: unknown): UserError {
  if (error instanceof UserError) return error;
  const { code = '', message = '' } = error as { code?: string; message?: string };
  const [newest] = backupsOf(path);
  const backup = newest ? `; the last backup is ${newest}` : '';
  if (DAMAGED.test(code)) return new DamagedStore(422, `store: ${path} is damaged${backup}`);
  if (UNWRITABLE.test(code)) {
    return new UserError(422, `store: ${path} cannot be written: check the folder and its rights`);
  }
  if (FULL.test(code)) return new UserError(422, `store: there is no room left on the disk of ${path}`);
  return new UserError(422, `store: ${path} cannot be opened (${message.slice(0, 120)})`);
}

/** What a statement that could not be carried out is told as, where the disk or the file is to blame; undefined else. */
export function writeFault(error: unknown): UserError | undefined {
  const { code } = (error ?? {}) as { code?: unknown };
  if (typeof code !== 'string' || !code.startsWith('SQLITE_')) return undefined;
  if (FULL.test(code))
    return new UserError(503, 'there is no room left on the disk of the server; nothing was changed');
  if (UNWRITABLE.test(code) || code.startsWith('SQLITE_IOERR')) {
    return new UserError(503, 'the store of the server cannot be written; nothing was changed');
  }
  return undefined;
}
