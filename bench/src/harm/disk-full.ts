import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { heading, line } from '../print.js';
import { Saver } from './saving.js';
import { startServer, stopServer, type Answer } from './server.js';
import { integrityOf } from './store-check.js';

/** Fills the disk of a store, goes on saving, and makes room again. */
export async function diskFull(times: number): Promise<number> {
  heading('A full disk', `a disk of 6 MB of its own, filled ${times} times while somebody saves`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=6m', 'tmpfs', folder], { stdio: 'ignore' });
  } catch {
    rmdirSync(folder);
    console.log('  not run: a disk of its own cannot be mounted here');
    return 0;
  }
  let faults = 0;
  try {
    for (let k = 0; k < times; k++) {
      const person = new Saver('Kite');
      let server = await startServer(join(folder, 'data'));
      await person.work(server.address);
      const filler = join(folder, 'filler');
      for (let size = 6 << 20; size > 512; size >>= 1) {
        try {
          writeFileSync(`${filler}-${size}`, Buffer.alloc(size));
        } catch {
          // Smaller ones may still fit.
        }
      }
      const answers: Answer[] = [];
      for (let i = 0; i < 40; i++) answers.push(await person.work(server.address));
      const refused = answers.filter(({ status }) => status >= 300);
      const said = refused.filter(({ status, text }) => status === 503 && text.includes('no room left'));
      line('saves refused for want of room, in words', `${said.length} of ${refused.length}`, 'all');
      if (refused.length === 0 || said.length < refused.length) faults++;
      const read = await person.isKept(server.address);
      for (let size = 6 << 20; size > 512; size >>= 1) rmSync(`${filler}-${size}`, { force: true });
      const again = await person.work(server.address);
      await stopServer(server, 'SIGKILL');
      const integrity = integrityOf(join(folder, 'data', 'open-kite.sqlite'));
      server = await startServer(join(folder, 'data'));
      const kept = await person.isKept(server.address);
      await stopServer(server);
      line(
        'read meanwhile; saved once there is room; kept; integrity',
        `${read}; ${again.status}; ${kept}; ${integrity}`,
      );
      if (!read || again.status !== 200 || !kept || integrity !== 'ok') faults++;
    }
  } finally {
    execFileSync('umount', [folder]);
    rmdirSync(folder);
  }
  return faults;
}
