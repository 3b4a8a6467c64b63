import type { Page } from 'puppeteer-core';
import { violations } from './axe.js';
import { choose, converted, openNamed, press, rest, select, startRig, until, type Rig } from './browser.js';
import { unreadable } from './unreadable.js';

const KNOTS = ['Picture', 'Colours', 'Pieces', 'Stitches', 'Tidy', 'Sew'];
const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
];

describe('Every screen in the browser', () => {
  let rig: Rig;

  beforeAll(async () => (rig = await startRig(true)));
  afterAll(() => rig.close());

  const shown = async (page: Page, scheme: 'light' | 'dark'): Promise<void> => {
    await page.emulateMediaFeatures([
      { name: 'prefers-color-scheme', value: scheme },
      { name: 'prefers-reduced-motion', value: 'reduce' },
    ]);
    await rest(page, 60);
  };
  /** Reads a screen at both sizes, and hears what the accessibility rules say of it. */
  async function read(
    page: Page,
    where: string,
    schemes: readonly ('light' | 'dark')[] = ['light'],
  ): Promise<string[]> {
    const faults: string[] = [];
    for (const size of SIZES) {
      await page.setViewport(size);
      await rest(page, 120);
      faults.push(...(await unreadable(page)).map((fault) => `${where}, ${size.width} wide: ${fault}`));
    }
    for (const scheme of schemes) {
      await shown(page, scheme);
      faults.push(...(await violations(page)).map((fault) => `${where}, ${scheme}: ${fault}`));
    }
    await page.setViewport(SIZES[0]);
    return faults;
  }
  const unfold = async (page: Page): Promise<void> => {
    await page.evaluate(() => {
      for (const head of document.querySelectorAll<HTMLElement>('mat-expansion-panel-header[aria-expanded=false]')) {
        head.click();
      }
    });
    await rest(page, 300);
  };
  const step = async (page: Page, knot: string): Promise<void> => {
    await page.evaluate((wanted) => {
      [...document.querySelectorAll<HTMLElement>('kite-line button')]
        .find((b) => b.innerText.includes(wanted))
        ?.click();
    }, knot);
    await rest(page, 900);
    await unfold(page);
  };

  for (const project of ['Fair crest', 'Evening harbour']) {
    it(`has sheets that can be read: ${project}`, async () => {
      const { page, complaints } = await openNamed(rig, project, 'Picture');
      await shown(page, 'light');
      const faults: string[] = [];
      for (const knot of KNOTS) {
        await step(page, knot);
        faults.push(
          ...(await read(page, `${project}, ${knot}`, project === 'Fair crest' ? ['dark', 'light'] : ['light'])),
        );
      }
      expect(faults).toEqual([]);
      expect(complaints).toEqual([]);
      await page.close();
    });
  }

  it('has objects that can be read: a chosen piece, letters, an outline, an applique, copies', async () => {
    const { page } = await openNamed(rig, 'Fair crest', 'Pieces');
    await shown(page, 'light');
    await page.click('kite-tray .piece');
    const faults: string[] = [];
    for (const knot of ['Pieces', 'Stitches', 'Tidy']) {
      await step(page, knot);
      faults.push(...(await read(page, `a chosen piece, ${knot}`)));
    }
    await page.keyboard.press('Escape');
    await press(page, 'Add');
    await page.waitForSelector('[mat-menu-item]');
    faults.push(...(await read(page, 'what can be added')));
    const entries = await page.$$eval('[mat-menu-item]', (list) => list.map((item) => item.textContent.trim()));
    await page.keyboard.press('Escape');
    await until(page, () => !document.querySelector('[mat-menu-item]'));
    expect(entries.length).toBeGreaterThan(3);
    for (const entry of entries.filter((name) => !/picture|design|project|list/i.test(name))) {
      await page.evaluate(() => document.querySelector<HTMLElement>('kite-object-row .chip')?.click());
      await press(page, 'Add');
      await choose(page, entry);
      await rest(page, 400);
      if (await page.$('kite-type-pane textarea')) {
        await page.keyboard.type('KITE');
        await page.keyboard.press('Escape');
      }
      await converted(page);
      await unfold(page);
      faults.push(...(await read(page, entry)));
      await page.keyboard.press('Escape');
    }
    expect(faults).toEqual([]);
    await page.close();
  });

  it('has a board of try-outs that fills by itself and can be read', async () => {
    const { page } = await openNamed(rig, 'Pennant', 'Stitches');
    await shown(page, 'light');
    await press(page, 'Try-outs');
    await page.waitForSelector('kite-try-outs .cards img');
    await until(page, () => document.querySelectorAll('kite-try-outs .cards .shot[role=status]').length === 0);
    // Three numbers of threads, each with its figures.
    expect(await page.$$eval('kite-try-outs .cards dl', (list) => list.length)).toBe(3);
    expect(await read(page, 'try-outs')).toEqual([]);
    await page.evaluate(() => {
      document.querySelector<HTMLElement>('[aria-label^="Make a project: threads"]')?.click();
    });
    await until(
      page,
      () => document.querySelector('mat-snack-bar-container')?.textContent?.includes('lies on the shelf') === true,
    );
    const made = rig.server.stores.projects.list().find(({ name }) => name.includes(', threads at most'));
    expect(made).toBeDefined();
    await page.close();
  });

  it('points at the parts of the studio at the first opening, and never again', async () => {
    const { page } = await openNamed(rig, 'Pennant', 'Picture');
    expect(await page.$('kite-first-look p')).toBeNull();
    await page.evaluateOnNewDocument(() => {
      if (sessionStorage.getItem('first') === null) localStorage.removeItem('kite-looked-round');
      sessionStorage.setItem('first', 'no');
    });
    await page.reload();
    await until(page, () => document.querySelectorAll('kite-first-look p').length === 4);
    expect(await read(page, 'first look')).toEqual([]);
    await page.mouse.click(640, 400);
    await until(page, () => document.querySelector('kite-first-look p') === null);
    expect(await page.evaluate(() => localStorage.getItem('kite-looked-round'))).toBe('yes');
    await page.close();
  });

  it('folds what is seldom needed, and remembers what was unfolded', async () => {
    const { page, complaints } = await openNamed(rig, 'Fair crest', 'Picture');
    await page.evaluate(() => localStorage.setItem('kite-folds', ''));
    const open = (): Promise<string[]> =>
      page.$$eval('kite-sheet [aria-expanded=true] mat-panel-title', (all) =>
        all.map((title) => title.textContent.trim()),
      );
    const knotted = async (): Promise<void> => {
      await page.reload();
      await page.waitForSelector('kite-line button');
      await page.evaluate(() => document.querySelector<HTMLElement>('kite-line button')?.click());
      await page.waitForSelector('kite-picture-sheet kite-fold');
    };
    await knotted();
    expect(await open()).toEqual([]);
    // Folded parts stand in one another's reach: the first screen shows most of the Sheet.
    const [shown, all] = await page.$eval('kite-sheet', (sheet) => [sheet.clientHeight, sheet.scrollHeight]);
    expect((all ?? 0) / (shown ?? 1)).toBeLessThan(1.6);
    await page.focus('kite-fold mat-expansion-panel-header');
    await page.keyboard.press('Enter');
    await until(page, () => document.querySelector('kite-picture-sheet section[aria-label=Turn]') !== null);
    expect(await open()).toEqual(['Turn and mirror']);
    await knotted();
    expect(await open()).toEqual(['Turn and mirror']);
    expect(complaints).toEqual([]);
    await page.evaluate(() => localStorage.removeItem('kite-folds'));
    await page.close();
  });

  it('shows stitch kinds, patterns and motifs as small sewn pictures', async () => {
    const { page, complaints } = await openNamed(rig, 'Fair crest', 'Stitches');
    await page.click('kite-tray .piece');
    await page.waitForSelector('kite-stitch-kind-field mat-select');
    const shownIn = async (label: string): Promise<number> => {
      await page.evaluate((wanted) => {
        const fields = [...document.querySelectorAll('kite-sheet mat-form-field')];
        const field = fields.find((f) => f.querySelector('mat-label')?.textContent === wanted);
        field?.querySelector<HTMLElement>('mat-select')?.click();
      }, label);
      await page.waitForSelector('mat-option img.sewn');
      await page.evaluate(() => {
        for (const image of document.querySelectorAll<HTMLImageElement>('mat-option img')) image.loading = 'eager';
      });
      await until(page, () =>
        [...document.querySelectorAll<HTMLImageElement>('mat-option img')].every(({ naturalWidth: w }) => w > 100),
      );
      const addresses = await page.$$eval('mat-option img', (all) => all.map((image) => image.getAttribute('src')));
      await page.keyboard.press('Escape');
      await until(page, () => document.querySelector('mat-option') === null);
      return new Set(addresses).size;
    };
    expect(await shownIn('Stitch kind')).toBeGreaterThan(13);
    expect(await shownIn('Stitch pattern')).toBeGreaterThan(7);
    await select(page, 'Stitch kind', 'Motif fill');
    await converted(page);
    expect(await shownIn('Motif')).toBeGreaterThan(6);
    expect(complaints).toEqual([]);
    await page.close();
  });

  it('has its Tray and its Sheet as drawers on a tablet, and the tools of the Stage in one row', async () => {
    const { page, complaints } = await openNamed(rig, 'Fair crest', 'Picture');
    await shown(page, 'light');
    await step(page, 'Tidy');
    const row = async (width: number, height: number): Promise<void> => {
      await page.setViewport({ width, height });
      await rest(page, 400);
      const [tops, stage] = await page.evaluate(() => {
        const boxes = [...document.querySelectorAll('kite-stage .tools .group')].map((g) => g.getBoundingClientRect());
        const { left = 0, right = 0 } = document.querySelector('kite-stage')?.getBoundingClientRect() ?? {};
        const inside = boxes.every((box) => box.left >= left + 4 && box.right <= right - 4);
        return [new Set(boxes.map(({ top }) => Math.round(top))).size, inside] as const;
      });
      expect(tops).withContext(`${width}: rows of tools`).toBe(1);
      expect(stage).withContext(`${width}: tools within the stage`).toBeTrue();
    };
    await row(1280, 800);
    await row(1024, 768);
    // What there is no room for is shown above them.
    await page.click('kite-stage [aria-label^="Seen from"] button');
    await page.waitForSelector('kite-stage .from input[aria-label="Seen from, in metres"]');
    expect(await unreadable(page)).toEqual([]);
    expect(await violations(page)).toEqual([]);
    await page.click('kite-stage [aria-label^="Seen from"] button');
    await row(768, 1024);
    const out = (): Promise<string[]> =>
      page.$$eval('kite-tray, kite-sheet', (both) =>
        both.filter((each) => !(each as HTMLElement).inert).map(({ id }) => id),
      );
    expect(await out()).toEqual([]);
    await press(page, 'Tray');
    expect(await out()).toEqual(['tray']);
    expect(await unreadable(page)).toEqual([]);
    await page.keyboard.press('Escape');
    await rest(page, 300);
    expect(await out()).toEqual([]);
    // Going to a step shows its controls, at the step that is open as well.
    await step(page, 'Tidy');
    expect(await out()).toEqual(['sheet']);
    expect(await unreadable(page)).toEqual([]);
    expect(await violations(page)).toEqual([]);
    await press(page, 'Close');
    expect(await out()).toEqual([]);
    await page.setViewport({ width: 1280, height: 800 });
    await rest(page, 200);
    expect(await out()).toEqual(['tray', 'sheet']);
    expect(complaints).toEqual([]);
    await page.close();
  });

  it('opens the guide at the job at hand, and every page of it has its pictures', async () => {
    const { page } = await openNamed(rig, 'Evening harbour', 'Picture');
    await page.keyboard.press('?');
    const link = await page.waitForSelector('kite-shortcuts a');
    expect(await link?.evaluate((a) => [a.textContent, a.getAttribute('href')])).toEqual([
      'A photograph in thread',
      '/guide/photograph-in-thread',
    ]);
    await page.goto(`${rig.server.address}/guide`);
    const titles: string[] = [];
    for (let k = 0; k === 0 || k < titles.length; k++) {
      await page.waitForSelector('kite-guide-page nav a');
      titles.splice(
        0,
        titles.length,
        ...(await page.$$eval('kite-guide-page nav a', (all) => all.map((a) => a.innerText))),
      );
      await page.evaluate((n) => document.querySelectorAll<HTMLElement>('kite-guide-page nav a')[n]?.click(), k);
      // The heading of the page is the title of the job, and its picture has come.
      await until(
        page,
        (title) => {
          const image = document.querySelector<HTMLImageElement>('article img');
          return document.querySelector('article h1')?.textContent === title && (image?.naturalWidth ?? 0) > 600;
        },
        titles[k] ?? '',
      );
      expect((await page.$$('article li')).length)
        .withContext(titles[k] ?? '')
        .toBeGreaterThan(3);
    }
    expect(titles.length).toBe(8);
    await page.close();
  });

  for (const [name, selector] of [
    ['Open Kite', '.projects a'],
    ['Thread cupboard', 'kite-thread-page'],
    ['Practice machine', 'kite-machine-page'],
    ['Bulk run', 'kite-bulk-page'],
    ['Fabrics', 'kite-fabrics-page kite-places-map svg'],
    ['Guide', 'kite-guide-page article img'],
  ]) {
    it(`has a page that can be read: ${name}`, async () => {
      const { page } = await rig.open('/');
      if (name !== 'Open Kite') await press(page, name);
      await page.waitForSelector(selector);
      await shown(page, 'light');
      expect(await read(page, name, ['dark', 'light'])).toEqual([]);
      await page.close();
    });
  }
});
