import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { heading, line } from '../print.js';
import { Saver } from './saving.js';
import { askJson, percentile, startServer, stopServer } from './server.js';

const SECONDS = 60;
/** A person saves at most so often. */
const PAUSE_MS = 250;

/** People who save and read at the same time. */
export async function clients(count: number): Promise<number> {
  heading('Clients', `${count} save and read for ${SECONDS} s on loopback, each every ${PAUSE_MS} ms`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-clients-'));
  const server = await startServer(folder);
  const [times, errors]: [number[], string[]] = [[], []];
  const end = performance.now() + SECONDS * 1000;
  await Promise.all(
    Array.from({ length: count }, async (_, i) => {
      const person = new Saver(`Kite ${i}`);
      await new Promise((resolve) => setTimeout(resolve, (i / count) * PAUSE_MS));
      while (performance.now() < end) {
        for (const answer of [
          await person.work(server.address),
          await askJson(server.address, 'GET', '/api/projects'),
        ]) {
          times.push(answer.ms);
          if (answer.status >= 300 || answer.status <= 0) errors.push(`${answer.status} ${answer.text.slice(0, 80)}`);
        }
        await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      }
    }),
  );
  await stopServer(server);
  rmSync(folder, { recursive: true });
  line('errors', `${errors.length} of ${times.length}`, '0');
  line(
    'answers: median, 95th percentile',
    `${percentile(times, 0.5).toFixed(0)}, ${percentile(times, 0.95).toFixed(0)} ms`,
    '100 ms',
  );
  for (const error of errors.slice(0, 5)) console.log(`  ${error}`);
  return errors.length;
}
