import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { converted, press, ROOT, startRig, wait } from './browser.js';

// Takes the pictures of docs/screenshots anew from the demo data: npm run build && npm run screenshots
const rig = await startRig(true);
const { page } = await rig.open('/');
const shoot = async (name: string): Promise<void> => {
  await wait(900);
  await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) as `${string}.png` });
};
const choose = async (view: Page, label: string): Promise<void> => {
  await view.evaluate((text) => {
    [...document.querySelectorAll<HTMLElement>('kite-stage .tools button')]
      .find((b) => b.innerText.trim() === text)
      ?.click();
  }, label);
};

await shoot('shelf');
await (await page.$('.projects a'))?.click();
await page.waitForSelector('kite-studio');
await converted(page);
await page.keyboard.press('l');
await shoot('studio');
await page.keyboard.press('l');
await press(page, 'Picture, done');
await press(page, 'Shield');
await converted(page);
await shoot('picture-mask');
await press(page, 'Remove');
await converted(page);
await press(page, 'Colours, done');
await wait(2500);
await page.evaluate(() => {
  const heads = document.querySelectorAll<HTMLElement>('kite-colours-sheet li > .head');
  heads[2].click();
  heads[1].scrollIntoView({ block: 'start' });
});
await (await page.$$('kite-colours-sheet li > .head'))[2].hover();
await shoot('colours');
await press(page, 'Pieces, done');
await choose(page, 'Needle');
await (await page.$$('kite-tray .piece'))[0].click();
for (let i = 0; i < 4; i++) await page.keyboard.press('+');
await shoot('pieces-needle');
await page.keyboard.press('Escape');
await choose(page, 'Thread');
await page.keyboard.press('f');
await press(page, 'Points and curves');
await wait(800);
for (const [x, y] of [
  [690, 180],
  [740, 150],
  [790, 205],
]) {
  await page.mouse.click(x, y);
  await wait(350);
}
await page.mouse.move(815, 260);
await shoot('pieces-drawing');
await press(page, 'Done');
await page.keyboard.press('Escape');
await choose(page, 'Thread');
await page.keyboard.press('f');
await press(page, 'Sew, done');
await page.focus('kite-reel .ribbon');
for (let i = 0; i < 7; i++) await page.keyboard.press('PageDown');
await shoot('reel-scrubbed');
await page.keyboard.press('End');
await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'dark' }]);
await press(page, 'Stitches, done');
await choose(page, 'Covers');
await shoot('covers-dark');
await page.emulateMediaFeatures([]);
await choose(page, 'Thread');
await (await page.$$('kite-tray .piece'))[0].click();
await shoot('stitches');
await choose(page, 'Needle');
for (let i = 0; i < 5; i++) await page.keyboard.press('+');
await shoot('stitches-needle');
await page.goto(`${rig.server.address}/threads`, { waitUntil: 'networkidle0' });
await page.evaluate(() => document.querySelectorAll<HTMLElement>('.tile')[20].click());
await shoot('thread-cupboard');
await rig.close();
