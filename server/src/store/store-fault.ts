import { UserError } from '../user-error.js';
import { backupsOf } from './backups.js';

/** What SQLite or the system says of a store, in a sentence about the file. */
export function storeFault(path: string, error: unknown): UserError {
  if (error instanceof UserError) return error;
  const { code = '', message = '' } = error as { code?: string; message?: string };
  const [newest] = backupsOf(path);
  const backup = newest ? `; the last backup is ${newest}` : '';
  if (/NOTADB|CORRUPT/.test(code)) return new UserError(422, `store: ${path} is damaged${backup}`);
  if (/READONLY|EACCES|EROFS|EPERM|CANTOPEN|EISDIR|ENOTDIR|EEXIST/.test(code)) {
    return new UserError(422, `store: ${path} cannot be written: check the folder and its rights`);
  }
  if (/FULL|ENOSPC/.test(code)) return new UserError(422, `store: there is no room left on the disk of ${path}`);
  return new UserError(422, `store: ${path} cannot be opened (${message.slice(0, 120)})`);
}
