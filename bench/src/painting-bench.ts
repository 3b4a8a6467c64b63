import { join } from 'node:path';
import { converted, press, ROOT, slide, until, wait, type Rig, sewAs } from '@open-kite/e2e/browser';
import type { Page } from 'puppeteer-core';
import { heading, line } from './print.js';
import { share } from './stage-bench.js';

const LENGTHS = [1.4, 1, 1.6, 1.2];
/** Moments after a change at which it is stopped, in ms: at every stage of the work. */
const STOPS = [300, 900, 1600, 2600, 4000];

const now = (page: Page): Promise<number> => page.evaluate(() => performance.now());
const markAfter = async (page: Page, name: string, from: number, most: number): Promise<number> => {
  await page.waitForFunction(
    (wanted, after) => performance.getEntriesByName(wanted).some(({ startTime }) => startTime > after),
    { timeout: most, polling: 50 },
    name,
    from,
  );
  return page.evaluate(
    (wanted, after) => {
      const found = performance.getEntriesByName(wanted).find(({ startTime }) => startTime > after);
      return (found?.startTime ?? Infinity) - after;
    },
    name,
    from,
  );
};

/** The harbour as thread painting in the browser's worker: how soon it is there, and how soon it stops. */
export async function paintingInBrowser(rig: Rig): Promise<void> {
  heading(
    'Thread painting in the browser',
    `harbour, 120 mm, ${LENGTHS.length} changes of the shortest line, ${STOPS.length} stops, headless Chromium`,
  );
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(join(ROOT, 'demo/artwork/harbour.jpg'));
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Picture, done');
  const field = await page.waitForSelector('input[aria-label="Width, typed"]');
  await field?.click({ count: 3 });
  await page.keyboard.type('120 mm');
  await page.keyboard.press('Enter');
  await converted(page);
  await press(page, 'Pieces, done');
  await sewAs(page, 'painting');
  await until(page, () => document.querySelector('kite-sheet')?.textContent?.includes('Shortest line') ?? false);
  await markAfter(page, 'kite-full', 0, 120_000);
  await converted(page);
  const rough: number[] = [];
  const full: number[] = [];
  for (const length of LENGTHS) {
    const from = await now(page);
    await slide(page, 'Shortest line', length);
    rough.push(await markAfter(page, 'kite-rough', from, 60_000));
    full.push(await markAfter(page, 'kite-full', from, 120_000));
    await converted(page);
  }
  const said = (list: readonly number[]): string =>
    `${(share(list, 0.5) / 1000).toFixed(2)}, ${(Math.max(...list) / 1000).toFixed(2)} s`;
  line('change to rough result, median and worst', said(rough), '2 s');
  line('change to finished result, median and worst', said(full), '25 s');
  const answers: number[] = [];
  for (const [k, after] of STOPS.entries()) {
    await slide(page, 'Shortest line', k % 2 === 0 ? 1.8 : 1.1);
    await wait(after);
    const from = await now(page);
    const stopped = await page.evaluate(() => {
      const button = Array.from(document.querySelectorAll('button')).find((b) => b.innerText.trim() === 'Stop');
      button?.click();
      return button !== undefined;
    });
    if (stopped) answers.push(await markAfter(page, 'kite-stopped', from, 20_000));
    await wait(500);
  }
  line(
    'stopped: answer of the worker, median and worst',
    `${share(answers, 0.5).toFixed(0)}, ${Math.max(...answers).toFixed(0)} ms of ${answers.length}`,
    '300 ms',
  );
  await page.close();
}
