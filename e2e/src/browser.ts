import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pictureOf, viewOf, type PictureView, type Recipe } from '@open-kite/core';
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';
import { serve, type RunningServer } from '@open-kite/server';

import { copySamples } from './sample-store.js';

export const ROOT = fileURLToPath(new URL('../..', import.meta.url));
/** How long a page is waited for: a busy machine is no failure. */
const PATIENT_MS = 150_000;

export const ARTWORK = join(ROOT, 'demo', 'artwork');

/** Parts of Sheets that specs need not unfold. */
const UNFOLDED = 'turn light charts widths shapes ways usual order outline several lengths spools paper';

/** A real server on a temporary store, and a browser beside it. */
export interface Rig {
  readonly server: RunningServer;
  readonly browser: Browser;
  /** Temporary folder; downloads land in it. */
  readonly folder: string;
  /** Opens a page and collects what it complains about. */
  open(path: string): Promise<{ page: Page; complaints: string[] }>;
  close(): Promise<void>;
}

export async function startRig(demo: boolean): Promise<Rig> {
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-e2e-'));
  const data = join(folder, 'data');
  if (demo) await copySamples(data);
  const server = await serve({ port: 0, data, logLevel: 'silent' });
  const browser = await puppeteer.launch({
    executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
    userDataDir: join(folder, 'profile'),
    args: ['--headless', ...(JSON.parse(readFileSync(join(ROOT, 'chromium-flags.json'), 'utf8')) as string[])],
  });
  const session = await browser.target().createCDPSession();
  await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder, eventsEnabled: true });
  return {
    server,
    browser,
    folder,
    open: async (path) => {
      const page = await browser.newPage();
      page.setDefaultTimeout(PATIENT_MS);
      await page.setViewport({ width: 1280, height: 800 });
      const complaints: string[] = [];
      // Leaving before everything is kept asks first; the tests always leave.
      page.on('dialog', (dialog) => void dialog.accept());
      page.on('pageerror', (error) => complaints.push(String(error)));
      page.on('console', (message) => {
        // A refused upload is told in the page; the browser's own line about it is not a fault of the page.
        const refused = /status of 4\d\d/.test(message.text());
        if ((message.type() === 'error' || message.type() === 'warn') && !refused) complaints.push(message.text());
      });
      await page.evaluateOnNewDocument((folds: string) => {
        // What points at the parts of the studio is seen once, by a spec of its own.
        localStorage.setItem('kite-looked-round', 'yes');
        // What is folded in Sheets is unfolded, unless a page says what it wants: folding has a spec of its own.
        if (localStorage.getItem('kite-folds') === null) localStorage.setItem('kite-folds', folds);
        const tasks: number[] = [];
        Object.assign(window, { longTasks: tasks });
        new PerformanceObserver((list) =>
          list.getEntries().forEach((entry) => tasks.push(Math.round(entry.duration))),
        ).observe({
          type: 'longtask',
        });
      }, UNFOLDED);
      await page.goto(server.address + path, { waitUntil: 'networkidle0' });
      return { page, complaints };
    },
    close: async () => {
      await browser.close();
      await server.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Opens the first project of the shelf at one of its steps. */
export async function openFirst(rig: Rig, knot: string): Promise<{ page: Page; complaints: string[] }> {
  const opened = await rig.open('/');
  await (await opened.page.$('.projects a'))?.click();
  await opened.page.waitForSelector('kite-studio');
  await converted(opened.page);
  await press(opened.page, `${knot}, done`);
  return opened;
}

/** Opens a project of the shelf by a word of its name, at one of its steps. */
export async function openNamed(rig: Rig, word: string, knot: string): Promise<{ page: Page; complaints: string[] }> {
  const opened = await rig.open('/');
  const { page } = opened;
  await page.waitForSelector('.projects a');
  await page.evaluate((wanted) => {
    [...document.querySelectorAll<HTMLElement>('.projects a')].find((a) => a.innerText.includes(wanted))?.click();
  }, word);
  await page.waitForSelector('kite-studio');
  await converted(page);
  await press(page, `${knot}, done`);
  return opened;
}

/** Chooses in a list of the Sheet by its label. */
export async function pick(page: Page, label: string, value: string): Promise<void> {
  const field = await page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll('kite-choice-field')]
        .find((each) => each.querySelector('mat-label')?.textContent.trim() === wanted)
        ?.querySelector<HTMLElement>('mat-select'),
    {},
    label,
  );
  await (field.asElement() as unknown as ElementHandle<HTMLElement>).evaluate((select) => select.click());
  const option = await page.waitForSelector(`mat-option[data-value="${value}"]`);
  await option?.evaluate((item) => (item as HTMLElement).click());
  await until(page, () => !document.querySelector('mat-option, .cdk-overlay-backdrop'));
}

/** Sews the open picture by another method, by its small picture. */
export async function sewAs(page: Page, method: string): Promise<void> {
  const card = await page.waitForSelector(`kite-method-cards [data-method="${method}"]`);
  await card?.evaluate((button) => (button as HTMLElement).click());
}

/** Waits until the stitches are finished: every knot that is built stands as done, and nothing is rough. */
export async function converted(page: Page): Promise<void> {
  // A change just made reaches the worker with the next turn.
  await rest(page, 200);
  await page.waitForSelector('kite-reel .figures dd');
  await page.waitForFunction(
    () =>
      !document.querySelector('kite-line .running') &&
      !document.querySelector('kite-stage .busy') &&
      !document.querySelector('kite-reel .figures[aria-busy="true"]'),
  );
}

/** The recipe of the open project as its picture sees it and the server holds it, once everything is kept. */
export async function keptView(rig: Rig, page: Page): Promise<PictureView> {
  const recipe = await keptRecipe(rig, page);
  const picture = pictureOf(recipe);
  if (!picture) throw new Error('the project has no picture');
  return viewOf(recipe, picture);
}

/** The recipe of the open project as the server has it, once all changes are kept. */
export async function keptRecipe(rig: Rig, page: Page): Promise<Recipe> {
  // What was just done shows with the next frame.
  await rest(page, 150);
  await until(page, () => document.querySelector('.saved')?.textContent?.trim() === 'All changes kept');
  return rig.server.stores.projects.get(page.url().split('/').at(-1) as string).recipe;
}

/** Text of an element. */
export const textOf = (page: Page, selector: string): Promise<string> =>
  page.$eval(selector, (element) => (element as HTMLElement).innerText.trim());

/** Number of stitches the Reel shows. */
export async function stitchesShown(page: Page): Promise<number> {
  return Number((await textOf(page, 'kite-reel .figures dd')).replace(/\D/g, ''));
}

/** Waits until a condition on the page holds. */
export async function until<A extends unknown[]>(
  page: Page,
  condition: (...args: A) => boolean,
  ...args: A
): Promise<void> {
  await page.waitForFunction(condition as (...args: unknown[]) => boolean, {}, ...args);
}

/** Sets a slider by its label, as a drag does. */
export async function slide(page: Page, label: string, value: number): Promise<void> {
  await page.waitForFunction(
    (wanted) => [...document.querySelectorAll('kite-slider-field label')].some((l) => l.textContent === wanted),
    {},
    label,
  );
  await page.evaluate(
    (wanted, to) => {
      const field = [...document.querySelectorAll('kite-slider-field')].find(
        (f) => f.querySelector('label')?.textContent === wanted,
      );
      const slider = field?.querySelector<HTMLInputElement>('input[type=range]');
      if (!slider) throw new Error(`there is no slider "${wanted}"`);
      slider.value = String(to);
      slider.dispatchEvent(new Event('input', { bubbles: true }));
    },
    label,
    value,
  );
}

/** Clicks the button with a text or label. */
export async function press(page: Page, name: string): Promise<void> {
  for (let times = 1; ; times++) {
    const handle = await page.waitForFunction(
      (wanted) =>
        [...document.querySelectorAll<HTMLElement>('button, a')].find(
          (b) => (b.getAttribute('aria-label') ?? b.innerText.trim()) === wanted && b.offsetParent !== null,
        ),
      {},
      name,
    );
    const element = handle.asElement() as unknown as ElementHandle<HTMLElement>;
    try {
      // Menus unfold: a click waits until the button has come to rest.
      for (let last = ''; ;) {
        const now = JSON.stringify(await element.boundingBox());
        if (now === last) break;
        last = now;
        await rest(page, 60);
      }
      await element.click();
      return;
    } catch (error) {
      // A list that was just made anew has another button of that name.
      if (times === MOST_TIMES || !String(error).includes('detached')) throw error;
    }
  }
}

/** How often a button is looked for that went away before it was clicked. */
const MOST_TIMES = 4;

/** Presses an entry of an open menu or list. */
export async function choose(page: Page, entry: string): Promise<void> {
  const found = await page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll<HTMLElement>('[mat-menu-item], mat-option')].find(
        (item) => item.innerText.trim() === wanted,
      ),
    {},
    entry,
  );
  await (found.asElement() as unknown as ElementHandle<HTMLElement>).evaluate((item) => item.click());
  // What lies over the page while it closes would take the next click.
  await until(page, () => !document.querySelector('[mat-menu-item], mat-option, .cdk-overlay-backdrop'));
}

/** Opens a menu by its button, and takes an entry. */
export async function fromMenu(page: Page, button: string, entry: string): Promise<void> {
  await page.$eval(button, (element) => (element as HTMLElement).click());
  await choose(page, entry);
}

/** Middle of the stage, in pixels of the page. */
export async function stageMiddle(page: Page): Promise<{ readonly x: number; readonly y: number }> {
  const box = await (await page.$('kite-stage canvas'))?.boundingBox();
  if (!box) throw new Error('there is no stage');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Chooses in a list of Material by its label. */
export async function select(page: Page, label: string, entry: string): Promise<void> {
  const field = await page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll('mat-form-field')]
        .find((each) => each.querySelector('mat-label')?.textContent.trim() === wanted)
        ?.querySelector<HTMLElement>('mat-select'),
    {},
    label,
  );
  await (field.asElement() as unknown as ElementHandle<HTMLElement>).click();
  await choose(page, entry);
}

/** Types into a field for a number, by its label. */
export async function setNumber(page: Page, label: string, value: string): Promise<void> {
  const field = await page.waitForFunction(
    (wanted) =>
      [...document.querySelectorAll('kite-number-field')]
        .find((each) => each.querySelector('mat-label, label')?.textContent.trim() === wanted)
        ?.querySelector('input'),
    {},
    label,
  );
  const input = field.asElement() as unknown as ElementHandle<HTMLInputElement>;
  await input.click({ count: 3 });
  await page.keyboard.type(value);
  await page.keyboard.press('Enter');
}

export type HeldKey = 'Shift' | 'Control' | 'Alt';

/** Presses a key while others are held down. */
export async function keys(page: Page, key: string, ...held: HeldKey[]): Promise<void> {
  for (const each of held) await page.keyboard.down(each);
  await page.keyboard.press(key as 'a');
  for (const each of held) await page.keyboard.up(each);
}

/** Makes the picture so wide: a small one where the interface is tested, not the speed. */
export async function setWidth(page: Page, width: string): Promise<void> {
  const field = await page.waitForSelector('input[aria-label="Width, typed"]');
  await field?.click({ count: 3 });
  await page.keyboard.type(width);
  await page.keyboard.press('Enter');
  await converted(page);
}

/**
 * Waits in the page until it has painted twice, and so long after that: what it had begun to do is done then, also where
 * the browser gets little of the machine.
 */
export async function rest(page: Page, ms: number): Promise<void> {
  await page.evaluate(async (after) => {
    const frame = (): Promise<unknown> =>
      // A page in the background paints nothing.
      Promise.race([new Promise(requestAnimationFrame), new Promise((resolve) => setTimeout(resolve, 500))]);
    await frame();
    await frame();
    await new Promise((resolve) => setTimeout(resolve, after));
    await frame();
  }, ms);
}

export const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
