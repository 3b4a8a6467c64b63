import type { PictureView } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  converted,
  fromMenu,
  keptView,
  openFirst,
  pick,
  press,
  startRig,
  stitchesShown,
  textOf,
  type Rig,
  until,
  rest,
} from './browser.js';

interface Handles {
  readonly middle: { readonly x: number; readonly y: number };
  readonly angle?: readonly { readonly x: number; readonly y: number }[];
  readonly entry: { readonly x: number; readonly y: number };
  readonly exit: { readonly x: number; readonly y: number };
}

describe('Stitches in the browser', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page, complaints } = await openFirst(rig, 'Stitches'));
  });

  afterAll(() => rig.close());

  const kept = (): Promise<PictureView> => keptView(rig, page);
  const choose = (index: number): Promise<void> =>
    page.evaluate((i) => document.querySelectorAll<HTMLElement>('kite-tray .piece')[i].click(), index);
  /** Handles of the chosen piece, in page coordinates. */
  const handles = async (): Promise<Handles> => {
    await rest(page, 300);
    return page.$eval('kite-stage canvas', (canvas) => {
      const box = canvas.getBoundingClientRect();
      const found = JSON.parse((canvas as HTMLElement).dataset['handles'] ?? '{}') as Handles;
      const placed = (p: { x: number; y: number }) => ({ x: p.x + box.left, y: p.y + box.top });
      return {
        middle: placed(found.middle),
        angle: found.angle?.map(placed),
        entry: placed(found.entry),
        exit: placed(found.exit),
      };
    });
  };
  const drag = async (from: { x: number; y: number }, to: { x: number; y: number }, steps = 6): Promise<void> => {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(to.x, to.y, { steps });
    await rest(page, 120);
    await page.mouse.up();
    await rest(page, 150);
  };
  const settled = async (): Promise<void> => {
    await converted(page);
    await rest(page, 500);
    await converted(page);
  };

  it('says in one line what it did, and what the order costs and saves', async () => {
    expect(await textOf(page, 'kite-stitches-sheet .lead')).toMatch(/7 fills, \d+ satin, rows at.*stitches in .* min/);
    const order = await textOf(page, 'section[aria-label=Order] .note');
    expect(order).toMatch(/6 thread changes, \d+ cuts, .* of way/);
    expect(order).toMatch(/saves \d+ thread changes/);
  });

  it('sews a piece in another kind, with the options that kind has, and takes it back', async () => {
    await choose(0);
    const before = await stitchesShown(page);
    await pick(page, 'Stitch kind', 'contour 0');
    await settled();
    expect((await kept()).decisions).toEqual([jasmine.objectContaining({ kind: 'sew', as: 'contour' })]);
    expect(await stitchesShown(page)).not.toBe(before);
    expect(await page.$$eval('kite-option-list label', (all) => all.map((l) => l.textContent?.trim()))).not.toContain(
      'Row angle',
    );
    await pick(page, 'Stitch kind', 'motif-fill 0');
    await settled();
    await pick(page, 'Motif', 'gulls');
    await settled();
    expect((await kept()).decisions).toContain(jasmine.objectContaining({ kind: 'stitch', set: { motif: 'gulls' } }));
    expect(await stitchesShown(page)).toBeLessThan(before);
    for (let i = 0; i < 3; i++) {
      await page.evaluate(() => document.querySelector<HTMLElement>('button[aria-label^="Undo"]')?.click());
      await rest(page, 200);
    }
    await settled();
    expect((await kept()).decisions).toEqual([]);
    expect(await stitchesShown(page)).toBe(before);
  });

  it('lays one piece on a fabric of its own, without touching the others', async () => {
    await choose(0);
    const before = await stitchesShown(page);
    await pick(page, 'Fabric under it', 'fleece');
    await settled();
    expect((await kept()).decisions).toEqual([jasmine.objectContaining({ kind: 'stitch', set: { fabric: 'fleece' } })]);
    expect((await kept()).cloth.fabric).not.toBe('fleece');
    expect(await stitchesShown(page)).toBeGreaterThan(before);
    expect(await page.$eval('kite-option-list .own', (e) => e.textContent)).toContain('Needle 80/12 ball point');
    await pick(page, 'Fabric under it', 'design');
    await settled();
    expect((await kept()).decisions).toEqual([]);
    expect(await stitchesShown(page)).toBe(before);
  });

  it('turns the rows of a fill by the handle on the stage', async () => {
    await page.keyboard.press('Escape');
    await choose(0);
    const { middle, angle } = await handles();
    if (!angle) throw new Error('there is no handle');
    await drag(angle[0], { x: middle.x + 2, y: middle.y + 60 });
    await settled();
    const [decision] = (await kept()).decisions;
    expect(decision.kind).toBe('stitch');
    const set = decision.kind === 'stitch' ? decision.set : {};
    expect(Math.abs(Number(set['angle']))).toBeGreaterThan(80);
    expect(await page.$eval('kite-option-list .own', (e) => e.textContent)).toContain('Row angle');
    await press(page, 'As the design has it');
    await settled();
    expect((await kept()).decisions).toEqual([]);
  });

  it('lets rows follow a guide line drawn on the stage', async () => {
    await pick(page, 'Stitch kind', 'turning 0');
    await settled();
    await press(page, 'Draw a guide line');
    const { middle } = await handles();
    await drag({ x: middle.x - 60, y: middle.y }, { x: middle.x + 40, y: middle.y - 50 }, 12);
    await settled();
    const guides = (await kept()).decisions.find(({ kind }) => kind === 'guides');
    expect(guides?.kind === 'guides' && guides.lines.length).toBe(1);
    expect(guides?.kind === 'guides' && guides.lines[0].length).toBeGreaterThan(3);
    await press(page, 'Remove the guide line');
    await settled();
    expect((await kept()).decisions.map(({ kind }) => kind)).toEqual(['sew']);
    await pick(page, 'Stitch kind', 'auto');
    await settled();
  });

  it('moves entry and exit on the stage', async () => {
    const { entry, middle } = await handles();
    await drag(entry, { x: middle.x, y: middle.y });
    await settled();
    const decisions = (await kept()).decisions;
    expect(decisions.map(({ kind }) => kind)).toEqual(['entry']);
    const now = (await handles()).entry;
    expect(Math.hypot(now.x - middle.x, now.y - middle.y)).toBeLessThan(25);
    await press(page, 'Entry by itself');
    await settled();
    expect((await kept()).decisions).toEqual([]);
  });

  it('locks a piece last, and lets it go', async () => {
    await press(page, 'Lock last');
    await settled();
    expect((await kept()).decisions).toEqual([jasmine.objectContaining({ kind: 'order', before: 'last' })]);
    const named = await page.$$eval('kite-tray .piece', (all) => all.map((e) => e.getAttribute('aria-label')));
    expect(named.filter((name) => name?.includes('locked last')).length).toBe(1);
    await press(page, 'Lock last');
    await settled();
    expect((await kept()).decisions).toEqual([]);
    await page.keyboard.press('Escape');
  });

  it('says what another fabric changes', async () => {
    await pick(page, 'Fabric', 'pique');
    await settled();
    expect((await kept()).cloth.fabric).toBe('pique');
    expect(await textOf(page, '.change')).toMatch(/stitches more than on quilting cotton/);
    await press(page, 'Undo: fabric');
    await settled();
  });

  it('leaves letters and arrows to the list that has the keys, and undoes what was chosen there', async () => {
    await choose(0);
    const before = (await kept()).cloth.fabric;
    await page.$$eval('kite-stitches-sheet kite-choice-field', (all) =>
      all
        .find((field) => field.querySelector('mat-label')?.textContent.trim() === 'Fabric')
        ?.querySelector<HTMLElement>('mat-select')
        ?.focus(),
    );
    // A letter goes to the entry that begins with it: it is no shortcut of the studio.
    await page.keyboard.press('t');
    await settled();
    expect(await page.$('kite-try-outs')).toBeNull();
    expect((await kept()).cloth.fabric).not.toBe(before);
    expect((await page.$$('kite-tray .piece[aria-pressed="true"], kite-tray .piece.selected')).length).toBe(1);
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await settled();
    expect((await kept()).cloth.fabric).toBe(before);
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('Escape');
  });

  it('sews a length earlier when it is dragged on the Reel', async () => {
    const colours = (): Promise<string[]> =>
      page.$$eval('kite-reel .length', (all) => all.map((e) => (e as HTMLElement).style.backgroundColor));
    const before = await colours();
    const boxes = await page.$$eval('kite-reel .labels button', (all) =>
      all.map((e) => {
        const { left, top, width, height } = e.getBoundingClientRect();
        return { x: left + width / 2, y: top + height / 2 };
      }),
    );
    await drag(boxes[1], { x: boxes[0].x - 12, y: boxes[0].y });
    await settled();
    const moved = await colours();
    expect(moved.slice(0, 2)).toEqual([before[1], before[0]]);
    expect((await kept()).decisions.every(({ kind }) => kind === 'order')).toBeTrue();
    await press(page, 'Undo: sewing order');
    await settled();
    expect(await colours()).toEqual(before);
  });

  it('plays quickly, steps by piece and by stitch, and scrubs', async () => {
    const at = async (): Promise<number> =>
      page.$eval('kite-reel .ribbon', (e) => Number(e.getAttribute('aria-valuenow')));
    await fromMenu(page, 'kite-reel .small .list', '200×');
    await page.focus('kite-reel .ribbon');
    await page.keyboard.press('Home');
    await press(page, 'Play the sewing');
    await rest(page, 1500);
    await press(page, 'Pause');
    // What was pressed shows with the next frame.
    await rest(page, 400);
    const played = await at();
    expect(played).toBeGreaterThan(1000);
    await fromMenu(page, 'kite-reel .by', 'by piece');
    await press(page, 'One piece on');
    await page.waitForFunction(
      (before) => Number(document.querySelector('kite-reel .ribbon')?.getAttribute('aria-valuenow')) > before,
      {},
      played,
    );
    const piece = await at();
    expect(piece).toBeGreaterThan(played);
    await fromMenu(page, 'kite-reel .by', 'by stitch');
    await press(page, 'One stitch back');
    await page.waitForFunction(
      (wanted) => document.querySelector('kite-reel .ribbon')?.getAttribute('aria-valuenow') === String(wanted),
      {},
      piece - 1,
    );
    await page.focus('kite-reel .ribbon');
    await page.keyboard.press('End');
    await until(
      page,
      () => document.querySelector('kite-reel .ribbon')?.getAttribute('aria-valuetext') === 'the whole design',
    );
  });

  it('has no serious accessibility faults, and no complaints', async () => {
    await choose(0);
    await rest(page, 300);
    expect(await violations(page)).toEqual([]);
    expect(complaints).toEqual([]);
  });
});
