import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { PictureView, ShapeObject } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import { converted, keptView, openFirst, pick, press, startRig, textOf, until, type Rig, rest } from './browser.js';

/** Artwork with an outline that crosses itself, a text, a hidden part and a size of its own. */
const ARTWORK = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60">
<rect x="5" y="5" width="40" height="40" fill="#2c6e80"/><circle cx="45" cy="25" r="14" fill="#d8602a"/>
<path id="bow" d="M60 10L76 26L76 10L60 26Z" fill="#2a3437"/><text x="20" y="56" font-family="Salt Serif">FAIR</text></svg>`;

describe('Pieces in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openFirst(rig, 'Pieces'));
  });

  afterAll(() => rig.close());

  const kept = (): Promise<PictureView> => keptView(rig, page);
  const shapes = async (): Promise<ShapeObject[]> =>
    (await kept()).objects.filter((object): object is ShapeObject => object.kind === 'shape');
  const count = async (): Promise<number> => Number.parseInt(await textOf(page, 'kite-tray .head h2'), 10);
  const chooseInTray = (index: number, shift = false): Promise<boolean> =>
    page.evaluate(
      (i, shiftKey) =>
        document
          .querySelectorAll('kite-tray .piece')
          [i].dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey })),
      index,
      shift,
    );
  it('filters the tray, and chooses what it shows', async () => {
    const all = await count();
    const fills = await page.evaluate(() => {
      const button = [...document.querySelectorAll<HTMLElement>('kite-tray .filters button')].find((b) =>
        b.innerText.startsWith('Fills'),
      );
      button?.click();
      return Number.parseInt(button?.querySelector('small')?.textContent ?? '0', 10);
    });
    expect(fills).toBeGreaterThan(3);
    expect(fills).toBeLessThan(all);
    await press(page, 'Choose these');
    await page.waitForSelector('.chosen strong');
    expect(await textOf(page, '.chosen strong')).toBe(`${fills} pieces`);
    await page.keyboard.press('Escape');
    await page.evaluate(() => document.querySelector<HTMLElement>('kite-tray .filters button')?.click());
  });

  it('sews a piece otherwise, and shows it at once in the chart of widths', async () => {
    await chooseInTray(1);
    await pick(page, 'Stitch kind', 'running 3');
    await converted(page);
    expect((await kept()).decisions).toEqual([jasmine.objectContaining({ kind: 'sew', as: 'running', passes: 3 })]);
    expect(await textOf(page, '.facts-line')).toContain('line');
    await press(page, 'Undo: stitch kind');
    await converted(page);
    expect((await kept()).decisions).toEqual([]);
  });

  it('gives pieces another thread by dragging them onto it', async () => {
    // On a rough result nothing is decided: what was undone before may still be on its way.
    await rest(page, 800);
    await converted(page);
    await page.evaluate(() => document.querySelectorAll('kite-tray .heading')[1].scrollIntoView({ block: 'center' }));
    await rest(page, 300);
    const boxes = await page.evaluate(() => {
      const heads = [...document.querySelectorAll('kite-tray .heading')].map((h) => h.getBoundingClientRect());
      const pieces = [...document.querySelectorAll('kite-tray .piece')].map((p) => p.getBoundingClientRect());
      const list = document.querySelector('kite-tray .threads')?.getBoundingClientRect() as DOMRect;
      const head = heads.find(({ top }) => top > list.top + 60 && top < list.bottom - 60) as DOMRect;
      // The last piece of the thread before it.
      const piece = pieces.filter(({ bottom, top }) => bottom <= head.top + 2 && top >= list.top).at(-1) as DOMRect;
      return [piece.x + 20, piece.y + 20, head.x + 60, head.y + 30];
    });
    await page.mouse.move(boxes[0], boxes[1]);
    await page.mouse.down();
    await page.mouse.move(boxes[0] + 10, boxes[1] + 10, { steps: 4 });
    await page.mouse.move(boxes[2], boxes[3], { steps: 12 });
    await rest(page, 200);
    await page.mouse.up();
    await rest(page, 500);
    await converted(page);
    const { decisions } = await kept();
    expect(decisions.map((d) => d.kind)).toEqual(['thread']);
    await page.keyboard.press('Escape');
  });

  it('decides on pieces that stay decided when the outlines are traced more loosely', async () => {
    const before = await count();
    await chooseInTray(2);
    await press(page, 'Leave bare');
    await converted(page);
    expect(await count()).toBe(before - 1);
    await page.evaluate(() => {
      const field = [...document.querySelectorAll('kite-slider-field')].find((f) =>
        f.textContent?.includes('Outline may leave'),
      );
      const slider = field?.querySelector('input[type=range]') as HTMLInputElement;
      slider.value = '0.2';
      slider.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await converted(page);
    expect(await count()).toBe(before - 1);
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('kite-tray .filters button')]
        .find((b) => b.innerText.startsWith('Bare'))
        ?.click(),
    );
    await page.waitForSelector('kite-tray .piece.bare');
    await page.click('kite-tray .piece.bare');
    await converted(page);
    expect(await count()).toBe(before);
    await page.evaluate(() => document.querySelector<HTMLElement>('kite-tray .filters button')?.click());
  });

  it('draws a line and a shape over the picture, moves a point, and takes it all back', async () => {
    const before = await count();
    await press(page, 'Points and curves');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await rest(page, 700);
    for (const [x, y] of [
      [700, 190],
      [780, 200],
      [800, 250],
    ]) {
      await page.mouse.click(x, y);
      await rest(page, 60);
    }
    await page.keyboard.press('Enter');
    await converted(page);
    expect(await count()).toBe(before + 1);
    const [drawn] = await shapes();
    expect(drawn.paths[0].closed).toBeFalse();
    expect(drawn.paths[0].nodes.length).toBe(3);
    await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label="A standard shape"]')?.click());
    await rest(page, 400);
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[mat-menu-item]')]
        .find((b) => b.innerText.trim().toLowerCase() === 'heart')
        ?.click(),
    );
    await rest(page, 500);
    await page.mouse.move(640, 560);
    await page.mouse.down();
    await page.mouse.move(690, 600, { steps: 6 });
    await page.mouse.up();
    await converted(page);
    expect((await shapes()).length).toBe(2);
    await press(page, 'Done');
    await until(page, () => !document.querySelector('kite-draw-pane'));
    await page.mouse.click(665, 580);
    await page.waitForSelector('.chosen');
    await press(page, 'Move points');
    await rest(page, 400);
    const heart = (await shapes())[1].paths[0].nodes[3];
    await page.mouse.move(665, 600);
    await page.mouse.down();
    await page.mouse.move(665, 615, { steps: 5 });
    await page.mouse.up();
    await converted(page);
    expect((await shapes())[1].paths[0].nodes[3][1]).toBeGreaterThan(heart[1]);
    await press(page, 'Done');
    for (let i = 0; i < 3; i++) {
      await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label^="Undo"]')?.click());
      await rest(page, 150);
    }
    await converted(page);
    expect(await count()).toBe(before);
  });

  it('has no serious fault for assistive technology', async () => {
    await chooseInTray(0);
    await rest(page, 300);
    expect(await violations(page)).toEqual([]);
    await page.keyboard.press('Escape');
  });

  it('takes vector artwork as it is, in its own size, and lists what was repaired', async () => {
    const file = join(rig.folder, 'bow.svg');
    writeFileSync(file, ARTWORK);
    const opened = await rig.open('/');
    page = opened.page;
    await (await page.$('input[type=file]'))?.uploadFile(file);
    await page.waitForSelector('kite-studio');
    await converted(page);
    await press(page, 'Pieces, done');
    // The bow falls into its two halves.
    expect(await count()).toBe(4);
    expect((await kept()).picture.widthMm).toBe(80);
    const problems = await textOf(page, 'kite-problems');
    expect(problems).toContain('crosses itself');
    expect(problems).toContain('FAIR');
    const zoom = (): Promise<number> => textOf(page, '.percent').then((t) => Number.parseInt(t, 10));
    const before = await zoom();
    await page.evaluate(() => document.querySelector<HTMLElement>('kite-problems .link')?.click());
    await rest(page, 300);
    expect(await zoom()).toBeGreaterThan(before * 1.5);
    expect(opened.complaints).toEqual([]);
  });

  it('made no complaint', () => {
    expect(complaints).toEqual([]);
  });
});
