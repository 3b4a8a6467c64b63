import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  convert,
  StepCache,
  STITCH,
  writeStitchList,
  type Design,
  type Recipe,
  type SourcePicture,
} from '@open-kite/core';
import { seededRandom } from '@open-kite/core/testing';
import { CHART_FOLDER, rasterOf, readCharts, readStoredSource } from '@open-kite/server';
import { converted, press, rest, startRig, wait, type Rig } from '@open-kite/e2e/browser';
import { applyPatches, enablePatches, type Patch } from 'immer';
import type { Page } from 'puppeteer-core';
import { crowd, flatArt, icon, word } from './hand/art.js';
import { watchFrames } from './frames.js';
import { heading, line } from './print.js';

enablePatches();

/** Rows and columns of the design of 300 pieces. */
const [ACROSS, DOWN] = [20, 15] as const;

type Spot = Readonly<Record<'x' | 'y', number>>;

/** Opens artwork in the studio, in its step of pieces. */
async function opened(rig: Rig, name: string, svg: string): Promise<Page> {
  const file = join(rig.folder, `${name}.svg`);
  writeFileSync(file, svg);
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Pieces, done');
  await wait(2000);
  return page;
}

const box = async (page: Page): Promise<{ x: number; y: number; width: number; height: number }> => {
  const found = await (await page.$('kite-stage canvas'))?.boundingBox();
  if (!found) throw new Error('there is no stage');
  return found;
};

const at = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;

/** Pulls from a place by steps of a frame, and lets go. @returns frames meanwhile, and time from letting go to the stitches */
async function pulledBy(page: Page, from: Spot, by: Spot): Promise<{ frames: number[]; stitches: number }> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const frames = await watchFrames(page);
  for (let i = 1; i <= 30; i++) {
    await page.mouse.move(from.x + (by.x * i) / 30, from.y + (by.y * i) / 30);
    await wait(12);
  }
  const seen = await frames();
  await page.evaluate(() => {
    performance.clearMarks();
    addEventListener('pointerup', () => performance.mark('let-go'), { once: true, capture: true });
  });
  await page.mouse.up();
  await page.waitForFunction(() => performance.getEntriesByName('kite-full').length > 0, { timeout: 20_000 });
  const stitches = await page.evaluate(() => {
    const of = (name: string): number => performance.getEntriesByName(name)[0]?.startTime ?? 0;
    return of('kite-full') - of('let-go');
  });
  await converted(page);
  return { frames: seen, stitches };
}

/** Move, scale and turn one of 300 pieces. */
async function oneOfMany(rig: Rig): Promise<void> {
  const colours = ['#2c6e80', '#d8602a', '#2a3437', '#e6b23c'];
  const shapes = Array.from({ length: ACROSS * DOWN }, (_, i) => {
    const [x, y] = [4 + (i % ACROSS) * 6, 4 + Math.floor(i / ACROSS) * 6];
    return `<rect x="${x - 2}" y="${y - 1.5}" width="4" height="3" rx="0.8" fill="${colours[i % 4]}"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="122mm" height="92mm" viewBox="0 0 122 92">${shapes.join('')}</svg>`;
  const page = await opened(rig, 'many', svg);
  heading(
    'By hand',
    `one of ${ACROSS * DOWN} pieces pulled 20 times each way, 1280 x 800, headless Chromium without a GPU`,
  );
  const stage = await box(page);
  const frame = (): Promise<Record<string, Spot>> =>
    page.evaluate(() => JSON.parse(document.querySelector<HTMLElement>('kite-stage canvas')?.dataset['frame'] ?? '{}'));
  for (const [name, part, by] of [
    ['moved', undefined, { x: 14, y: 9 }],
    ['scaled', 'se', { x: 8, y: 8 }],
    ['turned', 'turn', { x: 20, y: 6 }],
  ] as const) {
    const frames: number[] = [];
    const stitches: number[] = [];
    for (let k = 0; k < 20; k++) {
      await page.keyboard.press('Escape');
      // Somewhere in the middle of the design; empty cloth between pieces chooses nothing, and the next place is tried.
      let handles: Record<string, Spot> = {};
      for (let tries = 0; tries < 20 && !handles['se']; tries++) {
        const spot = {
          x: stage.width * (0.35 + 0.013 * (k + tries)),
          y: stage.height * (0.4 + 0.009 * (k + 3 * tries)),
        };
        await page.mouse.click(stage.x + spot.x, stage.y + spot.y);
        await rest(page, 60);
        handles = await frame();
      }
      const { nw, se } = handles;
      if (!nw || !se) throw new Error('no piece was hit');
      const handle = part === undefined ? { x: (nw.x + se.x) / 2, y: (nw.y + se.y) / 2 } : (handles[part] ?? se);
      const done = await pulledBy(page, { x: stage.x + handle.x, y: stage.y + handle.y }, by);
      frames.push(...done.frames);
      stitches.push(done.stitches);
    }
    line(
      `${name}: 95 % of frames; stitches after letting go, median and 95 %`,
      `${at(frames, 0.95).toFixed(1)} ms; ${at(stitches, 0.5).toFixed(0)}, ${at(stitches, 0.95).toFixed(0)} ms`,
      '17; 250 ms',
    );
  }
  await page.close();
}

/** One of about 2000 needle points is moved. */
async function oneNeedlePoint(rig: Rig): Promise<void> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><rect x="2" y="2" width="55" height="56" fill="#d8602a"/></svg>`;
  const page = await opened(rig, 'field', svg);
  const stage = await box(page);
  await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height / 2);
  await press(page, 'Stitches, done');
  await converted(page);
  await press(page, 'Move needle points');
  await rest(page, 500);
  const times: number[] = [];
  const after: number[] = [];
  for (let k = 0; k < 20; k++) {
    await page.mouse.click(stage.x + stage.width * (0.4 + 0.01 * k), stage.y + stage.height * (0.45 + 0.005 * k));
    await rest(page, 80);
    await page.evaluate(() => {
      performance.clearMarks();
      addEventListener('keydown', () => performance.mark('pressed'), { once: true, capture: true });
    });
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction(() => performance.getEntriesByName('kite-painted').length > 0, { timeout: 20_000 });
    const [painted, full] = await page.evaluate(async () => {
      const of = (name: string): number => performance.getEntriesByName(name)[0]?.startTime ?? NaN;
      for (let i = 0; i < 200 && Number.isNaN(of('kite-full')); i++) await new Promise((r) => setTimeout(r, 20));
      return [of('kite-painted') - of('pressed'), of('kite-full') - of('pressed')];
    });
    if (Number.isNaN(full)) continue;
    times.push(painted);
    after.push(full);
    await converted(page);
  }
  const points = await page.evaluate(() => document.querySelector('kite-reel .figures dd')?.textContent?.trim());
  line(
    `one needle point of ${points} nudged (${times.length} times): on the stage, median and 95 %; sewn anew`,
    `${at(times, 0.5).toFixed(0)}, ${at(times, 0.95).toFixed(0)}; ${at(after, 0.5).toFixed(0)} ms`,
    '60 ms',
  );
  await page.close();
}

/** What is done at random: keys that every piece and object knows. */
const ACTS: readonly (readonly [name: string, keys: readonly string[]])[] = [
  ['nudge', ['ArrowRight']],
  ['nudge far', ['Shift+ArrowDown']],
  ['duplicate', ['Control+d']],
  ['delete', ['Delete']],
  ['higher', ['PageUp']],
  ['lower', ['PageDown']],
  ['copy and paste', ['Control+c', 'Control+v']],
  ['group', ['Control+g']],
  ['ungroup', ['Control+Shift+G']],
];

async function chord(page: Page, keys: string): Promise<void> {
  const parts = keys.split('+');
  const key = parts.pop() ?? '';
  for (const held of parts) await page.keyboard.down(held as 'Control');
  await page.keyboard.press(key as 'a');
  for (const held of parts) await page.keyboard.up(held as 'Control');
}

/** Acts that take hold of the frame, or of something in the Sheet. */
const BY_MOUSE = ['move', 'scale', 'turn', 'alt pull', 'stitch kind', 'mirror', 'undo and redo'] as const;

type Handles = Record<string, Spot>;

const handlesOf = (page: Page): Promise<Handles> =>
  page.evaluate(
    () => JSON.parse(document.querySelector<HTMLElement>('kite-stage canvas')?.dataset['frame'] ?? '{}') as Handles,
  );

async function pull(page: Page, from: Spot, by: Spot): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + by.x / 2, from.y + by.y / 2);
  await page.mouse.move(from.x + by.x, from.y + by.y);
  await page.mouse.up();
}

/** Does something at random with what is chosen, or with a piece it chooses. @returns what it was */
async function editOnce(page: Page, random: () => number): Promise<string> {
  const stage = await box(page);
  if (random() < 0.7 || !(await handlesOf(page))['se']) {
    await page.keyboard.press('Escape');
    for (let tries = 0; tries < 12; tries++) {
      const spot = {
        x: stage.x + stage.width * (0.15 + 0.7 * random()),
        y: stage.y + stage.height * (0.15 + 0.7 * random()),
      };
      await page.mouse.click(spot.x, spot.y);
      await rest(page, 30);
      if ((await handlesOf(page))['se']) break;
    }
  }
  const { nw, se, turn } = await handlesOf(page);
  const all = [...ACTS.map(([name]) => name), ...BY_MOUSE];
  const act = all[Math.floor(random() * all.length)] ?? 'nudge';
  const keys = ACTS.find(([name]) => name === act)?.[1];
  const [dx, dy] = [(random() - 0.5) * 60, (random() - 0.5) * 60];
  if (keys) for (const key of keys) await chord(page, key);
  else if (act === 'stitch kind') {
    await page.evaluate(() => {
      const fields = Array.from(document.querySelectorAll<HTMLElement>('kite-choice-field'));
      const kinds = fields.find((each) => each.querySelector('mat-label')?.textContent?.trim() === 'Stitch kind');
      kinds?.querySelector<HTMLElement>('mat-select')?.click();
    });
    await rest(page, 60);
    const options = await page.$$('mat-option');
    const option = options[Math.floor(random() * options.length)];
    if (option) await option.evaluate((each) => (each as HTMLElement).click());
    await page.keyboard.press('Escape');
  } else if (act === 'mirror') {
    await page.evaluate((upright) => {
      const found = Array.from(document.querySelectorAll<HTMLElement>('kite-place-section button')).filter((each) =>
        /mirror/i.test(each.getAttribute('aria-label') ?? each.innerText),
      );
      found[upright ? 0 : found.length - 1]?.click();
    }, random() < 0.5);
  } else if (act === 'undo and redo') {
    await chord(page, 'Control+z');
    await chord(page, 'Control+y');
  } else if (nw && se && turn) {
    const on = (place: Spot): Spot => ({ x: stage.x + place.x, y: stage.y + place.y });
    if (act === 'alt pull') await page.keyboard.down('Alt');
    const middle = { x: (nw.x + se.x) / 2, y: (nw.y + se.y) / 2 };
    await pull(page, on(act === 'scale' ? se : act === 'turn' ? turn : middle), { x: dx, y: dy });
    if (act === 'alt pull') await page.keyboard.up('Alt');
  }
  return act;
}

interface Kept {
  readonly recipe: Recipe;
  readonly history: readonly { readonly label: string; readonly patches: unknown; readonly inverse: unknown }[];
  readonly position: number;
}

/** The project as the server holds it, once everything is kept. */
async function kept(rig: Rig, page: Page): Promise<Kept> {
  await rest(page, 150);
  await page.waitForFunction(() => document.querySelector('.saved')?.textContent?.trim() === 'All changes kept', {
    timeout: 60_000,
  });
  return rig.server.stores.projects.get(page.url().split('/').at(-1) ?? '');
}

/** What no stitch may be. */
function faultOf({ stitches: { x, y, command, count } }: Design): string | undefined {
  for (let i = 0; i < count; i++) {
    if (!Number.isFinite(x[i]) || !Number.isFinite(y[i])) return `row ${i} is nowhere`;
    if (i === 0 || command[i] !== STITCH || command[i - 1] !== STITCH) continue;
    const length = Math.hypot((x[i] ?? 0) - (x[i - 1] ?? 0), (y[i] ?? 0) - (y[i - 1] ?? 0));
    if (length > MOST_STITCH_MM) return `row ${i} is a stitch of ${length.toFixed(2)} mm`;
  }
  return undefined;
}

const MOST_STITCH_MM = 12.001;

/** Changes of all kinds at random on drawings; all taken back, all done again. */
async function randomEdits(rig: Rig, edits: number, seed: number): Promise<void> {
  const drawings = [flatArt(seed), flatArt(seed + 1), icon(seed), crowd(seed), word(seed, 20), icon(seed + 1)];
  const each = Math.ceil(edits / drawings.length);
  heading('Changes at random', `${each} on each of ${drawings.length} scripted drawings, seed ${seed}`);
  const random = seededRandom(seed);
  const charts = readCharts(CHART_FOLDER);
  const done = new Map<string, number>();
  const faults: string[] = [];
  let [steps, same, undone, redone, again] = [0, 0, 0, 0, 0];
  for (const [d, { svg }] of drawings.entries()) {
    const page = await opened(rig, `drawing-${d}`, svg);
    const first = (await kept(rig, page)).recipe;
    for (let k = 0; k < each; k++) {
      const act = await editOnce(page, random);
      done.set(act, (done.get(act) ?? 0) + 1);
      if (k % 6 !== 0) continue;
      const since = Date.now();
      await converted(page);
      const stitches = await page.evaluate(() => document.querySelector('kite-reel .figures dd')?.textContent?.trim());
      process.stderr.write(`drawing ${d}, ${k} ${act}: ${stitches} stitches, waited ${Date.now() - since} ms\n`);
    }
    await converted(page);
    const now = await kept(rig, page);
    const id = page.url().split('/').at(-1) ?? '';
    const whole = rig.server.stores.projects.get(id);
    // Every state there was, from its patches backwards; forwards it must be the same at every step.
    const states: Recipe[] = [now.recipe];
    for (let k = now.position - 1; k >= 0; k--)
      states.unshift(applyPatches(states[0], (now.history[k]?.inverse ?? []) as Patch[]));
    let forwards = states[0];
    for (let k = 0; k < now.position; k++) {
      forwards = applyPatches(forwards, (now.history[k]?.patches ?? []) as Patch[]);
      steps++;
      if (JSON.stringify(sorted(forwards)) === JSON.stringify(sorted(states[k + 1]))) same++;
      else faults.push(`drawing ${d}, step ${k}: ${now.history[k]?.label} leads elsewhere`);
    }
    const sources = await sourcesFor(rig, whole.pictures);
    const sums: string[] = [];
    // One after the other as the interface makes them; the last is made by itself as well, below.
    const cache = new StepCache();
    for (const [k, recipe] of states.entries()) {
      const design = await convert({ pictures: sources, recipe, charts }, { cache });
      const fault = faultOf(design);
      if (fault) faults.push(`drawing ${d}, after step ${k}: ${fault}`);
      sums.push(createHash('sha256').update(writeStitchList(design)).digest('hex'));
    }
    for (let k = 0; k < now.position; k++) await chord(page, 'Control+z');
    await converted(page);
    const back = await kept(rig, page);
    if (JSON.stringify(sorted(back.recipe)) === JSON.stringify(sorted(first))) undone++;
    else faults.push(`drawing ${d}: not as at first when all is undone`);
    for (let k = 0; k < now.position; k++) await chord(page, 'Control+y');
    await converted(page);
    const forth = await kept(rig, page);
    if (JSON.stringify(sorted(forth.recipe)) === JSON.stringify(sorted(now.recipe))) redone++;
    else faults.push(`drawing ${d}: not as before when all is done again`);
    const design = await convert({ pictures: sources, recipe: forth.recipe, charts });
    if (createHash('sha256').update(writeStitchList(design)).digest('hex') === sums.at(-1)) again++;
    await page.close();
  }
  const n = drawings.length;
  line('acts', [...done].map(([name, count]) => `${name} ${count}`).join(', '));
  line('steps of the history; the same forwards and back', `${steps}; ${same}`, 'all');
  line(
    'all undone as at first; all redone as before; the same stitches',
    `${undone}, ${redone}, ${again} of ${n}`,
    'all',
  );
  line('faults: stitches that are nowhere or over 12 mm', String(faults.length), '0');
  for (const fault of faults.slice(0, 10)) console.log(`  ${fault}`);
}

/** The same with its fields in one order: what is equal reads equal. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).filter(([, each]) => each !== undefined);
  return Object.fromEntries(entries.sort(([a], [b]) => (a < b ? -1 : 1)).map(([key, each]) => [key, sorted(each)]));
}

async function sourcesFor(rig: Rig, hashes: Readonly<Record<string, string>>): Promise<Record<string, SourcePicture>> {
  const out: Record<string, SourcePicture> = {};
  for (const [name, hash] of Object.entries(hashes)) {
    const { png, kind, source } = rig.server.stores.pictures.get(hash);
    out[name] = { key: hash, raster: await rasterOf(png), ...(source ? readStoredSource(kind, source) : {}) };
  }
  return out;
}

/** Work by hand: pieces pulled, needle points moved, changes at random; of those alone so many, where it is said, by a seed. */
export async function editsBench(): Promise<void> {
  const rig = await startRig(false);
  try {
    if (process.argv[3] === undefined) {
      await oneOfMany(rig);
      await oneNeedlePoint(rig);
    }
    await randomEdits(rig, Number(process.argv[3] ?? 120), Number(process.argv[4] ?? 6600));
  } finally {
    await rig.close();
  }
}
