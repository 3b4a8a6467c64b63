import { startRig } from '@open-kite/e2e/browser';
import { heading, line } from './print.js';

const PROJECTS = 2000;
const ASKED = 40;

/** A shelf after years of work: how soon it is read, and how soon and how lightly it is shown. */
export async function shelfBench(): Promise<void> {
  heading('The shelf', `${PROJECTS} projects with previews and figures, server and headless Chromium side by side`);
  const rig = await startRig(true);
  try {
    const { projects } = rig.server.stores;
    const samples = projects.list();
    for (let k = samples.length; k < PROJECTS; k++) {
      const id = projects.duplicate(samples[k % samples.length]?.id ?? '');
      projects.rename(id, `Order ${k}`);
    }
    const times: number[] = [];
    for (let k = 0; k < ASKED; k++) {
      const from = performance.now();
      await (await fetch(`${rig.server.address}/api/projects`)).text();
      times.push(performance.now() - from);
    }
    times.sort((a, b) => a - b);
    const at = (share: number): string => (times[Math.floor(share * (ASKED - 1))] ?? 0).toFixed(0);
    line(`list of ${projects.list().length} projects: median, 95th percentile`, `${at(0.5)}, ${at(0.95)} ms`, '60 ms');
    const { page } = await rig.open('/');
    for (const warm of [false, true]) {
      if (warm) await page.reload({ waitUntil: 'networkidle0' });
      await page.waitForSelector('.projects a');
      const [first, nodes] = await page.evaluate(() => [
        performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0,
        document.querySelectorAll('*').length,
      ]);
      line(`${warm ? 'again' : 'first'}: paint, nodes`, `${first?.toFixed(0)} ms, ${nodes}`, warm ? '' : '1 s');
    }
    const from = await page.evaluate(() => performance.now());
    await page.type('input[type=search]', 'Order 1999');
    await page.waitForFunction(() => document.querySelectorAll('.projects .name').length === 1);
    line(
      'found by ten letters typed one after the other',
      `${((await page.evaluate(() => performance.now())) - from).toFixed(0)} ms`,
    );
  } finally {
    await rig.close();
  }
}
