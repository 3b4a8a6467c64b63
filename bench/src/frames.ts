import type { Page } from 'puppeteer-core';

/** Times between frames from now on, until they are asked for. */
export async function watchFrames(page: Page): Promise<() => Promise<number[]>> {
  await page.evaluate(() => {
    const state = { last: performance.now(), all: [] as number[], on: true };
    Object.assign(window, { frames: state });
    const step = (now: number): void => {
      state.all.push(now - state.last);
      state.last = now;
      if (state.on) requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
  return () =>
    page.evaluate(() => {
      const { frames } = window as unknown as { frames: { all: number[]; on: boolean } };
      frames.on = false;
      return frames.all.slice(2);
    });
}
