import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { readArchive } from '@open-kite/core';
import { unzipSync } from 'fflate';
import { violations } from './axe.js';
import { press, select, startRig, textOf, until, wait, type Rig } from './browser.js';

describe('The shelf in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await rig.open('/'));
  });
  afterAll(() => rig.close());

  const names = (): Promise<string[]> => page.$$eval('.projects .name', (list) => list.map((n) => n.textContent));
  const choose = (name: string): Promise<void> =>
    page.$eval(`[aria-label="Choose ${name}"]`, (box) => (box as HTMLElement).click());
  const shows = (count: number): Promise<void> =>
    until(page, (n: number) => document.querySelectorAll('.projects .name').length === n, count);
  const taken = async (file: string): Promise<Uint8Array> => {
    const path = join(rig.folder, file);
    for (let i = 0; i < 600 && !existsSync(path); i++) await wait(100);
    await wait(300);
    return new Uint8Array(readFileSync(path));
  };

  it('finds projects by name, and sorts them', async () => {
    await page.type('input[type=search]', 'kite fly');
    await shows(1);
    expect(await names()).toEqual(['Kite flyer, dark bag']);
    await page.$eval('input[type=search]', (field) => field.select());
    await page.keyboard.press('Backspace');
    await select(page, 'Sorted by', 'Name');
    expect(await names()).toEqual([...(await names())].sort((a, b) => a.localeCompare(b)));
    await select(page, 'Sorted by', 'Most stitches');
    expect((await names())[0]).toBe('Kite flyer, dark bag');
    await select(page, 'Sorted by', 'Last changed');
  });

  it('duplicates one, and renames it', async () => {
    const before = (await names()).length;
    await press(page, 'More for Fair crest, front patch');
    await press(page, 'Duplicate');
    await shows(before + 1);
    await press(page, 'More for Fair crest, front patch, copy');
    await press(page, 'Rename');
    // The field has the keys, and its text is chosen.
    await until(page, () => document.activeElement?.matches('kite-rename-dialog input') === true);
    await page.keyboard.type('Fair crest, back patch');
    await page.keyboard.press('Enter');
    await until(page, () => document.querySelector('.projects .name')?.textContent === 'Fair crest, back patch');
  });

  it('shares two out as archives with everything in them', async () => {
    await choose('Fair crest, back patch');
    await choose('Box kite, apron pocket');
    expect(await textOf(page, '.acts [role=status]')).toBe('2 chosen');
    expect(await violations(page)).toEqual([]);
    await press(page, 'Share as .kite');
    const files = unzipSync(await taken('open-kite-2-projects.zip'));
    expect(Object.keys(files).sort()).toEqual(['box-kite-apron-pocket.kite', 'fair-crest-back-patch.kite']);
    const { name, sewing, pictures } = readArchive(files['fair-crest-back-patch.kite']);
    expect([name, pictures.length]).toEqual(['Fair crest, back patch', 1]);
    expect(sewing.stitches.count).toBeGreaterThan(5000);
  });

  it('takes both off, brings one back from the bin, and deletes the other for good', async () => {
    const before = (await names()).length;
    await press(page, 'Take off the shelf');
    await shows(before - 2);
    await page.reload({ waitUntil: 'networkidle0' });
    await press(page, '2 taken off the shelf');
    expect(await violations(page)).toEqual([]);
    await press(page, 'Put it back: Box kite, apron pocket');
    await shows(before - 1);
    await press(page, 'Delete for good: Fair crest, back patch');
    await page.waitForSelector('kite-erase-dialog');
    expect(await violations(page)).toEqual([]);
    await press(page, 'Delete for good');
    await until(page, () => document.querySelector('kite-bin')?.textContent?.includes('Nothing lies here.') === true);
    expect(rig.server.stores.projects.bin()).toEqual([]);
    expect(await names()).toContain('Box kite, apron pocket');
  });

  it('worked without a complaint from the browser', () => {
    expect(complaints).toEqual([]);
  });
});
