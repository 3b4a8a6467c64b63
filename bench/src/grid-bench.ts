import { join } from 'node:path';
import { converted, press, slide, until, wait, type Rig, sewAs } from '@open-kite/e2e/browser';
import { heading, line } from './print.js';
import { quietly } from './quiet.js';
import { framesDuring, share } from './stage-bench.js';

/** The editor of a grid of 400 x 400 cells: frames while a stroke is painted, while it is panned, and at undo. */
export async function gridBench(rig: Rig, root: string): Promise<void> {
  heading('Grid by hand', 'still life as 400 x 400 cells of 1 mm, 1280x800, headless Chromium without a GPU');
  const { page } = await rig.open('/');
  await (await page.$('input[type=file]'))?.uploadFile(join(root, 'demo/artwork/still-life.jpg'));
  await page.waitForSelector('kite-studio', { timeout: 60_000 });
  await converted(page);
  await press(page, 'Picture, done');
  await sewAs(page, 'cross').catch(() => undefined);
  const field = await page.waitForSelector('input[aria-label="Width, typed"]');
  await field?.click({ count: 3 });
  await page.keyboard.type('400 mm');
  await page.keyboard.press('Enter');
  await press(page, 'Pieces, done');
  await sewAs(page, 'cross');
  await slide(page, 'Size of a cell', 1);
  await until(page, () => /400 x 400 cells/.test(document.querySelector('kite-grid-choice')?.textContent ?? ''));
  await converted(page);
  await press(page, 'Change cells by hand');
  await page.waitForSelector('kite-grid-pane canvas');
  await wait(1500);
  // No stroke lies where one lay before: it would change nothing.
  let pulls = 0;
  const pulled = (button: 0 | 1) =>
    page.evaluate(
      async (which, lower) => {
        const canvas = document.querySelector('kite-grid-pane canvas') as HTMLCanvasElement;
        const box = canvas.getBoundingClientRect();
        const target: EventTarget = canvas;
        const fire = (type: string, k: number): void => {
          // Panning comes back to where it began, so that the strokes that follow meet the grid.
          const over = which === 1 ? 3 * Math.min(k, 120 - k) : 3 * k;
          const [clientX, clientY] = [box.left + 240 + over, box.top + 150 + lower + 60 * Math.sin(k / 9)];
          target.dispatchEvent(
            new PointerEvent(type, { pointerId: 1, button: which, buttons: 1, clientX, clientY, bubbles: true }),
          );
        };
        const frame = (): Promise<number> => new Promise((resolve) => requestAnimationFrame(resolve));
        Object.assign(canvas, { setPointerCapture: () => undefined, releasePointerCapture: () => undefined });
        const stage = document.querySelector('kite-stage canvas') as HTMLCanvasElement;
        Object.assign(stage, { setPointerCapture: () => undefined });
        fire('pointerdown', 0);
        for (let k = 1; k < 120; k++) {
          await frame();
          fire('pointermove', k);
        }
        fire('pointerup', 120);
        for (let k = 0; k < 20; k++) await frame();
      },
      button,
      pulls++ * 9,
    );
  const measure = async (what: string, act: () => Promise<unknown>): Promise<void> => {
    const { value: frames, note } = await quietly(() => framesDuring(page, act));
    line(
      `${what}: frames, 95 % and longest`,
      `${share(frames, 0.95).toFixed(1)}, ${Math.max(...frames).toFixed(1)} ms${note}`,
      '50 ms',
    );
  };
  for (const view of ['Crosses', 'Symbols']) {
    await press(page, view);
    await wait(300);
    await measure(`a stroke painted, ${view.toLowerCase()}, whole grid in sight`, () => pulled(0));
    await measure('panned', () => pulled(1));
  }
  for (let k = 0; k < 6; k++) await page.keyboard.press('+');
  await wait(500);
  await measure('a stroke painted, symbols, enlarged', () => pulled(0));
  await measure('panned, enlarged', () => pulled(1));
  await measure('a stroke painted and taken back at once', async () => {
    await pulled(0);
    await press(page, 'Undo: cells stitched');
    await wait(400);
  });
  await measure('undo', async () => {
    await press(page, 'Undo: cells stitched');
    await wait(400);
  });
  const changes = await page.$eval(
    'kite-grid-sheet .lead',
    (lead) => /(\d+) changes/.exec(lead.textContent ?? '')?.[1],
  );
  line('strokes that stayed', `${changes ?? 0}`);
  await page.close();
}
