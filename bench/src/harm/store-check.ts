import { openDatabase } from '@open-kite/server';

/** What SQLite says of a store: `ok`, or its first complaint. */
export function integrityOf(path: string): string {
  const db = openDatabase(path);
  try {
    return db.pragma('integrity_check(1)', { simple: true }) as string;
  } finally {
    db.close();
  }
}
