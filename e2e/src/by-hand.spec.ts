import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { END, JUMP, STITCH, StitchWriter, writeStitchList, type LettersObject, type Recipe } from '@open-kite/core';
import type { ElementHandle, Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  ARTWORK,
  choose,
  converted,
  keptRecipe,
  keys,
  press,
  select,
  setNumber,
  startRig,
  stitchesShown,
  textOf,
  until,
  wait,
  type Rig,
  rest,
  stageMiddle,
} from './browser.js';

/** A stitch list of a bow tie, as another program may have made it. */
function bowTie(): string {
  const writer = new StitchWriter();
  for (let i = 0; i <= 80; i++) {
    writer.add(i / 2 - 20, ((i % 2) - 0.5) * Math.abs(i / 4 - 10), i === 0 ? JUMP : STITCH, 0, 0);
  }
  writer.add(20, 5, END, 0, 0);
  return writeStitchList({
    fabric: { id: 'linen', hex: '#f4f1ea' },
    threads: [{ code: '12', name: 'kelp', hex: '#205040', chart: 'own', deltaE: 0 }],
    stitches: writer.finish(),
    pieceIds: ['tie'],
  });
}

/** Goes to a step, whatever stands beside its name. */
async function step(page: Page, name: string): Promise<void> {
  await page.evaluate((wanted) => {
    const knots = [...document.querySelectorAll<HTMLElement>('kite-line button')];
    knots.find((knot) => knot.querySelector('.label')?.textContent === wanted)?.click();
  }, name);
}

/** Gives files to the field for them. */
async function upload(page: Page, ...paths: string[]): Promise<void> {
  const field = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>;
  await field.uploadFile(...paths);
}

describe('By hand in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(false);
    ({ page, complaints } = await rig.open('/'));
    await press(page, 'Begin on bare cloth');
    await page.waitForSelector('kite-studio');
  });

  afterAll(() => rig.close());

  const kept = (): Promise<Recipe> => keptRecipe(rig, page);
  const texts = async (): Promise<LettersObject[]> =>
    (await kept()).objects.filter((object): object is LettersObject => object.kind === 'letters');
  const stage = (): ReturnType<typeof stageMiddle> => stageMiddle(page);

  it('types a text on the bare cloth, sewn with every key', async () => {
    await press(page, 'Add');
    await choose(page, 'Letters');
    await page.waitForSelector('kite-type-pane textarea');
    await page.keyboard.type('HHH');
    await converted(page);
    const three = await stitchesShown(page);
    expect(three).toBeGreaterThan(60);
    await page.keyboard.press('Backspace');
    await converted(page);
    expect(await stitchesShown(page)).toBeLessThan(three);
    await page.keyboard.press('Escape');
    await until(page, () => !document.querySelector('kite-type-pane textarea'));
    expect((await texts()).map(({ text }) => text)).toEqual(['HH']);
  });

  it('moves it with the mouse, with keys and by numbers, and takes each step back', async () => {
    const [before] = await texts();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowDown');
    const [nudged] = await texts();
    expect(nudged?.place.e).toBeGreaterThan(before?.place.e ?? 0);
    expect(nudged?.place.f).toBeGreaterThan(before?.place.f ?? 0);
    // Nudges one after the other are one step.
    await keys(page, 'z', 'Control');
    expect((await texts())[0]?.place).toEqual(before?.place);
    expect((await texts())[0]?.text).toBe('HH');
    await converted(page);
    await page.click('kite-place-section mat-expansion-panel-header');
    // The panel unfolds before anything is typed in it.
    await rest(page, 400);
    await setNumber(page, 'Across', '30');
    expect((await texts())[0]?.place.e).toBeGreaterThan((before?.place.e ?? 0) + 20);
    await keys(page, 'z', 'Control');
    expect((await texts())[0]?.place).toEqual(before?.place);
  });

  it('drags it by its own stitches', async () => {
    const [before] = await texts();
    const { x, y } = await stage();
    await converted(page);
    // The bar of the left letter.
    await page.mouse.move(x - 25, y - 25);
    await page.mouse.down();
    await page.mouse.move(x + 15, y - 5, { steps: 5 });
    await page.mouse.up();
    const [after] = await texts();
    expect(after?.place.e).toBeGreaterThan(before?.place.e ?? 0);
    expect(after?.place.f).toBeGreaterThan(before?.place.f ?? 0);
    expect(after?.place.a).toBe(before?.place.a ?? 1);
  });

  it('duplicates it, and groups the two', async () => {
    await keys(page, 'd', 'Control');
    expect((await texts()).map(({ text }) => text)).toEqual(['HH', 'HH']);
    await converted(page);
    await keys(page, 'a', 'Control');
    await keys(page, 'g', 'Control');
    const [a, b] = await texts();
    expect(a?.group).toBeTruthy();
    expect(a?.group).toBe(b?.group);
    await keys(page, 'z', 'Control');
    await rest(page, 100);
    await keys(page, 'z', 'Control');
    expect((await texts()).length).toBe(1);
    await converted(page);
  });

  it('lays a cloth under it by an applique, and copies it in a ring', async () => {
    await keys(page, 'a', 'Control');
    await press(page, 'Add');
    await choose(page, 'Applique of what is chosen');
    await converted(page);
    expect((await kept()).objects.map(({ kind }) => kind)).toEqual(['letters', 'outline']);
    const shown = await stitchesShown(page);
    await keys(page, 'a', 'Control');
    await press(page, 'Add');
    await choose(page, 'Copies of what is chosen');
    await converted(page);
    expect((await kept()).objects.map(({ kind }) => kind)).toEqual(['letters', 'outline', 'copies']);
    const copied = await stitchesShown(page);
    expect(copied).toBeGreaterThan(shown * 4);
    expect(await violations(page)).toEqual([]);
    // Real ones stand where the copies stood, and the applique of each goes around its own text.
    await press(page, 'Make them real');
    await converted(page);
    const real = (await kept()).objects;
    expect(real.map(({ kind }) => kind).filter((kind) => kind === 'copies')).toEqual([]);
    expect(real.length).toBe(12);
    expect(new Set(real.flatMap((object) => (object.kind === 'outline' ? [object.of] : []))).size).toBe(6);
    expect(Math.abs((await stitchesShown(page)) / copied - 1)).toBeLessThan(0.1);
    await keys(page, 'z', 'Control');
    await converted(page);
    expect((await kept()).objects.length).toBe(3);
    await keys(page, 'z', 'Control');
    await converted(page);
    // Its steps as objects of their own, and together again.
    await press(page, 'Applique of “HH”');
    await press(page, 'Break into its steps');
    await converted(page);
    const steps = (await kept()).objects.flatMap((object) => (object.kind === 'outline' ? [object.name] : []));
    expect(steps).toEqual(['Placement line', 'Tack-down', 'Cover']);
    expect(await stitchesShown(page)).toBe(shown);
    await keys(page, 'z', 'Control');
    await converted(page);
    expect((await kept()).objects.map(({ kind }) => kind)).toEqual(['letters', 'outline']);
    // The cloth is printed with a picture chosen for it, which is in the archive as well.
    await press(page, 'Applique of “HH”');
    await select(page, 'Cloth', 'Print');
    await (await page.$('input[aria-label="Picture for the print"]'))?.uploadFile(join(ARTWORK, 'crest.png'));
    const print = async () =>
      (await kept()).objects.flatMap((object) => (object.kind === 'outline' ? [object.applique?.cloth.print] : []))[0];
    while ((await print()) === undefined) await wait(100);
    await converted(page);
    expect(await print()).toEqual({ source: 'picture-1', widthMm: 40 });
    expect(await stitchesShown(page)).toBe(shown);
    await keys(page, 'z', 'Control');
    await converted(page);
    expect(await print()).toBeUndefined();
    expect(complaints).toEqual([]);
  });

  it('is told which hoop it is for, and sewn by the practice machine', async () => {
    await fetch(`${rig.server.address}/api/machine`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ needles: 6, hoop: '130x180', speed: 800, timeScale: 10_000 }),
    });
    await step(page, 'Sew');
    await select(page, 'Hoop', '130 x 180 mm');
    expect((await kept()).hoop).toEqual(jasmine.objectContaining({ widthMm: 130, heightMm: 180 }));
    expect(await violations(page)).toEqual([]);
    const stitches = await stitchesShown(page);
    await press(page, 'Send to the practice machine');
    await page.waitForSelector('kite-machine-page .acts button');
    await page.evaluate(() => document.querySelector<HTMLElement>('.acts button:not(.second)')?.click());
    expect(await violations(page)).toEqual([]);
    // Whatever it waits for is done, until the last stitch.
    for (let i = 0; i < 40; i++) {
      if (await page.evaluate(() => document.querySelector('kite-machine-page .facts') !== null)) break;
      await page.evaluate(() => document.querySelector<HTMLElement>('.acts button:not(.second)')?.click());
      await rest(page, 300);
    }
    // What was sewn stays on the cloth.
    await rest(page, 800);
    const shades = await page.$eval('kite-sewn-canvas canvas', (canvas) => {
      const context = canvas.getContext('2d') as CanvasRenderingContext2D;
      return new Set(new Uint32Array(context.getImageData(0, 0, canvas.width, canvas.height).data.buffer)).size;
    });
    expect(shades).toBeGreaterThan(200);
    const said = (await textOf(page, 'kite-machine-page .lead')).replace(/\D+/g, '');
    expect(said).toBe(`${stitches}${stitches}`);
    expect(await textOf(page, 'kite-machine-page .facts')).toContain('Stops, breaks');
    expect(complaints).toEqual([]);
  });

  it('opens a stitch list as it is', async () => {
    mkdirSync(join(rig.folder, 'given'));
    const path = join(rig.folder, 'given', 'bow-tie.csv');
    writeFileSync(path, bowTie());
    const opened = await rig.open('/');
    await upload(opened.page, path);
    await opened.page.waitForSelector('kite-studio');
    await converted(opened.page);
    const recipe = await keptRecipe(rig, opened.page);
    expect(recipe.objects.map(({ kind }) => kind)).toEqual(['stitches']);
    await step(opened.page, 'Sew');
    await opened.page.evaluate(() => {
      const all = [...document.querySelectorAll<HTMLElement>('.formats button')];
      all.find((button) => button.innerText.startsWith('Stitch list'))?.click();
    });
    const taken = join(rig.folder, 'bow-tie.csv');
    for (let i = 0; i < 100 && !existsSync(taken); i++) await wait(100);
    await rest(page, 200);
    // Its own rows as they were; the thread it left loose is tied off.
    const rows = readFileSync(taken, 'utf8').split('\n');
    const own = bowTie().trim().split('\n').slice(0, -1);
    expect(rows.slice(0, own.length)).toEqual(own);
    expect(rows.some((row) => row.includes(',trim,'))).toBeTrue();
    expect(opened.complaints).toEqual([]);
    await opened.page.close();
  });

  it('sews many pictures in one run', async () => {
    const opened = await rig.open('/bulk');
    const damaged = join(rig.folder, 'damaged.png');
    writeFileSync(damaged, 'this is no picture');
    await upload(opened.page, join(ARTWORK, 'pennant.svg'), join(ARTWORK, 'quilt-block.png'), damaged);
    await opened.page.waitForFunction(
      () => [...document.querySelectorAll('tbody tr')].filter((row) => /done/i.test(row.textContent)).length === 2,
    );
    expect((await opened.page.$$('tbody tr.failed')).length).toBe(1);
    expect(await violations(opened.page)).toEqual([]);
    expect(opened.complaints).toEqual([]);
    await opened.page.close();
  });
});
