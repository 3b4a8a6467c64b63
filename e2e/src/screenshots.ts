import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { convert, practiceCloth, practicePhoto, testCard, writePng } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { choose, converted, press, ROOT, select, startRig, wait, sewAs } from './browser.js';

// Takes the pictures of docs/screenshots anew from the demo data: npm run build && npm run screenshots
const rig = await startRig(true);
const { page } = await rig.open('/');
// As it is at first; several in a hoop are to be seen.
await page.evaluate(() => localStorage.setItem('kite-folds', 'several'));
await page.reload({ waitUntil: 'networkidle0' });
const shoot = async (name: string): Promise<void> => {
  await wait(900);
  await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) });
};
const look = async (view: Page, label: string): Promise<void> => {
  await view.evaluate((text) => {
    [...document.querySelectorAll<HTMLElement>('kite-stage .tools button')]
      .find((b) => b.innerText.trim() === text)
      ?.click();
  }, label);
};

// The kite beside the place where pictures are dropped is sewn by then.
await wait(5500);
await shoot('shelf');
await (await page.$('.projects a'))?.click();
await page.waitForSelector('kite-studio');
await converted(page);
await page.keyboard.press('l');
await shoot('studio');
await page.keyboard.press('l');
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
await look(page, 'Thread');
await page.keyboard.press('f');
await press(page, 'Sew, done');
await page.focus('kite-reel .ribbon');
for (let i = 0; i < 7; i++) await page.keyboard.press('PageDown');
await page.keyboard.press('End');
await select(page, 'Hoop', '200 x 200 mm');
await page.waitForFunction(() => {
  const fill = [...document.querySelectorAll('button')].find((b) => b.innerText.trim().startsWith('Fill the hoop'));
  fill?.click();
  return fill !== undefined;
});
await converted(page);
await page.keyboard.press('f');
await wait(1500);
await shoot('sew');
await press(page, 'Only one');
await converted(page);
await press(page, 'Stitches, done');
await (await page.$$('kite-tray .piece'))[0].click();
await shoot('stitches');
/** Opens a project of the shelf by its name, at one of its steps. */
async function openProject(name: string, knot: string): Promise<void> {
  await page.goto(rig.server.address, { waitUntil: 'networkidle0' });
  await page.evaluate((wanted) => {
    [...document.querySelectorAll<HTMLElement>('.projects a')].find((a) => a.innerText.includes(wanted))?.click();
  }, name);
  await page.waitForSelector('kite-studio');
  await converted(page);
  await press(page, `${knot}, done`);
}

await openProject('Evening harbour', 'Threads');
// The difference is measured once things rest.
await wait(4000);
await shoot('thread-painting');
await page.keyboard.press('t');
await page.waitForFunction(
  () =>
    document.querySelectorAll('kite-try-outs .shot img').length === 5 &&
    [...document.querySelectorAll('kite-try-outs dl')].every((l) => l.textContent?.includes('ΔE')),
);
await shoot('try-outs');
await press(page, 'Close the board');
await openProject('Kite flyer', 'Rows');
await page.waitForFunction(() => document.querySelectorAll('kite-method-cards img').length === 5);
await page.keyboard.press('f');
await shoot('tonal-rows');
await openProject('Quilt block', 'Pieces');
await sewAs(page, 'cross');
await converted(page);
await shoot('counted-cross');
await openProject('Pennant', 'Stitches');
await page.keyboard.press('5');
await page.waitForSelector('kite-tidy-sheet .group');
await page.keyboard.press('.');
// The repair is tried, and shown instead of what is there.
await page.waitForSelector('kite-tidy-sheet .preview .segments');
await press(page, 'Repaired');
await wait(1500);
for (let i = 0; i < 4; i++) await page.keyboard.press('-');
await shoot('tidy');
await page.keyboard.press('4');
await converted(page);
// A word with one gradient laid over it.
await page.evaluate(() => {
  [...document.querySelectorAll('kite-tray .piece')].at(-1)?.scrollIntoView({ block: 'end' });
});
await wait(400);
await (await page.$('kite-tray .piece[data-piece="13"]'))?.click();
await page.keyboard.down('Shift');
await (await page.$('kite-tray .piece[data-piece="19"]'))?.click();
await page.keyboard.up('Shift');
await press(page, 'Lay one gradient over all of them');
await converted(page);
await page.keyboard.press('f');
for (let i = 0; i < 2; i++) await page.keyboard.press('+');
await wait(1200);
await shoot('gradient-word');
await page.goto(`${rig.server.address}/threads`, { waitUntil: 'networkidle0' });
await page.evaluate(() => document.querySelectorAll<HTMLElement>('.tile')[20].click());
await shoot('thread-cupboard');
await openProject('Fair crest', 'Pieces');
await page.evaluate(() => {
  [...document.querySelectorAll<HTMLElement>('kite-tray .filters button')]
    .find((button) => button.innerText.startsWith('Satin'))
    ?.click();
});
await press(page, 'Choose these');
await (await page.waitForSelector('kite-place-section mat-expansion-panel-header'))?.click();
await shoot('placing');

await page.goto(rig.server.address, { waitUntil: 'networkidle0' });
await press(page, 'Begin on bare cloth');
await page.waitForSelector('kite-studio');
await entry('Add', 'Letters');
await page.waitForSelector('kite-type-pane textarea');
await page.keyboard.type('KITE FAIR');
await page.keyboard.press('Escape');
await converted(page);
await select(page, 'Stands on', 'Arc, tops outwards');
await converted(page);
await press(page, 'Pieces, done');
await entry('A standard shape', 'heart');
await page.waitForSelector('kite-draw-pane .konvajs-content');
const box = await (await page.$('kite-stage canvas'))?.boundingBox();
const [x, y] = [(box?.x ?? 0) + (box?.width ?? 0) / 2 - 45, (box?.y ?? 0) + (box?.height ?? 0) / 2 + 60];
await page.mouse.move(x, y);
await page.mouse.down();
await page.mouse.move(x + 90, y + 80, { steps: 6 });
await page.mouse.up();
await converted(page);
await press(page, 'Done');
await page.click('kite-object-row .chip');
await entry('Add', 'Applique of what is chosen');
await converted(page);
await page.keyboard.press('Escape');
await page.click('kite-object-row li:nth-last-child(2) .chip');
await page.keyboard.press('f');
await shoot('letters');

await page.evaluate(async () => {
  const set = { needles: 1, hoop: '300x300', speed: 800, timeScale: 60 };
  const headers = { 'content-type': 'application/json' };
  await fetch('/api/machine', { method: 'PUT', headers, body: JSON.stringify(set) });
});
await openProject('Pennant', 'Stitches');
await page.keyboard.press('6');
await press(page, 'Send to the practice machine');
await page.waitForSelector('kite-machine-page .acts button');
await page.evaluate(() => document.querySelector<HTMLElement>('.acts button:not(.second)')?.click());
await wait(12_000);
await shoot('machine');

const card = await convert({ recipe: testCard({ fabric: 'jersey', hex: '#e8e6e1' }), pictures: {}, charts: [] });
const photo = join(rig.folder, 'card.png');
writeFileSync(photo, writePng(practicePhoto(card, practiceCloth('fair-shirt'))));
await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'dark' }]);
await page.goto(`${rig.server.address}/fabrics?fabric=jersey`, { waitUntil: 'networkidle0' });
await (await page.$('input[type=file]'))?.uploadFile(photo);
await page.waitForSelector('kite-fabrics-page .rows');
await page.type('form input', 'Fair shirt');
await press(page, 'Keep as a fabric');
await page.waitForSelector('kite-fabrics-page li input');
await wait(10_000);
await shoot('fabrics');
await page.emulateMediaFeatures([]);

await page.goto(`${rig.server.address}/bulk`, { waitUntil: 'networkidle0' });
const art = join(ROOT, 'demo/artwork');
const files = ['quilt-block.png', 'pennant.svg', 'box-kite.jpg', 'crest.png'].map((name) => join(art, name));
await (await page.$('input[type=file]'))?.uploadFile(...files);
await page.waitForFunction(
  () => [...document.querySelectorAll('tbody tr')].filter((row) => /done/i.test(row.textContent ?? '')).length >= 2,
);
await shoot('bulk');
await rig.close();

/** Chooses an entry of a menu. */
async function entry(button: string, wanted: string): Promise<void> {
  await press(page, button);
  await choose(page, wanted);
}
