import { emptyRecipe, newShape, type DrawnPath, type Recipe, type ShapeObject } from '@open-kite/core';
import type { Page } from 'puppeteer-core';
import { converted, keptRecipe, press, rest, stageMiddle, startRig, until, type HeldKey, type Rig } from './browser.js';

export interface Place {
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
export const SHAPES: readonly ShapeObject[] = [
  made('sail', '#c21f26', square(-34, -30, 14, 14)),
  made('kite', '#2b63b6', square(-8, -28, 14, 14)),
  made('tail', '#2f7a46', square(20, -32, 10, 10)),
  made('dot', '#c21f26', square(24, -6, 12, 12)),
  made('low', '#d9a21b', square(-34, 4, 20, 14)),
  made('high', '#6a3d8f', square(-24, 8, 16, 14)),
  made('lines', '#22304a', path(false, [-2, 6], [3, 5], [8, 6]), path(false, [11, 6], [20, 10])),
  made('star', '#d4622a', star(14, 28, 9)),
];
export const AT = {
  sail: { x: -27, y: -23 },
  kite: { x: -1, y: -21 },
  tail: { x: 25, y: -27 },
  dot: { x: 30, y: 0 },
  low: { x: -30, y: 7 },
  high: { x: -12, y: 19 },
  star: { x: 14, y: 28 },
  line: { x: 3, y: 5 },
} as const;

export const shape = ({ objects }: Recipe, id: string): ShapeObject => objects.find((o) => o.id === id) as ShapeObject;
export const ids = ({ objects }: Recipe): string[] => objects.map((object) => object.id);

/** Opens the shapes at the step Pieces for the specs of a suite, and gives hands for them; all places are in mm. */
export function squaresByHand() {
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

  return {
    /** What was opened, for whoever goes on from there. */
    opened: () => ({ rig, page, complaints }),
    on: (place: Place): Place => on(place),
    kept,
    pull,
    click,
    isChosen,
    chooseNone,
    take,
    tried,
  };
}
