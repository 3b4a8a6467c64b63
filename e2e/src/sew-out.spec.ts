import type { OwnFabric } from '@open-kite/contract';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  converted,
  keptRecipe,
  press,
  rest,
  select,
  startRig,
  stitchesShown,
  textOf,
  until,
  type Rig,
} from './browser.js';

describe('A fabric learnt from its test card', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(false);
    await fetch(`${rig.server.address}/api/machine`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ needles: 1, hoop: '130x180', speed: 800, timeScale: 100_000 }),
    });
    ({ page, complaints } = await rig.open('/'));
  });
  afterAll(() => rig.close());

  it('is made a card, which the practice machine sews', async () => {
    await press(page, 'Fabrics');
    await page.waitForSelector('kite-fabrics-page kite-places-map svg');
    expect(await violations(page)).toEqual([]);
    await select(page, 'Fabric', 'Jersey');
    await press(page, 'Make its test card');
    await page.waitForSelector('kite-studio');
    await converted(page);
    expect(await stitchesShown(page)).toBeGreaterThan(3500);
    const { cloth } = await keptRecipe(rig, page);
    expect([cloth.fabric, cloth.measured?.name]).toEqual(['jersey', 'Jersey, nothing compensated']);
    await press(page, 'Sew, done');
    await press(page, 'Send to the practice machine');
    await page.waitForSelector('kite-machine-page .acts button');
    await press(page, 'Start');
    await page.waitForSelector('kite-machine-page .photo');
    expect(await violations(page)).toEqual([]);
    expect(complaints).toEqual([]);
  });

  it('is measured on the photograph of it, and kept', async () => {
    // The cloth of the job's fabric is offered first.
    expect(await textOf(page, 'kite-machine-page .photo')).toContain('Fair shirt jersey');
    await press(page, 'Measure it');
    await until(page, () =>
      /\d widths/.test(document.querySelector('kite-fabrics-page aside.sheet')?.textContent ?? ''),
    );
    expect(await textOf(page, 'kite-fabrics-page aside.sheet')).toMatch(/^\D*1?\d\d widths, 28 lengths, 3 gaps/);
    expect(await page.$$eval('kite-photo-overlay .place', (places) => places.length)).toBe(4);
    expect(await violations(page)).toEqual([]);
    const before = await textOf(page, '.rows tbody');
    // A place that is taken hold of measures anew; put back where it was, it says the same.
    await page.focus('kite-photo-overlay .place');
    await page.keyboard.down('Shift');
    for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowRight');
    await until(page, (said) => document.querySelector('.rows tbody')?.textContent !== said, before);
    for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowLeft');
    await page.keyboard.up('Shift');
    await until(page, (said) => (document.querySelector('.rows tbody') as HTMLElement).innerText === said, before);
    await page.type('form input', 'Fair shirt');
    await press(page, 'Keep as a fabric');
    await page.waitForSelector('kite-fabrics-page li input');
    const kept = (await (await fetch(`${rig.server.address}/api/fabrics`)).json()) as OwnFabric[];
    expect(kept.map(({ fabric, measured }) => [fabric, measured.name])).toEqual([['jersey', 'Fair shirt']]);
    const seven = kept.at(0)?.measured.pull.find(({ lengthMm }) => Math.abs(lengthMm - 7) < 0.3);
    expect(seven?.acrossMm).toBeGreaterThan(0.5);
    expect(seven?.downMm).toBeLessThan(0.4);
    expect(complaints).toEqual([]);
  });

  it('is among the fabrics of every project, and its stitches are laid against what was measured', async () => {
    await press(page, 'Shelf');
    await press(page, 'Begin on bare cloth');
    await page.waitForSelector('kite-studio');
    await press(page, 'Stitches, done');
    await select(page, 'Fabric', 'Fair shirt');
    await until(page, () => document.querySelector('.facts')?.textContent.includes('cut-away') ?? false);
    await until(page, () => /Measured on your cloth/.test(document.body.innerText));
    await rest(page, 400);
    const { cloth } = await keptRecipe(rig, page);
    expect([cloth.fabric, cloth.measured?.name, cloth.measured?.gapMm !== null]).toEqual([
      'jersey',
      'Fair shirt',
      true,
    ]);
    await select(page, 'Fabric', 'Denim');
    await until(page, () => /Teach it from a test card/.test(document.body.innerText));
    await rest(page, 400);
    expect((await keptRecipe(rig, page)).cloth.measured).toBeUndefined();
    expect(complaints).toEqual([]);
  });
});
