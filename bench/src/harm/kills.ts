import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seededRandom } from '@open-kite/core/testing';
import { heading, line } from '../print.js';
import { Saver } from './saving.js';
import { startServer, stopServer } from './server.js';
import { integrityOf } from './store-check.js';

const SAVERS = 4;

/** Kills a server at random moments while people save, and asks the next one for what was acknowledged. */
export async function kills(count: number, seed: number): Promise<number> {
  heading('Kills', `${count} times SIGKILL within 0.4 s of work by ${SAVERS} people, seed ${seed}`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-kills-'));
  const random = seededRandom(seed);
  const people = Array.from({ length: SAVERS }, (_, i) => new Saver(`Kite ${i}`));
  let [kept, lost, slowest, acknowledged] = [0, 0, 0, 0];
  try {
    for (let k = 0; k < count; k++) {
      const from = performance.now();
      const server = await startServer(folder);
      slowest = Math.max(slowest, performance.now() - from);
      for (const person of people) {
        if (await person.isKept(server.address)) kept++;
        else lost++;
      }
      let killed = false;
      const working = people.map(async (person) => {
        while (!killed) if ((await person.work(server.address)).status < 300) acknowledged++;
      });
      await new Promise((resolve) => setTimeout(resolve, random() * 400));
      killed = true;
      await stopServer(server, 'SIGKILL');
      await Promise.all(working);
    }
    const integrity = integrityOf(join(folder, 'open-kite.sqlite'));
    line('acknowledged saves lost', `${lost} of ${kept + lost}`, '0');
    line('saves in between; integrity at the end', `${acknowledged}; ${integrity}`, 'ok');
    line('until the next server answers, at most', `${slowest.toFixed(0)} ms`);
    return lost + (integrity === 'ok' ? 0 : 1);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
