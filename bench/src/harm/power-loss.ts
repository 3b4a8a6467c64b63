import { copyFileSync, existsSync, mkdirSync, mkdtempSync, rmSync, truncateSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seededRandom } from '@open-kite/core/testing';
import { heading, line } from '../print.js';
import { Saver } from './saving.js';
import { startServer, stopServer } from './server.js';
import { integrityOf } from './store-check.js';

const STORE = 'open-kite.sqlite';

/**
 * Takes the files of a store at random moments of writing, as a cut of the power would leave them, and asks a server on
 * them for what was acknowledged. Every other time the write that was under way is torn as well: the end of the journal is
 * missing, which nobody had been told of yet.
 */
export async function powerLoss(count: number, seed: number): Promise<number> {
  heading('Power cuts', `the files of the store taken ${count} times while somebody saves, seed ${seed}`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-power-'));
  const random = seededRandom(seed);
  const person = new Saver('Kite');
  const server = await startServer(join(folder, 'running'));
  let [lost, broken, torn] = [0, 0, 0];
  let working = true;
  const work = (async () => {
    while (working) await person.work(server.address);
  })();
  try {
    for (let k = 0; k < count; k++) {
      await new Promise((resolve) => setTimeout(resolve, 20 + random() * 200));
      server.child.kill('SIGSTOP');
      await new Promise((resolve) => setTimeout(resolve, 10));
      const cut = join(folder, `cut-${k}`);
      mkdirSync(cut);
      for (const end of ['', '-wal']) {
        const from = join(folder, 'running', STORE + end);
        if (existsSync(from)) copyFileSync(from, join(cut, STORE + end));
      }
      const before = person.acknowledged;
      server.child.kill('SIGCONT');
      // What follows the last commit is only what was being written: a torn end must not take anything before it along.
      const journal = join(cut, `${STORE}-wal`);
      if (k % 2 === 1 && existsSync(journal)) {
        const { size } = statSync(journal);
        if (size > 0) {
          truncateSync(journal, size - Math.floor(random() * Math.min(size, 24)) - 1);
          torn++;
        }
      }
      const found = integrityOf(join(cut, STORE));
      if (found !== 'ok') broken++;
      const after = await startServer(cut);
      const names = JSON.parse(await (await fetch(new URL('/api/projects', after.address))).text()) as {
        name: string;
      }[];
      await stopServer(after);
      // A torn last commit may be the one that was just being acknowledged.
      const number = (name: string): number => Number(/\d+$/.exec(name)?.[0] ?? 0);
      const least = number(before) - (k % 2 === 1 ? 1 : 0);
      if (before !== '' && Math.max(0, ...names.map(({ name }) => number(name))) < least) lost++;
      rmSync(cut, { recursive: true });
    }
  } finally {
    working = false;
    await stopServer(server);
    await work;
    rmSync(folder, { recursive: true });
  }
  line('acknowledged saves lost', `${lost} of ${count}`, '0');
  line('stores that were not whole; with a torn end', `${broken}; ${torn}`, '0');
  return lost + broken;
}
