import type { DrawnPath, Recipe, ShapeObject } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  converted,
  keptRecipe,
  keys,
  openNamed,
  pick,
  press,
  rest,
  select,
  slide,
  stageMiddle,
  until,
  type Rig,
} from './browser.js';
import { AT, ids, shape, SHAPES, squaresByHand } from './squares.js';

describe('Points, threads and stitches by hand, every verb with its undo', () => {
  const { opened, kept, pull, click, chooseNone, take, tried, on } = squaresByHand();
  let page: Page;
  let complaints: string[];
  let rig: Rig;
  beforeAll(() => {
    ({ rig, page, complaints } = opened());
  });

  it('adds, moves and deletes points, several at once, and bends a line by its handles', async () => {
    await take(AT.kite);
    await press(page, 'Move points');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await rest(page, 300);
    const nodes = (recipe: Recipe): DrawnPath['nodes'] => shape(recipe, 'kite').paths[0].nodes;
    const corner = { x: 6, y: -14 };
    const one = nodes(await tried(() => pull(corner, { x: 9, y: -12 })))[2];
    expect([one[0], one[1]].map((mm) => Math.round(mm))).toEqual([9, -12]);
    const two = nodes(
      await tried(async () => {
        await click({ x: 6, y: -28 });
        await click(corner, 'Shift');
        await pull(corner, { x: 10, y: -14 });
      }),
    );
    expect(two.map(([x]) => Math.round(x))).toEqual([-8, 10, 10, -8]);
    await click(corner);
    expect(nodes(await tried(() => keys(page, 'ArrowRight')))[2][0]).toBeGreaterThan(6);
    const added = await tried(async () => {
      await page.mouse.click(on({ x: -1, y: -28 }).x, on({ x: -1, y: -28 }).y, { count: 2 });
    });
    expect(nodes(added).length).toBe(5);
    await click(corner);
    expect(nodes(await tried(() => keys(page, 'Delete'))).length).toBe(3);
    await click(corner);
    const smooth = await tried(() => press(page, 'Corner or smooth'));
    const [, , inX, inY] = nodes(smooth)[2];
    expect(Math.hypot(inX, inY)).toBeGreaterThan(1);
    const bent = await tried(async () => {
      await click(corner);
      await press(page, 'Corner or smooth');
      const node = nodes(await kept())[2];
      await pull({ x: 6 + node[4], y: -14 + node[5] }, { x: 2, y: -6 });
    }, 2);
    expect(Math.round(nodes(bent)[2][5])).toBe(8);
    const straight = await tried(async () => {
      await click(corner);
      await press(page, 'Corner or smooth');
      // Two clicks in quick turn would be a double one.
      await rest(page, 450);
      await click(corner);
      await click({ x: -8, y: -14 }, 'Shift');
      await press(page, 'Straighten');
    }, 2);
    expect([nodes(straight)[2][4], nodes(straight)[3][2]]).toEqual([0, 0]);
    await click(corner);
    const cut = shape(await tried(() => press(page, 'Cut open')), 'kite').paths;
    expect(cut.map(({ closed, nodes: { length } }) => [closed, length])).toEqual([[false, 5]]);
    await press(page, 'Done');
  });

  it('closes a line, joins two within the distance it tells, and has fewer points', async () => {
    await take(AT.line);
    await press(page, 'Move points');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await rest(page, 300);
    const paths = (recipe: Recipe): [boolean, number][] =>
      shape(recipe, 'lines').paths.map(({ closed, nodes: { length } }) => [closed, length]);
    const join = 'Join ends (3.0 mm apart)';
    expect(paths(await tried(() => press(page, join)))).toEqual([[false, 5]]);
    await click({ x: 3, y: 5 });
    const closed = paths(await tried(() => press(page, 'Close')));
    expect(closed).toEqual([
      [true, 3],
      [false, 2],
    ]);
    const fewer = await tried(async () => {
      // The point in the middle lies nearly on the line through its neighbours, and is one too many then.
      await pull({ x: 3, y: 5 }, { x: 3, y: 5.95 });
      await rest(page, 200);
      await press(page, 'Simplify: 5 to 4');
    }, 2);
    expect(paths(fewer)).toEqual([
      [false, 2],
      [false, 2],
    ]);
    await press(page, 'Done');
  });

  it('draws on from the end of a line, cuts a hole, and draws freely', async () => {
    await press(page, 'Points and curves');
    await page.waitForSelector('kite-draw-pane .konvajs-content');
    await rest(page, 200);
    const snapped = await tried(async () => {
      // Not quite on the end: it goes on from there.
      await click({ x: 20.4, y: 10.3 });
      await click({ x: 30, y: 16 });
      await page.keyboard.press('Enter');
    });
    const [x, y] = (snapped.objects.at(-1) as ShapeObject).paths[0].nodes[0];
    expect(Math.hypot(x - 20, y - 10)).toBeLessThan(0.2);
    await press(page, 'A hole');
    const hole = await tried(async () => {
      for (const at of [
        { x: -30, y: -26 },
        { x: -24, y: -26 },
        { x: -27, y: -20 },
      ])
        await click(at);
      await page.keyboard.press('Enter');
    });
    expect((hole.objects.at(-1) as ShapeObject).role).toBe('hole');
    await press(page, 'Freely by hand');
    const free = await tried(() => pull({ x: -34, y: -4 }, { x: 10, y: -4 }));
    expect((free.objects.at(-1) as ShapeObject).paths[0].closed).toBeFalse();
    await press(page, 'Done');
  });

  it('gives another thread and another kind, sewn first or last', async () => {
    await take(AT.kite);
    const thread = async (typed: string): Promise<void> => {
      await page.click('kite-pieces-sheet kite-thread-field button');
      await page.waitForSelector('kite-thread-list input');
      await page.keyboard.type(typed);
      await page.keyboard.press('Enter');
      await until(page, () => !document.querySelector('kite-thread-list'));
    };
    const sail = await tried(() => thread('red #c21f26'));
    expect(shape(sail, 'kite').paint).toEqual({ hex: '#c21f26' });
    await take(AT.kite);
    const typed = await tried(() => thread('#12ab90'));
    expect(shape(typed, 'kite').paint).toEqual({ hex: '#12ab90' });
    await take(AT.kite);
    const ofChart = await tried(async () => {
      await page.click('kite-pieces-sheet kite-thread-field button');
      await page.waitForSelector('kite-thread-list .group');
      expect(await violations(page)).toEqual([]);
      const option = await page.waitForSelector('kite-thread-list li:has(.said:not(:empty))');
      await option?.click();
    });
    expect(Object.keys(shape(ofChart, 'kite').paint)).toEqual(['chart', 'code']);
    await take(AT.kite);
    const kind = await tried(() => pick(page, 'Stitch kind', 'running 1'));
    expect(JSON.stringify([shape(kind, 'kite').as, kind.decisions])).toContain('running');
    await take(AT.kite);
    const last = await tried(() => press(page, 'last'));
    expect(last.decisions).toEqual([jasmine.objectContaining({ kind: 'order' })]);
    await take(AT.kite);
    await tried(() => press(page, 'earlier'));
    await take(AT.kite);
    expect(ids(await tried(() => press(page, 'Remove')))).not.toContain('kite');
  });

  it('cuts, keeps and leads single ways, stops, and ties them its own way', async () => {
    await press(page, 'Stitches, done');
    for (const [label, how] of [
      ['Cut here', 'cut'],
      ['Do not cut here', 'keep'],
    ]) {
      await take(AT.kite);
      const said = (await tried(() => select(page, 'Way to it', label))).decisions;
      expect(said)
        .withContext(label)
        .toEqual([jasmine.objectContaining({ kind: 'connect', how })]);
    }
    await take(AT.kite);
    const led = await tried(async () => {
      await select(page, 'Way to it', 'Along a line I draw');
      await pull({ x: -20, y: -23 }, { x: -9, y: -20 });
    });
    expect(led.decisions).toEqual([jasmine.objectContaining({ kind: 'connect', how: 'lead' })]);
    await take(AT.kite);
    const stop = await tried(() =>
      page.evaluate(() => {
        const boxes = [...document.querySelectorAll('mat-checkbox')];
        boxes
          .find(({ textContent }) => textContent.includes('Stop the machine before it'))
          ?.querySelector('input')
          ?.click();
      }),
    );
    expect(stop.decisions.length).toBe(1);
    await take(AT.kite);
    const tied = await tried(() => select(page, 'Tie-in and tie-off', 'Small star'));
    expect(tied.decisions).toEqual([jasmine.objectContaining({ kind: 'stitch', set: { tie: 'star' } })]);
    await chooseNone();
    for (const [label, trims] of [
      ['Never: jumps stay', 'never'],
      ['At every way', 'always'],
    ])
      expect((await tried(() => select(page, 'Trims', label))).order.trims).toBe(trims as 'never');
    expect((await tried(() => select(page, 'Tie-in and tie-off', 'Small star'))).order.tie).toBe('star');
  });

  it('moves, adds and deletes single needle points, and puts a trim, a jump and a stop between them', async () => {
    await take(AT.dot);
    await press(page, 'Move needle points');
    await rest(page, 300);
    const rows = ({ decisions }: Recipe): number => {
      const said = decisions.find(({ kind }) => kind === 'rows');
      return said?.kind === 'rows' ? said.rows.length : 0;
    };
    const frame = (): Promise<void> => pull({ x: 22, y: -7.5 }, { x: 37, y: -3 });
    await frame();
    await until(page, () =>
      (document.querySelector('kite-needle-section .note')?.textContent ?? '').includes('chosen'),
    );
    const moved = rows(await tried(() => keys(page, 'ArrowRight', 'Shift')));
    expect(moved).toBeGreaterThan(20);
    await frame();
    expect(rows(await tried(() => press(page, 'Add one after')))).toBeGreaterThan(moved);
    await frame();
    expect(rows(await tried(() => press(page, 'Delete')))).toBeLessThan(moved);
    for (const what of ['Trim after', 'Jump after', 'Stop after']) {
      await frame();
      expect(rows(await tried(() => press(page, what))))
        .withContext(what)
        .toBeGreaterThan(moved);
    }
    await frame();
    const given = await tried(async () => {
      await keys(page, 'ArrowRight', 'Shift');
      await converted(page);
      await press(page, 'Let it sew itself again');
      await keys(page, 'Escape');
      await take(AT.kite);
      await keys(page, 'ArrowRight');
    }, 3);
    expect(given.decisions).toEqual([]);
  });

  it('pastes into another project, and moves a found piece of a picture there', async () => {
    await press(page, 'Pieces, done');
    await take(AT.star);
    await keys(page, 'c', 'Control');
    const opened = await openNamed(rig, 'Fair crest', 'Pieces');
    const other = (): Promise<Recipe> => keptRecipe(rig, opened.page);
    const before = await other();
    await opened.page.keyboard.down('Control');
    await opened.page.keyboard.press('v');
    await opened.page.keyboard.up('Control');
    await converted(opened.page);
    const pasted = await other();
    expect(pasted.objects.length).toBe(before.objects.length + 1);
    expect((pasted.objects.at(-1) as ShapeObject).paths).toEqual(SHAPES[7].paths);
    await press(opened.page, 'Undo: pasted');
    await converted(opened.page);
    expect(await other()).toEqual(before);
    await opened.page.keyboard.press('Escape');
    await opened.page.click('kite-tray .piece');
    await opened.page.focus('kite-stage canvas');
    await opened.page.keyboard.down('Shift');
    await opened.page.keyboard.press('ArrowRight');
    await opened.page.keyboard.up('Shift');
    await converted(opened.page);
    expect((await other()).decisions.length).toBe(before.decisions.length + 1);
    expect((await other()).decisions.at(-1)?.kind).toBe('place');
    await press(opened.page, 'Undo: moved');
    await converted(opened.page);
    expect(await other()).toEqual(before);
    await slideTolerance(opened.page);
    expect(opened.complaints).toEqual([]);
    await opened.page.close();
  });

  /** The area of a colour with a tolerance is larger, and sewn in the colour it was pointed at. */
  async function slideTolerance(crest: Page): Promise<void> {
    const { x, y } = await stageMiddle(crest);
    const areas: number[] = [];
    await press(crest, 'Area of a colour');
    await crest.waitForSelector('kite-draw-pane .konvajs-content');
    for (const tolerance of [4, 90]) {
      await slide(crest, 'Tolerance of the colour', tolerance);
      const chips = await crest.$$eval('kite-object-row .chip', (list) => list.length);
      await crest.mouse.click(x, y - 40);
      await until(crest, (count) => document.querySelectorAll('kite-object-row .chip').length > count, chips);
      await converted(crest);
      const last = (await keptRecipe(rig, crest)).objects.at(-1) as ShapeObject;
      expect(last.kind).toBe('shape');
      const places = last.paths.flatMap(({ nodes }) => nodes);
      const across = places.map(([u]) => u);
      areas.push(Math.max(...across) - Math.min(...across));
      await press(crest, 'Undo: drawn piece');
      await converted(crest);
    }
    expect(areas[1]).toBeGreaterThan(areas[0]);
    await press(crest, 'Done');
  }

  it('made no complaint', () => {
    expect(complaints).toEqual([]);
  });
});
