import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  converted,
  keptRecipe,
  keptView,
  openNamed,
  press,
  rest,
  startRig,
  textOf,
  until,
  type Rig,
} from './browser.js';

describe('Tidy in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openNamed(rig, 'Pennant', 'Stitches'));
  });
  afterAll(() => rig.close());

  /** Findings listed once everything has been looked through; 0 where all is good. */
  const findings = async (): Promise<number> => {
    await converted(page);
    await until(page, () => {
      const sheet = document.querySelector('kite-tidy-sheet');
      const busy = sheet?.querySelector('.under-way') || sheet?.textContent?.includes('looked through');
      return sheet !== null && !busy;
    });
    const text = await textOf(page, 'kite-tidy-sheet');
    return Number(/(\d+) findings?/.exec(text)?.[1] ?? 0);
  };
  /** The same, once there are so many: a change just made may not have reached the worker yet. */
  const findingsOnce = async (wanted: number): Promise<number> => {
    let now = await findings();
    for (let k = 0; k < 20 && now !== wanted; k++) {
      await rest(page, 250);
      now = await findings();
    }
    return now;
  };
  const current = (): Promise<string> =>
    page.$eval('kite-tidy-sheet li.current .text', (li) => (li as HTMLElement).innerText);

  it('lists what was found, steps through it by two keys, and goes there', async () => {
    await page.keyboard.press('5');
    expect(await findings()).toBeGreaterThan(3);
    await page.keyboard.press('.');
    await page.waitForSelector('kite-tidy-sheet li.current');
    const first = await current();
    await page.keyboard.press('.');
    await until(page, (before) => document.querySelector<HTMLElement>('li.current .text')?.innerText !== before, first);
    await page.keyboard.press(',');
    await until(page, (before) => document.querySelector<HTMLElement>('li.current .text')?.innerText === before, first);
    expect(await violations(page)).toEqual([]);
  });

  it('shows a repair before it is carried out, with what it changes, and changes nothing by that', async () => {
    const kept = JSON.stringify(await keptRecipe(rig, page));
    await page.waitForSelector('kite-tidy-sheet .preview .segments');
    expect(await textOf(page, 'kite-tidy-sheet .preview small')).toMatch(/[+−]\S+ (stitch|finding)/);
    await press(page, 'Repaired');
    await until(
      page,
      () => document.querySelector('kite-tidy-sheet .preview [aria-pressed=true]')?.textContent?.trim() === 'Repaired',
    );
    expect(await violations(page)).toEqual([]);
    expect(JSON.stringify(await keptRecipe(rig, page))).toBe(kept);
  });

  it('repairs all of a kind, says what that changed, and takes it back', async () => {
    const before = await findings();
    const [all] = await page.$$(
      'xpath/.//kite-tidy-sheet//div[contains(@class, "group")][contains(., "Rows along")]//button[contains(., "Repair all")]',
    );
    await all.click();
    await page.waitForSelector('kite-tidy-sheet .effect .facts');
    const after = await findings();
    expect(after).toBeLessThan(before);
    const kept = (await keptView(rig, page)).decisions.filter(({ kind }) => kind === 'stitch');
    expect(kept.length).toBe(before - after);
    expect(await textOf(page, 'kite-tidy-sheet .effect')).toMatch(/Findings\s*\d+ \(−\d+\)/);
    await press(page, 'Take it back');
    expect(await findings()).toBe(before);
    expect((await keptView(rig, page)).decisions).toEqual([]);
  });

  it('keeps what is ignored, also after reloading', async () => {
    const before = await findings();
    await page.keyboard.press('.');
    await page.waitForSelector('kite-tidy-sheet li.current');
    await press(page, 'Ignore');
    expect(await findingsOnce(before - 1)).toBe(before - 1);
    expect((await keptRecipe(rig, page)).ignored?.length).toBe(1);
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    await page.keyboard.press('5');
    expect(await findingsOnce(before - 1)).toBe(before - 1);
    await press(page, 'Tell it again');
    expect(await findingsOnce(before)).toBe(before);
    expect(complaints).toEqual([]);
  });
});
