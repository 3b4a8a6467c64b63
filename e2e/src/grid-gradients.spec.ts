import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  converted,
  keptView,
  openNamed,
  pick,
  press,
  slide,
  startRig,
  stitchesShown,
  textOf,
  until,
  wait,
  type Rig,
  sewAs,
  rest,
} from './browser.js';

describe('A grid of crosses in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openNamed(rig, 'Quilt', 'Pieces'));
    await sewAs(page, 'cross');
    await page.waitForSelector('button[aria-label^="Grid"]');
    await converted(page);
  });
  afterAll(() => rig.close());

  const changes = async (): Promise<number> => (await keptView(rig, page)).rendering.grid?.edits.length ?? 0;
  const pull = async (from: [number, number], to: [number, number]): Promise<void> => {
    const box = await (await page.waitForSelector('kite-grid-pane canvas'))?.boundingBox();
    if (!box) throw new Error('no grid');
    await page.mouse.move(box.x + box.width * from[0], box.y + box.height * from[1]);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * to[0], box.y + box.height * to[1], { steps: 6 });
    await page.mouse.up();
  };

  it('follows the size of a cell, and cells across', async () => {
    const small = await stitchesShown(page);
    await slide(page, 'Size of a cell', 4);
    await converted(page);
    expect(await stitchesShown(page)).toBeLessThan(small * 0.7);
    await press(page, 'Undo: size of a cell');
    await converted(page);
    await pick(page, 'Grid', 'across');
    await slide(page, 'Cells across', 45);
    await converted(page);
    await until(page, () => /45 x 45 cells/.test(document.querySelector('kite-grid-choice')?.textContent ?? ''));
    await pick(page, 'Grid', 'cell');
    await converted(page);
  });

  it('is stitched by hand, and takes it back by undo', async () => {
    await press(page, 'Change cells by hand');
    await page.waitForSelector('kite-grid-pane canvas');
    await pull([0.3, 0.4], [0.45, 0.45]);
    await until(
      page,
      () => document.querySelector('kite-grid-sheet .lead')?.textContent?.includes('1 changes') === true,
    );
    expect(await changes()).toBe(1);
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await until(page, () => document.querySelector('kite-grid-sheet .lead')?.textContent?.includes('nothing') === true);
    expect(await changes()).toBe(0);
  });

  it('gets back stitches along lines, which are sewn', async () => {
    await page.keyboard.press('n');
    await until(
      page,
      () => document.querySelector('kite-grid-sheet .tools [aria-pressed=true]')?.textContent?.trim() === 'Back stitch',
    );
    const before = await stitchesShown(page);
    await pull([0.3, 0.6], [0.5, 0.6]);
    await converted(page);
    expect(await stitchesShown(page)).toBeGreaterThan(before);
    expect((await keptView(rig, page)).rendering.grid?.edits[0].backs.length).toBe(1);
  });

  it('has one thread in the place of another', async () => {
    await page.evaluate(() => document.querySelectorAll<HTMLElement>('kite-grid-sheet .thread')[1].click());
    await press(page, 'Replace');
    await pull([0.5, 0.5], [0.5, 0.5]);
    await converted(page);
    await until(page, () =>
      [...document.querySelectorAll('kite-grid-sheet .thread small')].some((s) => s.textContent?.startsWith('0 cells')),
    );
    expect(await changes()).toBe(2);
  });

  it('can be read and worked by everybody', async () => {
    expect(await violations(page)).toEqual([]);
    await press(page, 'Symbols');
    await page.keyboard.press('Escape');
    await page.waitForSelector('kite-grid-choice');
  });

  it('keeps changes by hand when colours change, and asks when the cells do', async () => {
    await slide(page, 'Size of a cell', 5);
    await converted(page);
    await page.waitForSelector('kite-grid-choice .ask canvas');
    await press(page, 'Carry them over');
    await converted(page);
    const grid = (await keptView(rig, page)).rendering.grid;
    expect(grid?.cellMm).toBe(5);
    expect(await page.$('kite-grid-choice .ask')).toBeNull();
  });

  it('is printed as a chart', async () => {
    await press(page, 'Chart as PDF');
    const file = join(rig.folder, 'quilt-block-north-hall.chart.pdf');
    for (let k = 0; k < 100 && !existsSync(file); k++) await wait(100);
    await rest(page, 200);
    expect(readdirSync(rig.folder)).toContain('quilt-block-north-hall.chart.pdf');
    expect(readFileSync(file).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('has everything again after reloading', async () => {
    const stitches = await stitchesShown(page);
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    expect(await stitchesShown(page)).toBe(stitches);
    expect(await changes()).toBe(1);
    expect(complaints).toEqual([]);
  });
});

describe('Gradients in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openNamed(rig, 'Pennant', 'Stitches'));
  });
  afterAll(() => rig.close());

  const handles = (): Promise<Record<string, { x: number; y: number }>> =>
    page.$eval(
      'kite-stage canvas',
      (canvas) =>
        JSON.parse((canvas as HTMLElement).dataset['handles'] ?? '{}') as Record<string, { x: number; y: number }>,
    );
  const decisions = async () => (await keptView(rig, page)).decisions.filter((d) => d.kind === 'gradient');

  it('of artwork arrive by themselves', async () => {
    expect(await textOf(page, 'kite-stitches-sheet .lead')).toContain('fills');
    await (await page.$$('kite-tray .piece'))[0].click();
    await page.waitForSelector('kite-gradient-section .bar');
    expect((await decisions()).length).toBe(0);
  });

  it('are led by their handles', async () => {
    await page.waitForFunction(() =>
      (document.querySelector<HTMLElement>('kite-stage canvas')?.dataset['handles'] ?? '').includes('start'),
    );
    const box = await (await page.$('kite-stage canvas'))?.boundingBox();
    const { end } = await handles();
    if (!box) throw new Error('no stage');
    await page.mouse.move(box.x + end.x, box.y + end.y);
    await page.mouse.down();
    await page.mouse.move(box.x + end.x - 180, box.y + end.y + 60, { steps: 5 });
    await page.mouse.up();
    await converted(page);
    const [said] = await decisions();
    expect(said.kind === 'gradient' && said.fill && said.fill.way[2] < 0.85).toBeTrue();
    expect((await decisions()).length).toBe(1);
  });

  it('are laid over several pieces as one', async () => {
    await page.keyboard.press('Escape');
    // The list draws only what is in sight, and may do so anew: every piece is found just before it is pressed.
    const choose = async (index: number): Promise<void> => {
      const piece = await page.waitForSelector(`kite-tray .piece[data-piece="${index}"]`);
      await piece?.click();
    };
    await choose(3);
    await page.keyboard.down('Shift');
    await choose(4);
    await choose(6);
    await page.keyboard.up('Shift');
    await press(page, 'Lay one gradient over all of them');
    await converted(page);
    const said = (await decisions()).slice(1);
    expect(said.length).toBe(3);
    expect(new Set(said.map((d) => JSON.stringify(d.kind === 'gradient' && d.fill))).size).toBe(1);
    expect(complaints).toEqual([]);
  });
});
