import { converted, slide, startRig, stitchesShown, wait, type Rig } from '@open-kite/e2e/browser';
import type { Page } from 'puppeteer-core';
import { heading, line } from './print.js';
import { quietly } from './quiet.js';
import { openKites, share } from './stage-bench.js';

const TIMES = 7;

/** Marks of an opening, in the order they come: the design is read, its stored picture stands, every tile of it is drawn. */
const MARKS = ['kite-restored', 'kite-stand-in', 'kite-all-tiles'] as const;

/** Opens the first project of the shelf and tells when each mark came, in ms after the click. */
async function open(page: Page): Promise<number[]> {
  await page.evaluate(() => {
    performance.clearMarks();
    performance.mark('bench-opened');
    document.querySelector<HTMLElement>('.projects a')?.click();
  });
  await page.waitForFunction(() => performance.getEntriesByName('kite-all-tiles').length > 0, { timeout: 30_000 });
  return page.evaluate(
    (names) =>
      names.map(
        (name) =>
          (performance.getEntriesByName(name)[0]?.startTime ?? NaN) -
          performance.getEntriesByName('bench-opened')[0].startTime,
      ),
    MARKS,
  );
}

/** How soon a project that was made before stands on the stage whole; the server and the browser are warm. */
async function openAgain(rig: Rig, name: string, widthMm: number, heightMm: number, wanted: string): Promise<void> {
  const page = await openKites(rig, name, widthMm, heightMm);
  if (widthMm > 300) {
    await slide(page, 'Row spacing', 0.25);
    await slide(page, 'Stitch in fills', 1.5);
    await converted(page);
  }
  // The design, the likeness and the picture of the shelf are kept once a project rests.
  await wait(12_000);
  const count = await stitchesShown(page);
  const all: number[][] = [];
  const { note } = await quietly(async () => {
    for (let i = 0; i <= TIMES; i++) {
      await page.evaluate(() => document.querySelector<HTMLElement>('a[href="/"]')?.click());
      await page.waitForSelector('.projects a');
      await wait(2000);
      const took = await open(page);
      if (i > 0) all.push(took);
      await wait(2500);
    }
  });
  const median = (k: number): string =>
    share(
      all.map((took) => took[k]),
      0.5,
    ).toFixed(0);
  line(
    `${count} stitches: read, their picture, all of them drawn, median of ${TIMES}`,
    `${MARKS.map((_, k) => median(k)).join(', ')} ms`,
    `${wanted}${note}`,
  );
  await page.close();
}

/** Opening of projects from the shelf, to all their stitches on the stage. */
export async function openingBench(): Promise<void> {
  heading('Opening a project', '300 pieces, seven threads, 1280 x 800, headless Chromium without a GPU, all warm');
  for (const [name, width, height, wanted] of [
    ['small', 90, 67, '500 ms'],
    ['large', 330, 245, '1000 ms'],
  ] as const) {
    const rig = await startRig(false);
    try {
      await openAgain(rig, name, width, height, wanted);
    } finally {
      await rig.close();
    }
  }
}
