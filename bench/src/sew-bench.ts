import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { seededRandom } from '@open-kite/core/testing';
import { startRig } from '@open-kite/e2e/browser';
import { flatArt } from './hand/art.js';
import { ask, askJson, startServer, stopServer, type HarmedServer } from './harm/server.js';
import { heading, line } from './print.js';

const CLI = fileURLToPath(new URL('../../cli/bin/open-kite.js', import.meta.url));
const THREADS = ['#204060', '#c04020', '#e6b23c'];

/** A stitch list of so many needle points: rows to and fro, three threads, ties aside. */
export function scriptedList(stitches: number): string {
  const out = ['# open-kite stitches 1', '# size_mm,90.0,90.0', '# fabric,quilting-cotton,#f4f1ea'];
  THREADS.forEach((hex, i) => out.push(`# thread,${i},T${i},Thread ${i},${hex},own`));
  out.push('x_mm,y_mm,command,thread,piece', '-43.500,44.000,jump,0,p1');
  const part = Math.ceil(stitches / THREADS.length);
  for (let i = 0; i < stitches; i++) {
    const thread = Math.min(THREADS.length - 1, Math.floor(i / part));
    const [column, row] = [i % 30, Math.floor(i / 30)];
    const x = (row % 2 === 0 ? column : 29 - column) * 3 - 43.5;
    // Down, then up again: no stitch leads across the whole field.
    const y = Math.abs(((row * 0.4) % 176) - 88) - 44;
    if (i > 0 && i % part === 0)
      out.push(
        `${x.toFixed(3)},${y.toFixed(3)},trim,${thread - 1},`,
        `${x.toFixed(3)},${y.toFixed(3)},change,${thread},`,
      );
    out.push(`${x.toFixed(3)},${y.toFixed(3)},stitch,${thread},p${thread + 1}`);
  }
  out.push(`0.000,0.000,end,${THREADS.length - 1},`);
  return out.join('\n') + '\n';
}

interface Job {
  readonly state: string;
  readonly stitch: number;
  readonly stitches: number;
  readonly report: { readonly threads: readonly { readonly stitches: number }[] } | null;
}

const jobOf = async ({ address }: HarmedServer, id: string): Promise<Job> =>
  JSON.parse((await askJson(address, 'GET', `/api/machine/jobs/${id}`)).text) as Job;

const configure = ({ address }: HarmedServer, timeScale: number): Promise<unknown> =>
  askJson(address, 'PUT', '/api/machine', { needles: 6, hoop: '130x180', speed: 800, timeScale });

async function add({ address }: HarmedServer, list: string): Promise<string> {
  const { text } = await ask(address, 'POST', '/api/machine/jobs?name=Bench', { 'content-type': 'text/csv' }, list);
  return (JSON.parse(text) as { id: string }).id;
}

/** Does whatever a job waits for, until it is done. */
async function toTheEnd(server: HarmedServer, id: string): Promise<Job> {
  const next: Readonly<Record<string, string>> = {
    ready: 'start',
    paused: 'resume',
    waiting: 'threaded',
    broken: 'mended',
  };
  for (;;) {
    const job = await jobOf(server, id);
    if (job.state === 'done') return job;
    const action = next[job.state];
    if (action) await askJson(server.address, 'POST', `/api/machine/jobs/${id}/actions`, { action });
    else await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

const KILLS = 30;
/** Sewn this many times as fast as a real machine: half a second of that is so many stitches. */
const SCALE = 20;
const LOST_AT_MOST = Math.ceil((800 / 60) * SCALE * 0.5);

async function machineBench(seed: number): Promise<void> {
  heading('Practice machine', `12 000 stitches, three threads, a server of its own, seed ${seed}`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-sew-'));
  const list = scriptedList(12_000);
  let server = await startServer(folder);
  try {
    await configure(server, 100_000);
    const from = performance.now();
    const fast = await toTheEnd(server, await add(server, list));
    const sewn = fast.report?.threads.reduce((sum, { stitches }) => sum + stitches, 0);
    line(
      'sewn at 100 000 times; stitches of the report',
      `${(performance.now() - from).toFixed(0)} ms; ${sewn} of 12000`,
    );

    await configure(server, SCALE);
    const id = await add(server, list);
    await askJson(server.address, 'POST', `/api/machine/jobs/${id}/actions`, { action: 'start' });
    const random = seededRandom(seed);
    let [back, most, wrong] = [0, 0, 0];
    for (let k = 0; k < KILLS; k++) {
      await new Promise((resolve) => setTimeout(resolve, 100 + random() * 600));
      const before = await jobOf(server, id);
      await stopServer(server, 'SIGKILL');
      server = await startServer(folder);
      const after = await jobOf(server, id);
      if (after.state === 'paused' || after.state === 'waiting') back++;
      else wrong++;
      most = Math.max(most, before.stitch - after.stitch);
      const action = after.state === 'waiting' ? 'threaded' : 'resume';
      await askJson(server.address, 'POST', `/api/machine/jobs/${id}/actions`, { action });
    }
    line('killed at random; came back at its stitch', `${KILLS}; ${back}`, String(KILLS));
    line('stitches lost at most (half a second is so many)', `${most} (${LOST_AT_MOST})`, String(LOST_AT_MOST));
    await configure(server, 100_000);
    const done = await toTheEnd(server, id);
    const all = done.report?.threads.reduce((sum, { stitches }) => sum + stitches, 0);
    line('its report afterwards', `${all} of 12000 stitches${wrong > 0 ? `, ${wrong} wrong` : ''}`);
  } finally {
    await stopServer(server);
    rmSync(folder, { recursive: true });
  }
}

async function browserPart(): Promise<void> {
  heading('In the browser', 'headless Chromium and server side by side');
  const rig = await startRig(false);
  try {
    const file = join(rig.folder, 'large.csv');
    writeFileSync(file, scriptedList(200_000));
    const { page } = await rig.open('/');
    const from = performance.now();
    await (await page.$('input[type=file]'))?.uploadFile(file);
    await page.waitForFunction(() => performance.getEntriesByName('kite-tile').length > 0, { timeout: 60_000 });
    line('a list of 200 000 stitches, chosen, to its first tile', `${(performance.now() - from).toFixed(0)} ms`, '2 s');
    await page.close();

    const address = new URL(rig.server.address);
    const server = { address } as HarmedServer;
    await configure(server, 40);
    const id = await add(server, scriptedList(12_000));
    // Its page listens all the time: it never comes to rest.
    const machine = await rig.browser.newPage();
    await machine.setViewport({ width: 1280, height: 800 });
    await machine.goto(`${rig.server.address}/machine`, { waitUntil: 'domcontentloaded' });
    await machine.waitForSelector('kite-sewn-canvas');
    await askJson(address, 'POST', `/api/machine/jobs/${id}/actions`, { action: 'start' });
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const [frames, longest] = await machine.evaluate(
      () =>
        new Promise<[number, number]>((resolve) => {
          let [count, worst, last] = [0, 0, performance.now()];
          const begin = last;
          const step = (): void => {
            const now = performance.now();
            count++;
            worst = Math.max(worst, now - last);
            last = now;
            if (now - begin > 5000) resolve([(count / (now - begin)) * 1000, worst]);
            else requestAnimationFrame(step);
          };
          requestAnimationFrame(step);
        }),
    );
    line(
      'frames a second of its page while it sews; the longest',
      `${frames.toFixed(0)}; ${longest.toFixed(0)} ms`,
      '60',
    );
  } finally {
    await rig.close();
  }
}

async function bulkBench(pictures: number, seed: number): Promise<void> {
  heading('Bulk', `${pictures} scripted pictures of 800 pixels, 6 colours, by the command line, seed ${seed}`);
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-bulk-'));
  const inputs = join(folder, 'in');
  mkdirSync(inputs);
  for (let k = 0; k < pictures; k++) {
    const { svg } = flatArt(seed + k);
    await sharp(Buffer.from(svg))
      .resize(800)
      .flatten({ background: '#ffffff' })
      .png()
      .toFile(join(inputs, `p${k}.png`));
  }
  const run = (out: string, jobs: number): number => {
    const from = performance.now();
    spawnSync('node', [CLI, 'batch', inputs, '--out', out, '--jobs', String(jobs), '--colours', '6', '--width', '80']);
    return performance.now() - from;
  };
  const [one, two] = [run(join(folder, 'one'), 1), run(join(folder, 'two'), 2)];
  line(
    'one worker against two',
    `${(one / two).toFixed(2)} x (${(one / 1000).toFixed(1)}, ${(two / 1000).toFixed(1)} s)`,
    '1.8',
  );
  // Killed in the middle, and begun again: what was made stays as it was.
  const out = join(folder, 'killed');
  const child = spawn('node', [CLI, 'batch', inputs, '--out', out, '--jobs', '2', '--colours', '6', '--width', '80']);
  await new Promise((resolve) => setTimeout(resolve, two * 0.5));
  child.kill('SIGKILL');
  await new Promise((resolve) => setTimeout(resolve, 300));
  const made = new Map(
    readdirSync(out)
      .filter((name) => name.endsWith('.kite'))
      .map((name) => [name, statSync(join(out, name)).mtimeMs]),
  );
  run(out, 2);
  const again = [...made].filter(([name, at]) => statSync(join(out, name)).mtimeMs !== at).length;
  const all = readdirSync(out).filter((name) => name.endsWith('.kite')).length;
  line('killed half-way; made twice; there at the end', `${made.size} made; ${again}; ${all} of ${pictures}`, '0; all');
  rmSync(folder, { recursive: true });
}

/** Machine, large lists and bulk. */
export async function sewBench(): Promise<void> {
  await machineBench(7);
  await browserPart();
  await bulkBench(Number(process.argv[3] ?? 40), 7700);
}
