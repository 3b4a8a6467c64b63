import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { converted, pick, press, slide, stitchesShown, until, wait, type Rig } from '@open-kite/e2e/browser';
import type { Page } from 'puppeteer-core';
import { heading, line } from './print.js';
import { quietly } from './quiet.js';

const COLOURS = ['#2c6e80', '#d8602a', '#2a3437', '#e6b23c', '#7a9a5b', '#b04a4a', '#5b6fa8'];
const ACROSS = 20;
const DOWN = 15;

/** Kites side by side, 300 of them in seven colours. */
function kites(widthMm: number, heightMm: number): string {
  const [w, h] = [widthMm / ACROSS, heightMm / DOWN];
  const shapes = Array.from({ length: ACROSS * DOWN }, (_, i) => {
    const x = ((i % ACROSS) + 0.5) * w;
    const y = (Math.floor(i / ACROSS) + 0.5) * h;
    const [a, b] = [w * 0.48, h * 0.48];
    const points = [
      [x - a * 0.3, y - b],
      [x + a, y - b * 0.6],
      [x + a * 0.7, y + b],
      [x - a, y + b * 0.5],
    ];
    const fill = COLOURS[(i + Math.floor(i / ACROSS) * 3) % COLOURS.length];
    return `<polygon points="${points.map((p) => p.map((v) => v.toFixed(2)).join(',')).join(' ')}" fill="${fill}"/>`;
  });
  const size = `width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${widthMm} ${heightMm}"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${shapes.join('')}</svg>`;
}

export async function openKites(rig: Rig, name: string, widthMm: number, heightMm: number): Promise<Page> {
  const file = join(rig.folder, `${name}.svg`);
  writeFileSync(file, kites(widthMm, heightMm));
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(file);
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Stitches, done');
  return page;
}

export const share = (list: readonly number[], part: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * part))];

/** Milliseconds between the frames of the page while something is done. */
export async function framesDuring(page: Page, act: () => Promise<unknown>): Promise<number[]> {
  await page.evaluate(() => {
    const state = { times: [] as number[], on: true };
    Object.assign(window, { film: state });
    let last = 0;
    const step = (now: number): void => {
      if (last > 0) state.times.push(now - last);
      last = now;
      if (state.on) requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
  await act();
  return page.evaluate(() => {
    const { film } = window as unknown as { film: { times: number[]; on: boolean } };
    film.on = false;
    return film.times;
  });
}

/** Turns the wheel or drags in the page itself, once a frame, so that the bench's own messages cost nothing. */
async function moveFrames(page: Page, kind: 'pan' | 'zoom', count: number): Promise<void> {
  await page.evaluate(
    async (what, times) => {
      const canvas = document.querySelector('kite-stage canvas') as HTMLCanvasElement;
      const box = canvas.getBoundingClientRect();
      const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
      const frame = (): Promise<number> => new Promise((resolve) => requestAnimationFrame(resolve));
      for (let i = 0; i < times; i++) {
        await frame();
        if (what === 'zoom') {
          const deltaY = i < times / 2 ? -18 : 18;
          canvas.dispatchEvent(new WheelEvent('wheel', { deltaY, clientX: x, clientY: y, cancelable: true }));
        } else {
          const deltaY = Math.floor(i / 30) % 2 === 0 ? 9 : -9;
          canvas.dispatchEvent(
            new WheelEvent('wheel', { deltaY, shiftKey: true, clientX: x, clientY: y, cancelable: true }),
          );
        }
      }
    },
    kind,
    count,
  );
}

/** Turns the wheel so that the stage zooms by a factor. */
async function zoomBy(page: Page, factor: number): Promise<void> {
  await page.evaluate((by) => {
    performance.clearMarks();
    const canvas = document.querySelector('kite-stage canvas') as HTMLCanvasElement;
    const box = canvas.getBoundingClientRect();
    performance.mark('bench-moved');
    canvas.dispatchEvent(
      new WheelEvent('wheel', {
        deltaY: -Math.log(by) / 0.0016,
        clientX: box.left + box.width / 2 + 40,
        clientY: box.top + box.height / 2 + 30,
        cancelable: true,
      }),
    );
  }, factor);
}

/** Zooms and tells how long the first sharp tile and all of them take from then on. */
async function tilesAfter(page: Page, factor: number): Promise<{ first: number; all: number }> {
  await zoomBy(page, factor);
  await page.waitForFunction(() => performance.getEntriesByName('kite-all-tiles').length > 0, { timeout: 20_000 });
  return page.evaluate(() => {
    const at = (name: string): number => performance.getEntriesByName(name)[0].startTime;
    return { first: at('kite-tile') - at('bench-moved'), all: at('kite-all-tiles') - at('bench-moved') };
  });
}

async function manyStitches(rig: Rig): Promise<void> {
  const page = await openKites(rig, 'many', 330, 245);
  await slide(page, 'Row spacing', 0.25);
  await slide(page, 'Stitch in fills', 1.5);
  await converted(page);
  // Likeness and the shelf's picture are made once a project rests.
  await wait(12_000);
  const count = await stitchesShown(page);
  heading(
    'Stage',
    `${count} stitches, 300 pieces, seven threads, 1280 x 800, headless Chromium without a GPU, two drawing workers`,
  );
  // Warm, as a stage is that has been looked at.
  for (const factor of [4, 4, 1 / 16]) {
    await zoomBy(page, factor);
    await wait(1500);
  }
  for (const [what, kind] of [
    ['pan', 'pan'],
    ['zoom', 'zoom'],
  ] as const) {
    const { value: frames, note } = await quietly(() => framesDuring(page, () => moveFrames(page, kind, 240)));
    line(
      `${what}: frames, 95 % and longest`,
      `${share(frames, 0.95).toFixed(1)}, ${Math.max(...frames).toFixed(1)} ms of ${frames.length}`,
      `17 ms, 34 ms${note}`,
    );
    await wait(1500);
  }
  for (const [what, there, back] of [
    ['fit', 1.02, 1 / 1.02],
    ['4x', 4, 1 / 4],
    ['16x', 16, 1 / 16],
  ] as const) {
    // A little more each time: tiles that are kept would answer at once.
    let more = 0;
    const { value, note } = await quietly(async () => {
      const first: number[] = [];
      const all: number[] = [];
      for (let i = 0; i < 5; i++, more += 0.01) {
        const took = await tilesAfter(page, there * (1 + more));
        first.push(took.first);
        all.push(took.all);
        await wait(300);
        await zoomBy(page, back / (1 + more));
        await wait(800);
      }
      return { first, all };
    });
    line(
      `${what}: first tile, all tiles after the movement, median of 5`,
      `${share(value.first, 0.5).toFixed(0)}, ${share(value.all, 0.5).toFixed(0)} ms`,
      `60 ms, 500 ms${note}`,
    );
  }
  await moments(page);
  await page.close();
}

/** Plays and scrubs by the Reel's own keys and pointer; the drawing worker measures each moment it draws. */
async function moments(page: Page): Promise<void> {
  const drawn = async (): Promise<number[]> => {
    for (const worker of page.workers()) {
      const times = await worker.evaluate(() => {
        const list = performance.getEntriesByName('kite-moment').map((entry) => entry.duration);
        performance.clearMeasures('kite-moment');
        return list;
      });
      if (times.length > 0) return times;
    }
    return [];
  };
  const ribbon = await (await page.$('kite-reel .ribbon'))?.boundingBox();
  if (!ribbon) throw new Error('there is no Reel');
  const rows = await stitchesShown(page);
  const y = ribbon.y + ribbon.height / 2;
  const at = (k: number): number => ribbon.x + ribbon.width * k;
  await page.mouse.move(at(0.02), y);
  await page.mouse.down();
  await wait(500);
  const { value: playing, note } = await quietly(async () => {
    await page.mouse.move(at(0.05), y);
    await wait(200);
    await drawn();
    // 500 stitches a step, as fast as the pointer can say.
    const step = 500 / rows;
    for (let k = 0.05; k < 0.05 + step * 200; k += step) {
      await page.mouse.move(at(k), y);
      await wait(12);
    }
    await wait(100);
    return drawn();
  });
  const { value: scrubbing, note: scrubbingNote } = await quietly(async () => {
    await drawn();
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(at(0.5 + 0.45 * Math.sin(i * 0.7) * Math.cos(i * 0.13)), y);
      await wait(16);
    }
    await wait(100);
    return drawn();
  });
  await page.mouse.up();
  line(
    '500 stitches a frame: drawing, 95 %, median',
    `${share(playing, 0.95).toFixed(1)}, ${share(playing, 0.5).toFixed(1)} ms of ${playing.length}`,
    `4 ms${note}`,
  );
  line(
    'scrubbing to and fro: drawing, 95 %, median',
    `${share(scrubbing, 0.95).toFixed(1)}, ${share(scrubbing, 0.5).toFixed(1)} ms of ${scrubbing.length}`,
    `16 ms${scrubbingNote}`,
  );
}

/** One piece of 300 gets another angle, spacing or fabric: from the slider until its stitches stand on the stage. */
async function onePiece(rig: Rig): Promise<void> {
  const page = await openKites(rig, 'three-hundred', 200, 150);
  await wait(2000);
  const canvas = await (await page.$('kite-stage canvas'))?.boundingBox();
  if (!canvas) throw new Error('there is no stage');
  const isChosen = (): Promise<boolean> =>
    page.evaluate(() => document.querySelector('kite-stitches-sheet .chosen kite-slider-field') !== null);
  // Between the pieces is bare cloth: the next place is tried.
  for (let tries = 0; tries < 20 && !(await isChosen()); tries++) {
    await page.mouse.click(canvas.x + canvas.width / 2 + 30 + tries, canvas.y + canvas.height / 2 + 7 * tries);
    await wait(400);
  }
  await until(page, () => document.querySelector('kite-stitches-sheet .chosen kite-slider-field') !== null);
  await wait(1500);
  heading(
    'One piece of 300',
    `${await stitchesShown(page)} stitches; from the slider to its stitches on the stage, 8 changes each`,
  );
  for (const [label, values] of [
    ['Row angle', [10, 35, 60, 85, 15, 50, 70, 25]],
    ['Row spacing', [0.5, 0.6, 0.45, 0.7, 0.4, 0.55, 0.65, 0.35]],
    ['Fabric under it', ['pique', 'felt', 'fleece', 'design', 'towelling', 'poplin', 'jersey', 'stretch']],
  ] as const) {
    const { value: took, note } = await quietly(async () => {
      const made: number[] = [];
      const shown: number[] = [];
      const complete: number[] = [];
      for (const value of values) {
        await page.evaluate(() => {
          performance.clearMarks();
          performance.mark('bench-set');
        });
        if (typeof value === 'string') await pick(page, label, value);
        else await slide(page, label, value);
        await page.waitForFunction(
          () => {
            const [full] = performance.getEntriesByName('kite-full');
            return full && performance.getEntriesByName('kite-all-tiles').some((m) => m.startTime > full.startTime);
          },
          { timeout: 20_000 },
        );
        const took = await page.evaluate(() => {
          const [from] = performance.getEntriesByName('bench-set');
          const [full] = performance.getEntriesByName('kite-full');
          const after = (name: string): number =>
            (performance.getEntriesByName(name).find((m) => m.startTime > full.startTime)?.startTime ?? 0) -
            from.startTime;
          return { full: full.startTime - from.startTime, tile: after('kite-tile'), all: after('kite-all-tiles') };
        });
        made.push(took.full);
        shown.push(took.tile);
        complete.push(took.all);
        await wait(900);
      }
      return [made, shown, complete];
    });
    line(
      `${label}: new stitches made, first tile of them, all, median`,
      took.map((list) => share(list, 0.5).toFixed(0)).join(', ') + ' ms',
      `150 ms${note}`,
    );
  }
  await page.close();
}

/** The stage under load. */
export async function stageBench(rig: Rig): Promise<void> {
  await manyStitches(rig);
  await onePiece(rig);
}
