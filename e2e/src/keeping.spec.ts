import type { HTTPRequest, Page } from 'puppeteer-core';
import { violations } from './axe.js';
import { openFirst, press, slide, startRig, textOf, until, type Rig } from './browser.js';

describe('changes the server does not take', () => {
  let rig: Rig;
  let page: Page;
  /** What a save is answered with; the server's own answer where it is undefined. */
  let refusal: { status: number; error: string } | undefined;

  beforeAll(async () => {
    rig = await startRig(true);
    ({ page } = await openFirst(rig, 'Stitches'));
    await page.setRequestInterception(true);
    page.on('request', (request: HTTPRequest) => {
      const isSave = request.method() === 'PUT' && /\/api\/projects\/[^/]+$/.test(request.url());
      if (!isSave || !refusal) {
        void request.continue();
        return;
      }
      const { status, error } = refusal;
      void request.respond({ status, contentType: 'application/json', body: JSON.stringify({ error }) });
    });
  });

  afterAll(() => rig.close());

  const said = (words: string): Promise<void> =>
    until(page, (wanted: string) => document.querySelector('.conflict')?.textContent?.includes(wanted) === true, words);
  const kept = (): Promise<void> =>
    until(page, () => document.querySelector('.saved')?.textContent?.trim() === 'All changes kept');

  it('are told with what it said, and kept once it takes them', async () => {
    refusal = { status: 400, error: 'spacingMm must be a number' };
    await slide(page, 'Row spacing', 0.5);
    await said('spacingMm must be a number');
    expect(await violations(page)).toEqual([]);
    refusal = undefined;
    await press(page, 'Try again');
    await kept();
  });

  it('are asked about on leaving, and there again on coming back', async () => {
    refusal = { status: 400, error: 'not now' };
    await slide(page, 'Row spacing', 0.6);
    await said('not now');
    await page.click('kite-studio header a');
    await page.waitForSelector('kite-leave-dialog');
    expect(await violations(page)).toEqual([]);
    await press(page, 'Stay');
    await until(page, () => document.querySelector('kite-leave-dialog') === null);
    expect(await page.$('kite-studio')).not.toBeNull();
    await page.click('kite-studio header a');
    await page.waitForSelector('kite-leave-dialog');
    await press(page, 'Leave');
    await page.waitForSelector('.projects a');
    refusal = undefined;
    await page.click('.projects a');
    await said('were brought back');
    await kept();
    const [project] = rig.server.stores.projects.list();
    const { recipe } = rig.server.stores.projects.get(project?.id ?? '');
    expect(recipe.stitches.spacingMm).toBeCloseTo(0.6, 5);
    expect(await textOf(page, '.saved')).toBe('All changes kept');
  });

  it('can be put back with a project that was taken off the shelf meanwhile', async () => {
    const id = page.url().split('/').at(-1) as string;
    await press(page, 'Stitches, done');
    rig.server.stores.projects.remove(id);
    await slide(page, 'Row spacing', 0.45);
    await said('taken off the shelf');
    await press(page, 'Put it back');
    await kept();
    expect(rig.server.stores.projects.get(id).recipe.stitches.spacingMm).toBeCloseTo(0.45, 5);
  });
});
