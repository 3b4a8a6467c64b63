import type { Page } from 'puppeteer-core';
import {
  converted,
  keptView,
  openFirst,
  pick,
  press,
  setWidth,
  slide,
  startRig,
  stitchesShown,
  textOf,
  until,
  type Rig,
  sewAs,
  rest,
} from './browser.js';

describe('Photographs in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openFirst(rig, 'Picture'));
    await setWidth(page, '45 mm');
  });

  afterAll(async () => {
    await rig.close();
  });

  const method = async (id: string, knot: string): Promise<void> => {
    await sewAs(page, id);
    await page.waitForSelector(`button[aria-label^="${knot}"]`);
    await converted(page);
  };

  it('chooses a method: the step takes its name, and the result replaces the pieces', async () => {
    await press(page, 'Pieces, done');
    const pieces = await stitchesShown(page);
    await method('rows', 'Rows');
    expect(await textOf(page, 'kite-rendering-sheet h2')).toBe('Rows');
    expect(await stitchesShown(page)).not.toBe(pieces);
    expect(await textOf(page, 'kite-tray .head h2')).toBe('1 thread');
    expect((await keptView(rig, page)).method).toBe('rows');
  });

  it('shows the picture as every method would sew it', async () => {
    await page.waitForFunction(
      () =>
        [...document.querySelectorAll<HTMLImageElement>('kite-method-cards img')].filter(
          (img) => img.naturalWidth > 100,
        ).length === 5,
    );
    const said = await page.$$eval('kite-method-cards li button', (all) => all.map((b) => b.textContent));
    expect(said.every((text) => /[1-9][\d\s]* stitches at this small size/.test(text)))
      .withContext(String(said))
      .toBeTrue();
    expect(await page.$eval('kite-method-cards [aria-pressed=true]', (b) => b.getAttribute('data-method'))).toBe(
      'rows',
    );
    // Nothing of the design itself has changed.
    expect((await keptView(rig, page)).method).toBe('rows');
  });

  it('follows its options, and takes them back by undo', async () => {
    const fine = await stitchesShown(page);
    await pick(page, 'Grade', 'coarse');
    await converted(page);
    const coarse = await stitchesShown(page);
    expect(coarse).toBeLessThan(fine * 0.7);
    await press(page, 'Undo: grade');
    await converted(page);
    expect(await stitchesShown(page)).toBe(fine);
  });

  it('tries another thread and another cloth', async () => {
    const set = (selector: string, value: string): Promise<void> =>
      page.$eval(
        selector,
        (element, to) => {
          (element as HTMLInputElement).value = to;
          element.dispatchEvent(new Event('input', { bubbles: true }));
        },
        value,
      );
    await set('kite-thread-picker input[type=color]', '#aa3322');
    await set('section[aria-label="Threads and cloth"] > label input[type=color]', '#101820');
    await converted(page);
    const { rendering, cloth } = await keptView(rig, page);
    expect(rendering.threads['rows']).toEqual([{ hex: '#aa3322' }]);
    expect(cloth.hex).toBe('#101820');
  });

  it('paints with threads, and a direction drawn on the cloth leads them', async () => {
    await method('painting', 'Threads');
    await slide(page, 'Threads at most', 5);
    await converted(page);
    expect(await page.$$eval('kite-reel .figures dd', (list) => list[3].innerText)).toBe('5');
    await pick(page, 'Lines run', 'drawn');
    await press(page, 'Draw directions');
    const box = await (await page.$('kite-stage canvas'))?.boundingBox();
    if (!box) throw new Error('there is no stage');
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x - 120, y - 60);
    await page.mouse.down();
    for (let k = 1; k <= 12; k++) await page.mouse.move(x - 120 + k * 20, y - 60 + k * 10);
    await page.mouse.up();
    await press(page, 'Stop drawing');
    await converted(page);
    const { rendering } = await keptView(rig, page);
    expect(rendering.strokes.length).toBe(1);
    expect(rendering.values['painting']['direction']).toBe('drawn');
    expect(await textOf(page, 'section[aria-label^="How thread painting"]')).toContain('1 stroke leads');
  });

  it('changes the effect, leaves a thread out and takes that back', async () => {
    await pick(page, 'Colours', 'sepia');
    await converted(page);
    await page.evaluate(() => {
      [...document.querySelectorAll<HTMLElement>('kite-rendering-sheet button')]
        .find((b) => b.innerText.trim() === 'Leave out')
        ?.click();
    });
    await converted(page);
    expect((await keptView(rig, page)).rendering.mix.length).toBe(1);
    expect(await page.$$eval('kite-reel .figures dd', (list) => list[3].innerText)).toBe('4');
    await press(page, 'Take back');
    await converted(page);
    expect(await page.$$eval('kite-reel .figures dd', (list) => list[3].innerText)).toBe('5');
  });

  it('stays below a budget and says what that cost', async () => {
    await page.click('kite-budget-field input[type=checkbox]');
    await converted(page);
    const { budget } = await keptView(rig, page);
    const stitches = await stitchesShown(page);
    expect(stitches).toBeLessThanOrEqual(budget as number);
    expect(stitches).toBeGreaterThanOrEqual((budget as number) * 0.97);
    expect(await textOf(page, 'kite-budget-field .cost')).toContain('given up');
    await page.click('kite-budget-field input[type=checkbox]');
    await converted(page);
    expect((await keptView(rig, page)).budget).toBeNull();
  });

  it('stops a run when it is asked to, and goes on', async () => {
    const before = await stitchesShown(page);
    await slide(page, 'Distance of lines', 0.3);
    // The button is drawn anew while the share grows: it is found and pressed in one go.
    await page.waitForFunction(() => {
      const stop = document.querySelector<HTMLElement>('kite-stage .busy button');
      stop?.click();
      return stop !== null;
    });
    await until(page, () => document.querySelector('kite-stage')?.textContent?.includes('Stopped.') === true);
    await press(page, 'Go on');
    await converted(page);
    expect(await stitchesShown(page)).not.toBe(before);
  });

  it('sews a border around itself', async () => {
    const before = await textOf(page, 'kite-tray .head h2');
    await press(page, 'Add an outline');
    await converted(page);
    expect(await textOf(page, 'kite-tray .head h2')).toBe('1 piece');
    await press(page, 'Remove the outline');
    await converted(page);
    expect(await textOf(page, 'kite-tray .head h2')).toBe(before);
  });

  it('keeps one of several try-outs', async () => {
    await press(page, 'Try-outs');
    // The board begins with one of every method; what is asked here needs none of them.
    await until(page, () => document.querySelectorAll('kite-try-outs .cards > li').length === 5);
    await press(page, 'Stop');
    await pick(page, 'Vary', 'count');
    await page.waitForSelector('kite-try-outs input[aria-label="Values of threads at most"]');
    const type = (label: string, text: string): Promise<void> =>
      page.$eval(
        `kite-try-outs input[aria-label="${label}"]`,
        (element, to) => {
          element.value = to;
          element.dispatchEvent(new Event('input', { bubbles: true }));
        },
        text,
      );
    await type('Values of threads at most', '3, 4, 900');
    await until(page, () => document.querySelector('kite-try-outs .fault') !== null);
    await type('Values of threads at most', '3, 4, 6');
    await press(page, 'Make 3');
    await page.waitForFunction(
      () =>
        document.querySelectorAll('kite-try-outs .shot img').length === 3 &&
        [...document.querySelectorAll('kite-try-outs dl')].every((l) => l.textContent?.includes('ΔE')),
    );
    await press(page, 'Throw away threads at most 3');
    await until(page, () => document.querySelectorAll('kite-try-outs .cards > li').length === 2);
    await press(page, 'Keep threads at most 6');
    await until(page, () => document.querySelector('kite-try-outs') === null);
    await converted(page);
    expect((await keptView(rig, page)).colours.count).toBe(6);
  });

  it('tidies lines: those inside an area drawn around them go', async () => {
    const before = await stitchesShown(page);
    await page.keyboard.press('5');
    await press(page, 'Draw an area');
    const box = await (await page.$('kite-stage canvas'))?.boundingBox();
    if (!box) throw new Error('there is no stage');
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const corners = [
      [-90, -90],
      [90, -90],
      [90, 90],
      [-90, 90],
      [-88, -80],
    ];
    await page.mouse.move(x + corners[0][0], y + corners[0][1]);
    await page.mouse.down();
    for (const [dx, dy] of corners.slice(1)) await page.mouse.move(x + dx, y + dy, { steps: 6 });
    await page.mouse.up();
    await press(page, 'Delete');
    await converted(page);
    expect(await stitchesShown(page)).toBeLessThan(before * 0.95);
    expect((await keptView(rig, page)).rendering.lines.length).toBe(1);
    await press(page, 'Take back');
    await converted(page);
    expect(await stitchesShown(page)).toBe(before);
    await press(page, 'Threads, done');
  });

  it('sews counted crosses', async () => {
    await method('cross', 'Grid');
    const small = await stitchesShown(page);
    await slide(page, 'Size of a cell', 4);
    await converted(page);
    expect(await stitchesShown(page)).toBeLessThan(small * 0.7);
  });

  it('has everything again after reloading', async () => {
    await method('painting', 'Threads');
    const recipe = await keptView(rig, page);
    const stitches = await stitchesShown(page);
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    await press(page, 'Threads, done');
    expect(await stitchesShown(page)).toBe(stitches);
    expect(recipe.rendering.values['painting']).toEqual(jasmine.objectContaining({ effect: 'sepia' }));
    await page.waitForSelector('kite-slider-field input[aria-label="Threads at most, typed"]');
    expect(await page.$eval('kite-slider-field input[aria-label="Threads at most, typed"]', (i) => i.value)).toBe('6');
    await rest(page, 200);
    expect(complaints).toEqual([]);
  });
});
