import type { DesignObject } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  choose,
  converted,
  keptRecipe,
  openNamed,
  press,
  rest,
  startRig,
  stitchesShown,
  textOf,
  until,
  type Rig,
  stageMiddle,
} from './browser.js';

describe('Drawing over a picture that is not sewn', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openNamed(rig, 'Fair crest', 'Pieces'));
  });
  afterAll(() => rig.close());

  const objects = async (): Promise<readonly DesignObject[]> => (await keptRecipe(rig, page)).objects;
  const stage = (): ReturnType<typeof stageMiddle> => stageMiddle(page);

  it('leaves the picture faded on the cloth, and sews nothing of it', async () => {
    await press(page, 'More for Picture');
    await choose(page, 'Only draw over it');
    await converted(page);
    expect((await objects()).map((object) => object.kind === 'picture' && object.sketch)).toEqual([true]);
    expect(await stitchesShown(page)).toBe(0);
    expect(await textOf(page, 'kite-stage .message')).toContain('there to draw over');
    // Its red shows on the cloth.
    const reds = await page.$eval('kite-stage canvas', (canvas) => {
      const copy = document.createElement('canvas');
      [copy.width, copy.height] = [canvas.clientWidth, canvas.clientHeight];
      const context = copy.getContext('2d') as CanvasRenderingContext2D;
      for (const each of document.querySelectorAll<HTMLCanvasElement>('kite-stage canvas')) {
        context.drawImage(each, 0, 0, copy.width, copy.height);
      }
      const { data } = context.getImageData(0, 0, copy.width, copy.height);
      let count = 0;
      for (let i = 0; i < data.length; i += 4) {
        const [r, g, b] = data.subarray(i, i + 3);
        if ((r ?? 0) > (g ?? 0) + 30 && (r ?? 0) > (b ?? 0) + 30) count++;
      }
      return count;
    });
    expect(reds).toBeGreaterThan(2000);
    expect(await violations(page)).toEqual([]);
  });

  it('is drawn a kite with its tail, each an object of its own', async () => {
    const { x, y } = await stage();
    await press(page, 'A standard shape');
    await choose(page, 'kite');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await page.mouse.move(x - 60, y - 120);
    await page.mouse.down();
    await page.mouse.move(x + 60, y + 40, { steps: 8 });
    await page.mouse.up();
    await converted(page);
    const kite = await stitchesShown(page);
    expect(kite).toBeGreaterThan(200);
    await press(page, 'Freely by hand');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await page.mouse.move(x, y + 44);
    await page.mouse.down();
    for (let k = 1; k <= 24; k++) {
      await page.mouse.move(x + 34 * Math.sin(k / 3.4), y + 44 + k * 5);
      await rest(page, 20);
    }
    await page.mouse.up();
    await until(page, () => !document.querySelector('kite-stage .busy'));
    await converted(page);
    expect(await stitchesShown(page)).toBeGreaterThan(kite + 15);
    const drawn = await objects();
    expect(drawn.map(({ kind }) => kind)).toEqual(['picture', 'shape', 'shape']);
    const tail = drawn.at(-1);
    expect(tail?.kind === 'shape' && tail.paths.every(({ closed }) => !closed)).toBeTrue();
    // Few points, as a person would set them.
    expect(tail?.kind === 'shape' ? (tail.paths.at(0)?.nodes.length ?? 0) : 0).toBeLessThan(16);
    const done = await page.$('kite-draw-pane');
    if (done) await press(page, 'Done');
    expect(complaints).toEqual([]);
  });

  it('has it after a reload, and the picture back when it is shown again', async () => {
    const sewn = await stitchesShown(page);
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    expect(await stitchesShown(page)).toBe(sewn);
    await press(page, 'More for Picture (only drawn over)');
    await choose(page, 'Sew it as well');
    await converted(page);
    expect(await stitchesShown(page)).toBeGreaterThan(sewn + 3000);
    expect(complaints).toEqual([]);
  });
});
