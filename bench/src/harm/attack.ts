import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { heading } from '../print.js';
import { hostileFiles } from './files.js';
import { hostileRequests } from './requests.js';
import { ask, percentile, startServer, stopServer, type Answer } from './server.js';

const HANG_MS = 10_000;
const SAMPLE_MS = 50;

const memoryOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
/**
 * Does what an attacker, or a careless person, would do to a server of its own, and counts what that did.
 * @returns faults
 */
export async function attack(fileCount: number, requestCount: number, seeds: string): Promise<number> {
  heading('Hostile files and requests', `${fileCount} files, ${requestCount} requests, seed ${seeds}`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-harm-'));
  // Made first: whoever makes them cannot measure how long others wait.
  const corpora = seeds.split(',').map((seed) => ({
    seed,
    files: hostileFiles(fileCount, Number(seed)),
    requests: hostileRequests(requestCount, Number(seed)),
  }));
  const server = await startServer(folder);
  const { child, address } = server;
  let ended = false;
  child.on('exit', () => (ended = true));
  const waits: number[] = [];
  let most = 0;
  let probing = true;
  /** What is being asked, and what was while others waited longest. */
  let asking = '';
  let longest = { ms: 0, during: '' };
  const probe = (async () => {
    while (probing && !ended) {
      const { ms } = await ask(address, 'GET', '/api/projects', {});
      waits.push(ms);
      if (ms > longest.ms) longest = { ms, during: asking };
      most = Math.max(most, memoryOf(child.pid ?? 0));
      await new Promise((resolve) => setTimeout(resolve, SAMPLE_MS));
    }
  })();

  const counts = new Map<string, number>();
  const slow: string[] = [];
  const faults: string[] = [];
  function count(what: string, { status, ms, text }: Answer): void {
    const kind = status < 0 ? 'not sent' : `${Math.floor(status / 100)}xx`;
    counts.set(kind, (counts.get(kind) ?? 0) + 1);
    if (ms > HANG_MS) slow.push(`${what}: ${(ms / 1000).toFixed(1)} s (${status})`);
    // A queue that is full and says so is no fault.
    if (status === 0 || (status >= 500 && status !== 503)) faults.push(`${what}: ${status} ${text.slice(0, 160)}`);
  }

  for (const { seed, files, requests } of corpora) {
    for (const { what, bytes } of files) {
      asking = what;
      const read = await ask(address, 'POST', '/api/pictures', { 'content-type': 'application/octet-stream' }, bytes);
      count(`seed ${seed}, ${what}`, read);
      if (read.status !== 201) continue;
      const { hash } = JSON.parse(read.text) as { hash: string };
      const body = JSON.stringify({ name: what, picture: hash });
      asking = `project of ${what}`;
      count(
        `seed ${seed}, project of ${what}`,
        await ask(address, 'POST', '/api/projects', { 'content-type': 'application/json' }, body),
      );
    }
    for (const { method, path, headers, body } of requests) {
      asking = `${method} ${path}`;
      count(
        `seed ${seed}, ${method} ${path} ${body?.slice(0, 60) ?? ''}`,
        await ask(address, method, path, headers, body),
      );
    }
  }
  probing = false;
  await probe;
  const crashed = ended;
  await stopServer(server);
  const strangers = readdirSync(folder).filter(
    (name) => !/^(open-kite\.(sqlite(-wal|-shm)?|lock)|backups)$/.test(name),
  );
  rmSync(folder, { recursive: true });

  console.log(`answers: ${[...counts].map(([kind, n]) => `${n} ${kind}`).join(', ')}`);
  console.log(
    `over ${HANG_MS / 1000} s: ${slow.length}; crashed: ${crashed ? 1 : 0}; 5xx or broken off: ${faults.length}; files written beside the store: ${strangers.length}`,
  );
  console.log(`memory of the server at most ${most.toFixed(0)} MB`);
  console.log(
    `answers to others meanwhile: median ${percentile(waits, 0.5).toFixed(0)} ms, 95 % ${percentile(waits, 0.95).toFixed(0)} ms, longest ${longest.ms.toFixed(0)} ms (${longest.during}), of ${waits.length}`,
  );
  for (const line of [...slow, ...faults].slice(0, 20)) console.log(`  ${line}`);
  return slow.length + faults.length + strangers.length + (crashed ? 1 : 0);
}
