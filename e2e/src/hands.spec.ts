import { emptyRecipe, newShape, type DrawnPath, type Recipe, type ShapeObject } from '@open-kite/core';
import type { ElementHandle, Page } from 'puppeteer-core';
import { violations } from './axe.js';
import {
  choose,
  converted,
  keptRecipe,
  keys,
  openNamed,
  pick,
  press,
  rest,
  select,
  setNumber,
  slide,
  stageMiddle,
  startRig,
  until,
  type HeldKey,
  type Rig,
} from './browser.js';

interface Place {
  readonly x: number;
  readonly y: number;
}

const path = (closed: boolean, ...places: readonly (readonly [number, number])[]): DrawnPath => ({
  closed,
  nodes: places.map(([x, y]) => [x, y, 0, 0, 0, 0]),
});
const square = (left: number, top: number, width: number, height: number): DrawnPath =>
  path(true, [left, top], [left + width, top], [left + width, top + height], [left, top + height]);
const star = (x: number, y: number, radius: number): DrawnPath =>
  path(
    true,
    ...Array.from({ length: 10 }, (_, k): [number, number] => {
      const r = k % 2 === 0 ? radius : radius * 0.45;
      return [x + r * Math.sin((k * Math.PI) / 5), y - r * Math.cos((k * Math.PI) / 5)];
    }),
  );
const made = (id: string, hex: string, ...paths: DrawnPath[]): ShapeObject => newShape(id, null, paths, { hex });

/** Squares, a star and lines on bare cloth, each in a place of its own: in mm from the middle of the hoop. */
const SHAPES: readonly ShapeObject[] = [
  made('sail', '#c21f26', square(-34, -30, 14, 14)),
  made('kite', '#2b63b6', square(-8, -28, 14, 14)),
  made('tail', '#2f7a46', square(20, -32, 10, 10)),
  made('dot', '#c21f26', square(24, -6, 12, 12)),
  made('low', '#d9a21b', square(-34, 4, 20, 14)),
  made('high', '#6a3d8f', square(-24, 8, 16, 14)),
  made('lines', '#22304a', path(false, [-2, 6], [3, 5], [8, 6]), path(false, [11, 6], [20, 10])),
  made('star', '#d4622a', star(14, 28, 9)),
];
const AT = {
  sail: { x: -27, y: -23 },
  kite: { x: -1, y: -21 },
  tail: { x: 25, y: -27 },
  dot: { x: 30, y: 0 },
  low: { x: -30, y: 7 },
  high: { x: -12, y: 19 },
  star: { x: 14, y: 28 },
  line: { x: 3, y: 5 },
} as const;

describe('By hand, every verb with its undo', () => {
  let rig: Rig;
  let page: Page;
  let complaints: string[];
  /** A place of the cloth on the page: as the frame of the first square shows it. */
  let on: (place: Place) => Place;
  /** The recipe as the last undo left it. */
  let known: Recipe | undefined;

  beforeAll(async () => {
    rig = await startRig(true);
    const recipe: Recipe = { ...emptyRecipe(), objects: SHAPES };
    const { id } = rig.server.stores.projects.create('Squares by hand', {}, recipe);
    ({ page, complaints } = await rig.open(`/project/${id}`));
    await page.evaluate(() =>
      localStorage.setItem('kite-folds', 'place ways charts widths shapes usual order outline several'),
    );
    await page.reload({ waitUntil: 'networkidle0' });
    await converted(page);
    await press(page, 'Pieces, done');
    on = await measured();
  });
  afterAll(() => rig.close());

  const kept = (): Promise<Recipe> => keptRecipe(rig, page);
  const shape = ({ objects }: Recipe, id: string): ShapeObject => objects.find((o) => o.id === id) as ShapeObject;
  const ids = ({ objects }: Recipe): string[] => objects.map((object) => object.id);

  /** How the cloth lies on the page. */
  async function measured(): Promise<(place: Place) => Place> {
    const box = await (await page.$('kite-stage canvas'))?.boundingBox();
    if (!box) throw new Error('there is no stage');
    // The first square is somewhere left of and above the middle: it is framed, and tells the scale.
    const middle = await stageMiddle(page);
    await page.evaluate(() => {
      const [chip] = [...document.querySelectorAll<HTMLElement>('kite-object-row .chip:not(.add)')].slice(-1);
      chip.click();
    });
    await page.waitForFunction(() => {
      const all = [...document.querySelectorAll<HTMLCanvasElement>('kite-stage canvas')];
      return all.some(({ dataset }) => dataset['frame']?.includes('nw'));
    });
    const frame = await page.evaluate(() => {
      const all = [...document.querySelectorAll<HTMLCanvasElement>('kite-stage canvas')];
      const said = all.find(({ dataset }) => dataset['frame']?.includes('nw'))?.dataset['frame'] ?? '{}';
      return JSON.parse(said) as { nw: Place; se: Place };
    });
    expect(frame.nw.x + box.x).toBeLessThan(middle.x);
    const scale = (frame.se.x - frame.nw.x) / 14;
    return ({ x, y }) => ({ x: box.x + frame.nw.x + (x + 34) * scale, y: box.y + frame.nw.y + (y + 30) * scale });
  }

  async function pull(from: Place, to: Place, ...held: HeldKey[]): Promise<void> {
    await page.mouse.move(on(from).x, on(from).y);
    await page.mouse.down();
    for (const each of held) await page.keyboard.down(each);
    await page.mouse.move(on(to).x, on(to).y, { steps: 6 });
    await page.mouse.up();
    for (const each of held) await page.keyboard.up(each);
  }

  async function click(place: Place, ...held: HeldKey[]): Promise<void> {
    for (const each of held) await page.keyboard.down(each);
    await page.mouse.click(on(place).x, on(place).y);
    for (const each of held) await page.keyboard.up(each);
  }

  /** Waits until so many pieces are chosen, as the Tray shows them. */
  const isChosen = (count: number): Promise<void> =>
    until(
      page,
      (wanted) => document.querySelectorAll('kite-tray .piece[aria-pressed="true"]').length === wanted,
      count,
    );

  async function chooseNone(): Promise<void> {
    // Escape in a field is for that field.
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('Escape');
    await isChosen(0);
  }

  /** Chooses the pieces at places, and nothing besides. */
  async function take(...places: Place[]): Promise<void> {
    await chooseNone();
    for (const [i, place] of places.entries()) await click(place, ...(i > 0 ? (['Shift'] as const) : []));
    await isChosen(places.length);
  }

  /** Does something that changes the recipe, and takes it back: everything is as before. @returns what it was meanwhile */
  async function tried(act: () => Promise<unknown>, steps = 1): Promise<Recipe> {
    const before = known ?? (await kept());
    await act();
    // What it means for the stitches is made meanwhile, and not waited for.
    const after = await kept();
    expect(after).not.toEqual(before);
    for (let i = 0; i < steps; i++) {
      await page.evaluate(() => document.querySelector<HTMLElement>('[aria-label^="Undo"]')?.click());
      await rest(page, 60);
    }
    await converted(page);
    known = await kept();
    expect(known).toEqual(before);
    return after;
  }

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
