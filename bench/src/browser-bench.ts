import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Raster } from '@open-kite/core';
import { converted, openNamed, press, ROOT, slide, startRig, wait, type Rig } from '@open-kite/e2e/browser';
import { watchFrames } from './frames.js';
import { heading, line } from './print.js';
import { gridBench } from './grid-bench.js';
import { paintingInBrowser } from './painting-bench.js';
import { stageBench } from './stage-bench.js';

const VALUES = [3, 5, 4, 6, 2, 5, 3, 6, 4, 5];

/** A photo of 12 megapixels: how soon the picture follows a slider of its light. */
async function lightInBrowser(rig: Rig, photo: Raster): Promise<void> {
  heading(
    'Light in the browser',
    'a JPEG of 4000 x 3000 pixels, Picture open, 10 moves of each slider, headless Chromium',
  );
  const file = join(rig.folder, 'photo.jpg');
  const { width, height, data } = photo;
  await sharp(Buffer.from(data), { raw: { width, height, channels: 4 } })
    .resize(4000, 3000, { fit: 'fill' })
    .jpeg({ quality: 85 })
    .toFile(file);
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Picture, done');
  await wait(3000);
  for (const label of ['Brightness', 'Noise removal']) {
    const times: number[] = [];
    for (let i = 1; i <= 10; i++) {
      await page.evaluate(() => performance.clearMarks());
      const from = await page.evaluate(() => performance.now());
      await slide(page, label, i * 4);
      await page.waitForFunction(() => performance.getEntriesByName('kite-lit').length > 0, { timeout: 20000 });
      times.push((await page.evaluate(() => performance.getEntriesByName('kite-lit')[0].startTime)) - from);
      await wait(150);
    }
    times.sort((a, b) => a - b);
    line(
      `${label}: slider to picture, median and worst`,
      `${times[5].toFixed(0)}, ${times[9].toFixed(0)} ms`,
      '200 ms',
    );
    await converted(page);
  }
  await page.close();
}

/** A thousand dots: scrolling, filtering and choosing in the tray. */
export async function trayInBrowser(rig: Rig): Promise<void> {
  const dots = Array.from({ length: 1000 }, (_, i) => {
    const fill = ['#2c6e80', '#d8602a', '#2a3437', '#e6b23c'][i % 4];
    return `<circle cx="${4 + (i % 40) * 5}" cy="${4 + Math.floor(i / 40) * 5}" r="${1.2 + (i % 5) * 0.25}" fill="${fill}"/>`;
  });
  const file = join(rig.folder, 'dots.svg');
  writeFileSync(
    file,
    `<svg xmlns="http://www.w3.org/2000/svg" width="205mm" height="130mm" viewBox="0 0 205 130">${dots.join('')}</svg>`,
  );
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Pieces, done');
  await wait(2500);
  const pieces = await page.$eval('kite-tray .head span', (e) => e.innerText);
  heading('Tray', `${pieces}, 1280 x 800, headless Chromium without a GPU; longest time between two frames`);
  const worst = async (act: () => Promise<unknown>): Promise<number> => {
    const frames = await watchFrames(page);
    await act();
    await wait(400);
    return Math.max(...(await frames()));
  };
  const box = await (await page.$('kite-tray .threads'))?.boundingBox();
  if (!box) throw new Error('no tray');
  await page.mouse.move(box.x + 60, box.y + 200);
  const scroll = await worst(async () => {
    for (let i = 0; i < 40; i++) {
      await page.mouse.wheel({ deltaY: 120 });
      await wait(16);
    }
  });
  const filter = await worst(async () => {
    for (const name of ['Fills', 'Satin', 'All', 'Tiny', 'All']) {
      await page.evaluate((wanted) => {
        Array.from(document.querySelectorAll<HTMLElement>('kite-tray .filters button'))
          .find((b) => b.innerText.startsWith(wanted))
          ?.click();
      }, name);
      await wait(250);
    }
  });
  const choose = await worst(async () => {
    await page.evaluate(() => document.querySelectorAll<HTMLElement>('kite-tray .piece')[0].click());
    await wait(200);
    await page.evaluate(() =>
      document
        .querySelectorAll('kite-tray .piece')[30]
        .dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true })),
    );
    await wait(200);
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
  });
  for (const [what, ms] of Object.entries({
    scrolling: scroll,
    filtering: filter,
    'choosing one, thirty, all': choose,
  })) {
    line(what, `${ms.toFixed(0)} ms`, '50 ms');
  }
  await page.close();
}

/** The crest: how soon a slider shows a rough result, and whether the page ever stalls. */
async function sliderInBrowser(rig: Rig): Promise<void> {
  heading(
    'Browser',
    `crest of the demo data, 1280 x 800, headless Chromium without a GPU, ${VALUES.length} moves of "Colours at most"`,
  );
  const { page } = await openNamed(rig, 'crest', 'Colours');
  await wait(2500);
  const clear = (): Promise<void> =>
    page.evaluate(() => {
      performance.clearMarks();
      (window as unknown as { longTasks: number[] }).longTasks.length = 0;
    });
  const rough: number[] = [];
  const painted: number[] = [];
  const full: number[] = [];
  let longest = 0;
  for (const value of VALUES) {
    await clear();
    const from = await page.evaluate(() => performance.now());
    await slide(page, 'Colours at most', value);
    await page.waitForFunction(() => performance.getEntriesByName('kite-full').length > 0, { timeout: 20000 });
    await converted(page);
    const marks = await page.evaluate(() =>
      performance.getEntriesByType('mark').map((m) => ({ name: m.name, at: m.startTime })),
    );
    const first = (name: string, after = 0): number =>
      marks.find((m) => m.name === name && m.at > after)?.at ?? Infinity;
    const roughAt = first('kite-rough');
    rough.push(roughAt - from);
    painted.push(first('kite-painted', roughAt) - from);
    full.push(first('kite-full') - from);
    longest = Math.max(
      longest,
      ...(await page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks)),
    );
  }
  const median = (list: number[]): string => list.sort((a, b) => a - b)[Math.floor(list.length / 2)].toFixed(0);
  line('slider to rough result, median and worst', `${median(rough)}, ${Math.max(...rough).toFixed(0)} ms`, '150 ms');
  line(
    'slider to rough result on the stage, median and worst',
    `${median(painted)}, ${Math.max(...painted).toFixed(0)} ms`,
  );
  line('slider to full result, median and worst', `${median(full)}, ${Math.max(...full).toFixed(0)} ms`);
  line(
    'longest main-thread task while converting',
    longest === 0 ? 'none over 50 ms' : `${longest} ms`,
    'none over 50 ms',
  );
  await page.close();
}

/** Everything that is measured in headless Chromium with the demo data. */
export async function browserBench(photo: Raster): Promise<void> {
  const rig = await startRig(true);
  try {
    await sliderInBrowser(rig);
    await stageBench(rig);
    await gridBench(rig, ROOT);
    await paintingInBrowser(rig);
    await trayInBrowser(rig);
    await lightInBrowser(rig, photo);
  } finally {
    await rig.close();
  }
}

/** The slider alone. */
export async function sliderBench(): Promise<void> {
  const rig = await startRig(true);
  try {
    await sliderInBrowser(rig);
  } finally {
    await rig.close();
  }
}
