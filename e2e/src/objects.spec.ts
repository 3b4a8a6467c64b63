import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readArchive, type DesignObject } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import {
  choose,
  converted,
  keptView,
  openNamed,
  press,
  setWidth,
  stageMiddle,
  startRig,
  until,
  wait,
  type Rig,
  rest,
} from './browser.js';

describe('Objects in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openNamed(rig, 'Evening harbour', 'Picture'));
    await setWidth(page, '50 mm');
  });

  afterAll(async () => {
    await rig.close();
  });

  const objects = async (): Promise<readonly DesignObject[]> => (await keptView(rig, page)).objects;
  const chips = (): Promise<string[]> =>
    page.$$eval('kite-object-row .chip:not(.add)', (list) => list.map((chip) => chip.getAttribute('aria-label') ?? ''));

  /** Draws a standard shape over the middle of the stage, moved by so many pixels. */
  async function drawShape(shape: string, dx: number, dy: number): Promise<void> {
    await press(page, 'A standard shape');
    await choose(page, shape);
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    const middle = await stageMiddle(page);
    const [x, y] = [middle.x + dx, middle.y + dy];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 70, y + 60, { steps: 6 });
    await page.mouse.up();
    await converted(page);
    await press(page, 'Done');
    await until(page, () => !document.querySelector('kite-draw-pane'));
  }

  it('adds an outline in satin around a painted picture', async () => {
    await press(page, 'More for Picture');
    await choose(page, 'Add its outline');
    await converted(page);
    expect((await objects()).map(({ kind }) => kind)).toEqual(['picture', 'outline']);
    expect(await chips()).toEqual(['Outline of picture', 'Picture']);
  });

  it('draws a shape above it, and one that goes below', async () => {
    await press(page, 'Threads, done');
    await drawShape('heart', -60, -40);
    await drawShape('oval', 20, 0);
    const all = await objects();
    expect(all.map(({ kind }) => kind)).toEqual(['picture', 'outline', 'shape', 'shape']);
    const [oval] = await chips();
    for (let lower = 0; lower < 3; lower++) {
      await press(page, `More for ${oval}`);
      await choose(page, 'One lower');
      await converted(page);
    }
    expect((await objects()).map(({ id }) => id)).toEqual([all[3].id, all[0].id, all[1].id, all[2].id]);
  });

  it('lays a gradient over what lies below', async () => {
    await press(page, 'Stitches, done');
    const lowest = (await chips()).at(-1) ?? '';
    await press(page, lowest);
    await press(page, 'Lay a gradient over it');
    await converted(page);
    const said = (await keptView(rig, page)).decisions;
    const [{ id }] = await objects();
    expect(said.filter((d) => d.kind === 'gradient').map((d) => d.at.object)).toEqual([id]);
  });

  it('takes all of it away in one archive, sewn from below', async () => {
    await press(page, 'Take away and more');
    await press(page, 'Project archive (.kite)');
    const name = (): string | undefined => readdirSync(rig.folder).find((file) => file.endsWith('.kite'));
    for (let i = 0; i < 100 && name() === undefined; i++) await wait(100);
    const path = join(rig.folder, name() ?? 'nothing');
    expect(existsSync(path)).toBeTrue();
    await rest(page, 300);
    const { recipe, sewing } = readArchive(readFileSync(path));
    expect(recipe.objects.map(({ kind }) => kind)).toEqual(['shape', 'picture', 'outline', 'shape']);
    const { stitches: list, pieceIds } = sewing;
    const parts = [...new Set(Array.from(list.piece))].flatMap((i) => pieceIds[i] ?? []);
    // Gradient below, then the layers of the painting, then the outline and what was drawn above.
    const isLayer = parts.map((id) => id.startsWith('layer'));
    const first = isLayer.indexOf(true);
    const last = isLayer.lastIndexOf(true);
    expect(first).toBeGreaterThan(1);
    expect(isLayer.slice(first, last + 1).every(Boolean)).toBeTrue();
    expect(isLayer.length - 1 - last).toBeGreaterThanOrEqual(2);
  });

  it('adds another project as one group, and takes it back', async () => {
    const before = await objects();
    await press(page, 'Add');
    await page.waitForSelector('[mat-menu-item]');
    // A dialog opens at once: what lies over the page then is its own.
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[mat-menu-item]')]
        .find(({ innerText }) => innerText.includes('Another project'))
        ?.click(),
    );
    await page.waitForSelector('kite-project-dialog input');
    await page.type('kite-project-dialog input', 'badge');
    await until(page, () => document.querySelectorAll('kite-project-dialog li button').length === 1);
    await page.click('kite-project-dialog li button');
    await until(
      page,
      (count) => document.querySelectorAll('kite-object-row .chip:not(.add)').length > count,
      before.length,
    );
    await converted(page);
    const added = (await objects()).slice(before.length);
    expect(added.map(({ kind }) => kind)).toContain('letters');
    expect(new Set(added.map(({ group }) => group))).toEqual(new Set(['group-1']));
    await press(page, 'Undo: project added');
    await until(
      page,
      (count) => document.querySelectorAll('kite-object-row .chip:not(.add)').length === count,
      before.length,
    );
    await converted(page);
    // Kept, too, before anybody leaves.
    expect((await objects()).length).toBe(before.length);
  });

  it('has it all again after a reload, and takes it back step by step', async () => {
    const before = await chips();
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    expect(await chips()).toEqual(before);
    for (let i = 0; i < 7; i++) {
      await page.keyboard.down('Control');
      await page.keyboard.press('z');
      await page.keyboard.up('Control');
      await rest(page, 60);
    }
    await converted(page);
    expect(await chips()).toEqual(['Picture']);
    expect(complaints).toEqual([]);
  });
});
