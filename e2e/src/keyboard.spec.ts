import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readStitchList } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { ARTWORK, converted, rest, startRig, stitchesShown, until, type Rig } from './browser.js';

/** More presses than any page has places to stop at. */
const MOST_TABS = 150;

/** Goes on with Tab until what has the focus is called so; how often that was pressed. */
async function tabTo(page: Page, name: RegExp): Promise<number> {
  const passed = new Set<string>();
  for (let presses = 1; presses <= MOST_TABS; presses++) {
    await page.keyboard.press('Tab');
    const called = await page.evaluate(() => {
      const own = document.activeElement as HTMLElement | null;
      const by = document.getElementById(own?.getAttribute('aria-labelledby') ?? '');
      const label = own?.closest('label') ?? (own as HTMLInputElement | null)?.labels?.[0] ?? by ?? own;
      return own?.getAttribute('aria-label') ?? label?.innerText ?? '';
    });
    if (name.test(called.trim())) return presses;
    passed.add(called.trim().slice(0, 40));
  }
  throw new Error(`no way by Tab to ${name}, only to ${[...passed].join(' | ')}`);
}

/** Goes from part to part by F6 until one has the keys. */
async function toPart(page: Page, part: string): Promise<void> {
  for (let presses = 0; presses < 6; presses++) {
    await page.keyboard.press('F6');
    if (await page.evaluate((name) => document.activeElement?.closest(name) !== null, part)) return;
  }
  throw new Error(`no way by F6 to ${part}`);
}

describe('With the keyboard alone', () => {
  let rig: Rig;

  beforeAll(async () => (rig = await startRig(false)));
  afterAll(() => rig.close());

  it('an empty shelf becomes a project, and that a stitch list', async () => {
    const { page, complaints } = await rig.open('/');
    await tabTo(page, /^Choose a picture/);
    const asked = page.waitForFileChooser();
    // The browser has to know first that somebody else answers its question.
    await rest(page, 300);
    await page.keyboard.press('Enter');
    const chooser = await asked;
    await chooser.accept([join(ARTWORK, 'quilt-block.png')]);
    await page.waitForSelector('kite-studio');
    await converted(page);
    // Fewer colours, by the arrows of its slider.
    await page.keyboard.press('2');
    await toPart(page, 'kite-sheet');
    await tabTo(page, /^Colours at most$/);
    for (let k = 0; k < 2; k++) await page.keyboard.press('ArrowLeft');
    await until(page, () => document.querySelector('[aria-label="Undo: number of colours"]') !== null);
    await converted(page);
    // A piece is chosen in the Tray and left bare, and comes back by undo.
    await page.keyboard.press('3');
    const all = await stitchesShown(page);
    await toPart(page, 'kite-tray');
    await tabTo(page, /, (satin column|tatami fill), /);
    await page.keyboard.press('Enter');
    await page.waitForSelector('kite-tray .piece[aria-pressed=true]');
    await page.keyboard.press('Delete');
    await until(page, () => document.querySelector('[aria-label="Undo: piece left bare"]') !== null);
    await converted(page);
    expect(await stitchesShown(page)).toBeLessThan(all);
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await converted(page);
    expect(await stitchesShown(page)).toBe(all);
    await page.keyboard.press('6');
    await toPart(page, 'kite-sheet');
    await tabTo(page, /^Stitch list/);
    await page.keyboard.press('Enter');
    const file = join(rig.folder, 'quilt-block.csv');
    for (let k = 0; !existsSync(file) && k < 600; k++) await rest(page, 100);
    expect(readStitchList(readFileSync(file, 'utf8')).stitches.count).toBeGreaterThan(all);
    await until(page, () => document.querySelector('.saved')?.textContent?.trim() === 'All changes kept');
    expect(complaints).toEqual([]);
  });
});
