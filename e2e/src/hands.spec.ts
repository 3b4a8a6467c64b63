import type { ElementHandle, Page } from 'puppeteer-core';
import { choose, converted, keys, press, setNumber, until } from './browser.js';
import { AT, ids, shape, SHAPES, squaresByHand, type Place } from './squares.js';

describe('Objects by hand, every verb with its undo', () => {
  const { opened, on, pull, isChosen, chooseNone, take, tried } = squaresByHand();
  let page: Page;
  let complaints: string[];
  beforeAll(() => {
    ({ page, complaints } = opened());
  });

  const entry = (button: string, item: string) => async (): Promise<void> => {
    await press(page, button);
    await choose(page, item);
  };
  const chip = (name: string, item: string): (() => Promise<void>) => entry(`More for ${name}`, item);

  it('moves by pulling, scales by a corner with and without its proportion, turns by the string', async () => {
    await take(AT.kite);
    const moved = shape(await tried(() => pull(AT.kite, { x: 6, y: -18 })), 'kite').place;
    expect([moved.e, moved.f].map((mm) => Math.round(mm))).toEqual([7, 3]);
    const whole = shape(await tried(() => pull({ x: 6, y: -14 }, { x: 10, y: -10 })), 'kite').place;
    expect(whole.a).toBeCloseTo(whole.d, 6);
    expect(whole.a).toBeGreaterThan(1.2);
    const free = shape(await tried(() => pull({ x: 6, y: -14 }, { x: 13, y: -14 }, 'Alt')), 'kite').place;
    expect(free.a).toBeCloseTo(1.5, 1);
    expect(free.d).toBeCloseTo(1, 1);
    const turned = shape(
      await tried(async () => {
        const string = await page.evaluate(() => {
          const all = [...document.querySelectorAll<HTMLCanvasElement>('kite-stage canvas')];
          const canvas = all.find(({ dataset }) => dataset['frame']?.includes('turn'));
          const { left = 0, top = 0 } = canvas?.getBoundingClientRect() ?? {};
          const { turn } = JSON.parse(canvas?.dataset['frame'] ?? '{}') as { turn: Place };
          return { x: left + turn.x, y: top + turn.y };
        });
        const middle = on(AT.kite);
        await page.mouse.move(string.x, string.y);
        await page.mouse.down();
        await page.keyboard.down('Shift');
        await page.mouse.move(middle.x + 60, middle.y - 58, { steps: 8 });
        await page.mouse.up();
        await page.keyboard.up('Shift');
      }),
      'kite',
    ).place;
    expect((Math.atan2(turned.b, turned.a) * 180) / Math.PI).toBeCloseTo(45, 3);
  });

  it('moves by arrow keys and numbers, resizes by a number, turns a quarter, mirrors', async () => {
    await take(AT.kite);
    const nudged = shape(await tried(() => keys(page, 'ArrowRight')), 'kite').place;
    expect(nudged.e).toBeCloseTo(0.1, 6);
    expect(shape(await tried(() => keys(page, 'ArrowUp', 'Shift')), 'kite').place.f).toBeCloseTo(-1, 6);
    expect(shape(await tried(() => setNumber(page, 'Across', '10')), 'kite').place.e).toBeCloseTo(11, 3);
    const wide = shape(await tried(() => setNumber(page, 'Width', '21')), 'kite').place;
    expect([wide.a, wide.d].map((n) => Math.round(n * 100))).toEqual([150, 150]);
    const turned = shape(await tried(() => setNumber(page, 'Turn by', '30')), 'kite').place;
    expect(turned.b).toBeCloseTo(0.5, 6);
    expect(shape(await tried(() => press(page, 'A quarter turn to the right')), 'kite').place.b).toBeCloseTo(1, 6);
    expect(shape(await tried(() => press(page, 'Mirror left and right')), 'kite').place.a).toBeCloseTo(-1, 6);
    expect(shape(await tried(() => press(page, 'Mirror top and bottom')), 'kite').place.d).toBeCloseTo(-1, 6);
  });

  it('chooses by a frame, adds to it, and by what is alike', async () => {
    await chooseNone();
    await pull({ x: -38, y: -33 }, { x: 10, y: -10 });
    await isChosen(2);
    await pull({ x: 18, y: -34 }, { x: 34, y: -18 }, 'Shift');
    await isChosen(3);
    await take(AT.sail);
    await entry('Choose alike', 'Same thread')();
    await isChosen(2);
    await entry('Choose alike', 'Same stitch kind')();
    await isChosen(7);
    await take(AT.sail);
    await entry('Choose alike', 'About this size')();
    await isChosen(4);
    await take(AT.sail);
    // Of the two of its thread the other is smaller by a quarter and more.
    await entry('Choose alike', 'Like this one in all of these')();
    await isChosen(1);
  });

  it('duplicates, copies and pastes, cuts, deletes, groups', async () => {
    await take(AT.sail);
    expect(ids(await tried(() => keys(page, 'd', 'Control'))).length).toBe(SHAPES.length + 1);
    await take(AT.sail);
    const pulled = await tried(() => pull(AT.sail, { x: -20, y: -6 }, 'Alt'));
    expect(ids(pulled).length).toBe(SHAPES.length + 1);
    expect(shape(pulled, 'sail')).toEqual(SHAPES[0]);
    await take(AT.sail);
    await keys(page, 'c', 'Control');
    expect(ids(await tried(() => keys(page, 'v', 'Control'))).length).toBe(SHAPES.length + 1);
    await take(AT.sail);
    expect(ids(await tried(() => keys(page, 'x', 'Control')))).not.toContain('sail');
    await take(AT.sail);
    expect(ids(await tried(() => keys(page, 'Delete')))).not.toContain('sail');
    await take(AT.sail, AT.kite);
    const grouped = await tried(() => keys(page, 'g', 'Control'));
    expect(shape(grouped, 'sail').group).toBe(shape(grouped, 'kite').group ?? 'none');
    await take(AT.sail, AT.kite);
    await tried(async () => {
      await keys(page, 'g', 'Control');
      await converted(page);
      await keys(page, 'g', 'Control', 'Shift');
      await keys(page, 'ArrowRight');
    }, 3);
  });

  it('lines up by every side, and spreads evenly', async () => {
    const three = [AT.sail, AT.kite, AT.tail];
    const goals = {
      'Line up left': [0, -26, -54],
      'Line up by the middle': [25, -1, -27],
      'Line up right': [50, 24, 0],
      'Line up at the top': [-2, -4, 0],
      'Line up by the centre': [0, -2, 4],
      'Line up at the bottom': [2, 0, 8],
    } as const;
    for (const [label, goal] of Object.entries(goals)) {
      await take(...three);
      const lined = await tried(() => press(page, label));
      const axis = /left|middle|right/.test(label) ? 'e' : 'f';
      const by = ['sail', 'kite', 'tail'].map((id) => shape(lined, id).place[axis]);
      by.forEach((mm, i) =>
        expect(mm)
          .withContext(`${label}, ${i}`)
          .toBeCloseTo(goal[i] ?? 0, 1),
      );
    }
    await take(...three);
    const spread = await tried(() => press(page, 'Spread evenly across'));
    expect(shape(spread, 'kite').place.e).toBeCloseTo(1, 1);
    await take(...three);
    const down = await tried(() => press(page, 'Spread evenly down'));
    expect(shape(down, 'sail').place.f).toBeCloseTo(shape(down, 'sail').place.f, 1);
  });

  it('goes higher and lower, is hidden, locked and named', async () => {
    await take(AT.sail);
    expect(ids(await tried(() => keys(page, 'PageUp'))).slice(0, 2)).toEqual(['kite', 'sail']);
    await take(AT.kite);
    expect(ids(await tried(() => press(page, 'Lower'))).slice(0, 2)).toEqual(['kite', 'sail']);
    expect(shape(await tried(chip('Blue shape', 'Hide it')), 'kite').hidden).toBeTrue();
    expect(shape(await tried(chip('Blue shape', 'Lock it')), 'kite').locked).toBeTrue();
    const named = await tried(async () => {
      await press(page, 'More for Blue shape');
      // A dialog opens at once: what lies over the page then is its own.
      const renames = await page.waitForFunction(() =>
        [...document.querySelectorAll<HTMLElement>('[mat-menu-item]')].find((i) => i.innerText.trim() === 'Rename'),
      );
      await (renames.asElement() as unknown as ElementHandle<HTMLElement>).evaluate((item) => item.click());
      await page.waitForSelector('kite-rename-dialog input');
      await until(page, () => document.activeElement?.matches('kite-rename-dialog input') === true);
      await page.keyboard.type('Diamond of the fair');
      await page.keyboard.press('Enter');
      await page.waitForSelector('[aria-label="Diamond of the fair"]');
    });
    expect(shape(named, 'kite').name).toBe('Diamond of the fair');
  });

  it('makes one of two: combined, subtracted, cut to what lies below, and lets one reach under', async () => {
    const sums = {
      Combine: ['low', 'high'],
      'Subtract what lies above': ['low'],
      'Cut to what lies below': ['low', 'high'],
    };
    for (const [sum, gone] of Object.entries(sums)) {
      await take(AT.low, AT.high);
      const after = ids(await tried(entry('Make one of them', sum)));
      expect(after.filter((id) => gone.includes(id)))
        .withContext(sum)
        .toEqual([]);
      expect(after.length)
        .withContext(sum)
        .toBe(SHAPES.length + 1 - gone.length);
    }
    await take(AT.low, AT.high);
    const under = await tried(entry('Make one of them', 'Overlap: the lowest reaches under by 0.60 mm'));
    expect(ids(under)).not.toContain('low');
    await take(AT.star);
    const apart = await tried(() => press(page, 'Break apart'));
    expect(apart.decisions).toEqual([jasmine.objectContaining({ kind: 'apart' })]);
  });

  it('made no complaint', () => {
    expect(complaints).toEqual([]);
  });
});
