import type { PictureView } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import { converted, keptView, press, slide, startRig, textOf, until, type Rig, rest } from './browser.js';

describe('Picture and Colours in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await rig.open('/'));
    await (await page.$('.projects a'))?.click();
    await page.waitForSelector('kite-studio');
    await converted(page);
  });

  afterAll(() => rig.close());

  const kept = (): Promise<PictureView> => keptView(rig, page);
  const handles = async (): Promise<{ x: number; y: number; width: number; height: number }> => {
    const box = await (await page.$('kite-mask-pane .handles'))?.boundingBox();
    if (!box) throw new Error('no pane');
    return box;
  };
  const drag = async (fromX: number, fromY: number, toX: number, toY: number): Promise<void> => {
    await page.mouse.move(fromX, fromY);
    await page.mouse.down();
    await page.mouse.move((fromX + toX) / 2, (fromY + toY) / 2, { steps: 4 });
    await page.mouse.move(toX, toY, { steps: 4 });
    await page.mouse.up();
  };
  const size = (): Promise<string> => textOf(page, 'kite-reel .figures');

  it('shows the whole picture beside its stitches', async () => {
    await press(page, 'Picture, done');
    await page.waitForSelector('kite-mask-pane .konvajs-content');
    await rest(page, 600);
    const seen = await page.$eval('kite-mask-pane > canvas', (element) => {
      const canvas = element;
      const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(
        0,
        0,
        canvas.width,
        canvas.height,
      );
      let opaque = 0;
      for (let i = 3; i < data.length; i += 4) if (data[i] > 0) opaque++;
      return opaque / (data.length / 4);
    });
    expect(seen).toBeGreaterThan(0.3);
    expect(await page.$('kite-stage')).not.toBeNull();
    expect(await violations(page)).toEqual([]);
  });

  it('cuts by a heart, which is moved by dragging and by keys, and put aside', async () => {
    await press(page, 'Heart');
    await until(page, () => document.querySelector('[aria-label="Heart"]')?.getAttribute('aria-pressed') === 'true');
    await converted(page);
    expect((await kept()).picture.mask?.shape).toBe('heart');
    expect(await size()).toMatch(/8[01] × 74 mm/);
    const before = (await kept()).picture.mask;
    const box = await handles();
    await drag(box.x + box.width / 2, box.y + box.height / 2, box.x + box.width / 2 + 30, box.y + box.height / 2);
    await converted(page);
    const moved = (await kept()).picture.mask;
    expect(moved?.x).toBeGreaterThan((before?.x ?? 0) + 4);
    expect(moved?.widthMm).toBeCloseTo(before?.widthMm ?? 0, 1);
    await page.focus('kite-mask-pane .handles');
    await page.keyboard.press('ArrowLeft');
    await rest(page, 100);
    expect((await kept()).picture.mask?.x).toBeCloseTo((moved?.x ?? 0) - 0.5, 2);
    await press(page, 'Put aside');
    expect((await kept()).picture.mask).toBeNull();
    await press(page, 'Use the heart put aside');
    expect((await kept()).picture.mask?.shape).toBe('heart');
    await press(page, 'Remove');
    await converted(page);
  });

  it('draws a free mask: points, a bend, one taken back, closed at the first', async () => {
    await press(page, 'Drawn by hand');
    // Points are taken from the frame after the one that shows the button pressed.
    await page.waitForFunction(() =>
      [...document.querySelectorAll('kite-picture-sheet [aria-pressed=true]')].some(
        (b) => (b.getAttribute('aria-label') ?? b.textContent?.trim()) === 'Drawn by hand',
      ),
    );
    await rest(page, 100);
    const { x, y, width, height } = await handles();
    const at = (u: number, v: number): [number, number] => [x + width * u, y + height * v];
    await page.mouse.click(...at(0.3, 0.35));
    await page.mouse.click(...at(0.7, 0.35));
    await page.mouse.click(...at(0.9, 0.9));
    await page.focus('kite-mask-pane .handles');
    await page.keyboard.press('Backspace');
    await drag(...at(0.7, 0.65), ...at(0.6, 0.72));
    await page.mouse.click(...at(0.3, 0.65));
    await page.mouse.click(...at(0.3, 0.35));
    await converted(page);
    const { mask } = (await kept()).picture;
    expect(mask?.shape).toBe('free');
    expect(mask?.nodes?.length).toBe(4);
    expect(mask?.nodes?.some((n) => n[4] !== 0)).toBeTrue();
    await press(page, 'Remove');
    await converted(page);
  });

  it('turns the picture by its kite and by a number, and scales down what no hoop holds', async () => {
    await slide(page, 'Turned by', 30);
    await converted(page);
    expect((await kept()).picture.turn).toBe(30);
    await slide(page, 'Turned by', 0);
    await converted(page);
    await page.evaluate(() => {
      const field = [...document.querySelectorAll('kite-slider-field')].find(
        (f) => f.querySelector('label')?.textContent === 'Width',
      );
      const input = field?.querySelector<HTMLInputElement>('.value') as HTMLInputElement;
      input.value = '20 in';
      input.dispatchEvent(new Event('change'));
    });
    await until(page, () => document.body.innerText.includes('more than a hoop holds'));
    expect((await kept()).picture.widthMm).toBe(400);
    await press(page, 'Undo');
    expect((await kept()).picture.widthMm).toBe(100);
    await converted(page);
  });

  it('follows the light, and goes back by a double click', async () => {
    await slide(page, 'Brightness', 30);
    await converted(page);
    expect((await kept()).light.brightness).toBe(30);
    await press(page, 'Reset Brightness');
    expect((await kept()).light.brightness).toBe(0);
    await converted(page);
  });

  it('fades the picture over the stitches', async () => {
    await press(page, 'Stitches, done');
    await press(page, 'Fade the picture in');
    expect(await page.$('kite-stage .fade')).not.toBeNull();
    await press(page, 'Fade the picture in');
  });

  it('lists colours, merges one by dragging it onto another, and brings it back', async () => {
    await press(page, 'Colours, done');
    await converted(page);
    expect(await violations(page)).toEqual([]);
    const rows = await page.$$('kite-colours-sheet li[data-colour]');
    const count = rows.length;
    await rows[4].scrollIntoView();
    const from = await rows[4].boundingBox();
    const into = await rows[3].boundingBox();
    if (!from || !into) throw new Error('no rows');
    await drag(from.x + 60, from.y + 18, into.x + 60, into.y + 14);
    await converted(page);
    expect((await kept()).colours.decisions.map((d) => d.kind)).toEqual(['merge']);
    expect((await page.$$('kite-colours-sheet li[data-colour]')).length).toBe(count - 1);
    await press(page, 'Bring back');
    await converted(page);
    expect((await page.$$('kite-colours-sheet li[data-colour]')).length).toBe(count);
  });

  it('leaves a colour bare, and keeps that through other numbers, a reload, and a restart of the page', async () => {
    await (await page.$$('kite-colours-sheet li > .head'))[2].click();
    await press(page, 'Leave bare');
    await converted(page);
    await slide(page, 'Colours at most', 4);
    await converted(page);
    await slide(page, 'Colours at most', 6);
    await converted(page);
    await kept();
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    await press(page, 'Colours, done');
    await page.waitForSelector('kite-colours-sheet li.bare .head');
    const bare = await page.$$eval('kite-colours-sheet li.bare', (list) =>
      list.map((l) => (l as HTMLElement).innerText),
    );
    expect(bare.some((text) => text.includes('Left bare'))).toBeTrue();
    await press(page, 'Undo: number of colours');
    await converted(page);
  });

  it('chooses a thread from the tray, for one colour and for all', async () => {
    await page.evaluate(() => document.querySelector<HTMLElement>('kite-tray kite-thread-menu button')?.click());
    await page.waitForSelector('.mat-mdc-menu-panel button');
    await rest(page, 300);
    await page.evaluate(() => document.querySelectorAll<HTMLElement>('.mat-mdc-menu-panel button')[2].click());
    await converted(page);
    expect((await kept()).colours.decisions.some((d) => d.kind === 'thread')).toBeTrue();
    await press(page, 'Match all threads');
    await press(page, 'Match all to Dunegrass cotton');
    await converted(page);
    const recipe = await kept();
    expect(recipe.colours.charts).toEqual(['dunegrass']);
    expect(recipe.colours.decisions.some((d) => d.kind === 'thread')).toBeFalse();
    expect(await textOf(page, 'kite-tray h3 .name')).toMatch(/^DG-/);
  });

  it('picks a colour from the picture and makes it one of the number', async () => {
    await press(page, 'Pick a colour');
    await until(page, () => document.body.innerText.includes('point at it on the picture'));
    await rest(page, 500);
    const box = await (await page.$('kite-stage canvas'))?.boundingBox();
    if (!box) throw new Error('no stage');
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.62);
    await until(page, () => !document.body.innerText.includes('point at it on the picture'));
    await converted(page);
    expect((await kept()).colours.decisions.at(-1)?.kind).toBe('pin');
    expect(complaints).toEqual([]);
  });
});

describe('The thread cupboard in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await rig.open('/threads'));
    await page.waitForSelector('.tile');
  });

  afterAll(() => rig.close());

  it('shows hundreds of threads and draws only those in sight', async () => {
    expect((await page.$$('.tile')).length).toBeLessThan(220);
    await page.$eval('cdk-virtual-scroll-viewport', (v) => v.scrollTo(0, 5000));
    await rest(page, 300);
    expect((await page.$$('.tile')).length).toBeGreaterThan(20);
    await page.$eval('cdk-virtual-scroll-viewport', (v) => v.scrollTo(0, 0));
    expect(await violations(page)).toEqual([]);
  });

  it('finds the threads nearest to a typed colour, and counts spools', async () => {
    await page.type('input[type=search]', '#2c6e80');
    await until(page, () => /^(same|close|visible)/.test(document.querySelector('.tile .label')?.textContent ?? ''));
    await rest(page, 300);
    await (await page.$('.tile'))?.click();
    await page.waitForSelector('aside input[type=number]');
    const before = Number(await page.$eval('aside input[type=number]', (f) => f.value));
    await press(page, 'One spool more');
    await rest(page, 400);
    const spools = rig.server.stores.cupboard.stash().reduce((most, e) => Math.max(most, e.spools), 0);
    expect(spools).toBeGreaterThanOrEqual(before + 1);
  });

  it('makes a chart of its own, keeps it through a reload, and takes it out with undo', async () => {
    await press(page, 'New chart');
    await page.waitForSelector('.chart-head input.name');
    await press(page, 'Thread');
    await page.waitForSelector('input[name=code]');
    await page.type('input[name=code]', 'Q-1');
    await page.type('input[name=name]', 'Quay');
    await press(page, 'Keep');
    await page.waitForSelector('.tile');
    await page.reload({ waitUntil: 'networkidle0' });
    await page.waitForSelector('.tile');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav button')]
        .find((b) => b.innerText.includes('My threads'))
        ?.click(),
    );
    await rest(page, 300);
    expect(await textOf(page, '.tile')).toContain('Q-1');
    await press(page, 'Take the chart out of the cupboard');
    await until(page, () => document.body.innerText.includes('was taken out'));
    await press(page, 'Undo');
    await until(page, () => document.querySelector('nav')?.textContent?.includes('My threads') === true);
    expect(complaints).toEqual([]);
  });
});
