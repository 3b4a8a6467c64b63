// Does what an attacker, or a careless person, would do to a server of its own, and counts what that did. Seeds in the
// first argument, files and requests a seed in the second and third.
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { hostileFiles } from './files.js';
import { hostileRequests } from './requests.js';

const CLI = fileURLToPath(new URL('../../../cli/bin/open-kite.js', import.meta.url));
const HANG_MS = 10_000;
const SAMPLE_MS = 50;

const [seeds = '1', fileCount = '400', requestCount = '300'] = process.argv.slice(2);
const folder = mkdtempSync(join(tmpdir(), 'open-kite-harm-'));

async function start(): Promise<{ child: ChildProcess; address: URL }> {
  const child = spawn('node', [CLI, 'serve', '--port', '0', '--data', folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.on('exit', () => reject(new Error('the server ended')));
    child.stdout.on('data', (part: Buffer) => {
      const found = /http:\/\/\S+/.exec(part.toString());
      if (found) resolve(found[0]);
    });
  });
  return { child, address: new URL(address) };
}

interface Answer {
  readonly status: number;
  readonly ms: number;
  readonly text: string;
}

function ask(
  address: URL,
  method: string,
  path: string,
  headers: Readonly<Record<string, string>>,
  body?: Buffer | string,
): Promise<Answer> {
  const from = performance.now();
  const length = body === undefined ? {} : { 'content-length': String(Buffer.byteLength(body)) };
  return new Promise((resolve) => {
    const done = (status: number, text: string): void => resolve({ status, text, ms: performance.now() - from });
    try {
      const sent = request(
        {
          hostname: address.hostname,
          port: address.port,
          method,
          path,
          headers: { ...headers, ...length },
          timeout: 60_000,
          agent: false,
        },
        (got) => {
          const parts: Buffer[] = [];
          got.on('data', (part: Buffer) => parts.push(part));
          got.on('end', () => done(got.statusCode ?? 0, Buffer.concat(parts).toString()));
          got.on('error', () => done(0, 'broken'));
        },
      );
      sent.on('error', (error) => done(0, error.message));
      sent.on('timeout', () => sent.destroy(new Error('no answer in a minute')));
      sent.end(body);
    } catch (error) {
      // What cannot even be written as a request harms nobody.
      done(-1, (error as Error).message);
    }
  });
}

const memoryOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
const percentile = (list: readonly number[], share: number): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0;

// Made first: whoever makes them cannot measure how long others wait.
const corpora = seeds.split(',').map((seed) => ({
  seed,
  files: hostileFiles(Number(fileCount), Number(seed)),
  requests: hostileRequests(Number(requestCount), Number(seed)),
}));
const { child, address } = await start();
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
child.kill('SIGTERM');
await new Promise((resolve) => (ended ? resolve(undefined) : child.once('exit', resolve)));
const strangers = readdirSync(folder).filter((name) => !/^(open-kite\.(sqlite(-wal|-shm)?|lock)|backups)$/.test(name));
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
process.exitCode = slow.length + faults.length + strangers.length + (crashed ? 1 : 0) > 0 ? 1 : 0;
