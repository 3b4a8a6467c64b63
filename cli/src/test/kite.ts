import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('../../..', import.meta.url));

/** The command line as it is run. */
export const BINARY = join(ROOT, 'cli/bin/open-kite.js');

export interface Ended {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the command line as users do. */
export function kite(...args: string[]): Promise<Ended> {
  return new Promise((resolve) => {
    execFile(process.execPath, [BINARY, ...args], { maxBuffer: 1 << 26 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });
}
