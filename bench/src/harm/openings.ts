import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { CDPSession, Page } from 'puppeteer-core';
import { startRig, type Rig } from '@open-kite/e2e/browser';
import { heading, line } from '../print.js';

/** Memory of the renderer that shows a page, in MB: the largest process of the browser that is one. */
function rendererMb(browser: number): number {
  const list = execFileSync('ps', ['-eo', 'pid,ppid,args'], { encoding: 'utf8' }).split('\n');
  const rows = list.map((row) => /^\s*(\d+)\s+(\d+)\s+(.*)$/.exec(row)).filter((row) => row !== null);
  const family = new Set([browser]);
  for (let more = true; more;) {
    more = false;
    for (const [, pid, parent] of rows) {
      if (!family.has(Number(parent)) || family.has(Number(pid))) continue;
      family.add(Number(pid));
      more = true;
    }
  }
  const renderers = rows.filter(([, pid, , args]) => family.has(Number(pid)) && args?.includes('--type=renderer'));
  const sizes = renderers.map(([, pid]) => {
    try {
      return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
    } catch {
      return 0;
    }
  });
  return Math.max(0, ...sizes);
}

/** Waits for the shelf; the handle of an element, once it is not needed, would hold the whole page it stood on. */
const shelfThere = (page: Page): Promise<unknown> =>
  page.waitForFunction(() => document.querySelector('.projects a') !== null).then((handle) => handle.dispose());

/** Opens and closes projects in one tab, as a long working day does. */
export async function openings(count: number): Promise<number> {
  heading('A long day in one tab', `${count} openings of the samples in turn, headless Chromium`);
  const rig: Rig = await startRig(true);
  try {
    const ids = rig.server.stores.projects.list().map(({ id }) => id);
    const { page } = await rig.open('/');
    const session = await page.createCDPSession();
    // Whoever looks on keeps the bodies of all answers in the renderer: that is not what is measured.
    const own = (page as unknown as { _client: () => CDPSession })._client();
    await own.send('Network.disable');
    const sizes: number[] = [];
    for (let k = 0; k < count; k++) {
      await shelfThere(page);
      await page.evaluate((id) => document.querySelector<HTMLElement>(`a[href="/project/${id}"]`)?.click(), ids[k % 3]);
      const sewn = await page.waitForFunction(
        () => Number(/[\d ]+/.exec(document.querySelector('kite-reel')?.textContent ?? '')?.[0].replace(/\s/g, '')) > 0,
        { timeout: 60_000 },
      );
      await sewn.dispose();
      await new Promise((resolve) => setTimeout(resolve, 700));
      await page.evaluate(() => history.back());
      await shelfThere(page);
      await session.send('HeapProfiler.collectGarbage');
      await new Promise((resolve) => setTimeout(resolve, 300));
      const memory = (): number => rendererMb(rig.browser.process()?.pid ?? 0);
      if (![2, 9, 19, 29, 39, 49, count - 1].includes(k)) continue;
      const held = memory();
      const { JSHeapUsedSize = 0 } = await page.metrics();
      const nodes = await page.evaluate(() => document.querySelectorAll('*').length);
      let needed = '';
      if (k === 2 || k === count - 1) {
        // What the browser keeps for itself as long as there is room, and lets go of when there is none, is no leak.
        await session.send('Memory.simulatePressureNotification', { level: 'critical' });
        await new Promise((resolve) => setTimeout(resolve, 3000));
        sizes.push(memory());
        needed = `; ${sizes.at(-1)?.toFixed(0)} MB once memory is short`;
      }
      line(
        `after ${k + 1}: renderer, JavaScript, nodes`,
        `${held.toFixed(0)} MB, ${(JSHeapUsedSize / 1e6).toFixed(1)} MB, ${nodes}${needed}`,
      );
    }
    const growth = sizes[sizes.length - 1] / sizes[0] - 1;
    line('growth after the third, of what it does not let go of', `${(growth * 100).toFixed(0)} %`, '10 %');
    return growth > 0.1 ? 1 : 0;
  } finally {
    await rig.close();
  }
}
