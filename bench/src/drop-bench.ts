import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converted, press, ROOT, startRig, until, wait, type Rig } from '@open-kite/e2e/browser';
import type { Page } from 'puppeteer-core';
import sharp from 'sharp';
import { heading, line } from './print.js';
import { share } from './stage-bench.js';

const TIMES = 5;
/** A photograph of two megapixels. */
const [WIDE, HIGH] = [1732, 1155];

/** Waits for a mark after a time, and tells how long after it came. */
async function markAfter(page: Page, name: string, from: number, most = 120_000): Promise<number> {
  await page.waitForFunction(
    (wanted, after) => performance.getEntriesByName(wanted).some(({ startTime }) => startTime > after),
    { timeout: most, polling: 20 },
    name,
    from,
  );
  return page.evaluate(
    (wanted, after) =>
      (performance.getEntriesByName(wanted).find(({ startTime }) => startTime > after)?.startTime ?? Infinity) - after,
    name,
    from,
  );
}

const now = (page: Page): Promise<number> => page.evaluate(() => performance.now());

/** Notes every task of the main thread over 50 ms from now on. */
const watchTasks = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const tasks: number[] = [];
    Object.assign(window, { tasks });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) tasks.push(duration);
    }).observe({ type: 'longtask', buffered: false });
  });

const longest = (page: Page): Promise<number> =>
  page.evaluate(() => Math.max(0, ...(window as unknown as { tasks: number[] }).tasks));

async function typed(page: Page, label: string, text: string): Promise<void> {
  const field = await page.waitForSelector(`input[aria-label="${label}"]`);
  await field?.click({ count: 3 });
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

interface Dropped {
  readonly rough: number;
  readonly full: number;
  readonly methods: number;
  readonly task: number;
}

/** Drops the photograph on the shelf, and tells when rough stitches, all stitches and all small pictures of methods are there. */
async function dropped(rig: Rig, file: string): Promise<Dropped> {
  const { page } = await rig.open('/');
  await wait(1500);
  await watchTasks(page);
  const from = await now(page);
  await (await page.$('input[type=file]'))?.uploadFile(file);
  const rough = await markAfter(page, 'kite-rough', from);
  const full = await markAfter(page, 'kite-full', from);
  await page.waitForFunction(() => document.querySelectorAll('kite-method-cards img').length === 5, {
    timeout: 120_000,
  });
  const methods = (await now(page)) - from - full;
  const task = await longest(page);
  await page.close();
  return { rough, full, methods, task };
}

/** A photograph dropped on the shelf, its painting made larger, and one of its threads changed. */
export async function dropBench(): Promise<void> {
  heading('A photograph dropped', `two megapixels, ${TIMES} times; median and worst; headless Chromium without a GPU`);
  const folder = mkdtempSync(join(tmpdir(), 'kite-drop-'));
  const file = join(folder, 'evening-harbour.jpg');
  await sharp(readFileSync(join(ROOT, 'demo/artwork/harbour.jpg')))
    .resize(WIDE, HIGH)
    .jpeg({ quality: 92 })
    .toFile(file);
  const rig = await startRig(false);
  try {
    const all: Dropped[] = [];
    for (let i = 0; i < TIMES; i++) all.push(await dropped(rig, file));
    const told = (name: keyof Dropped, asked: string, what: string): void => {
      const list = all.map((each) => each[name]);
      line(what, `${share(list, 0.5).toFixed(0)}, ${Math.max(...list).toFixed(0)} ms`, asked);
    };
    told('rough', '1000 ms', 'first rough stitches');
    told('full', '', 'all stitches, as they are by themselves');
    told('methods', '8000 ms', 'five methods as small sewn pictures, from then on');
    told('task', '50 ms', 'longest task of the main thread');
    await sized(rig, file);
  } finally {
    await rig.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The painting at its sizes, with one thread changed, and stopped. */
async function sized(rig: Rig, file: string): Promise<void> {
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await page.waitForFunction(() => document.querySelectorAll('kite-method-cards img').length === 5, {
    timeout: 120_000,
  });
  await watchTasks(page);
  for (const [threads, widthMm, asked] of [
    [12, 120, '4 s'],
    [20, 200, '11 s'],
  ] as const) {
    await press(page, 'Threads, done');
    await until(page, () => document.querySelector('kite-sheet')?.textContent?.includes('Threads at most') ?? false);
    await typed(page, 'Threads at most, typed', String(threads));
    await converted(page);
    await press(page, 'Picture, done');
    const from = await now(page);
    await typed(page, 'Width, typed', `${widthMm} mm`);
    const rough = await markAfter(page, 'kite-rough', from);
    const full = await markAfter(page, 'kite-full', from);
    await converted(page);
    line(
      `${threads} threads, ${widthMm} mm: rough, finished`,
      `${(rough / 1000).toFixed(1)}, ${(full / 1000).toFixed(1)} s`,
      asked,
    );
  }
  line('longest task of the main thread meanwhile', `${(await longest(page)).toFixed(0)} ms`, '50 ms');
  await page.close();
}
