import sharp from 'sharp';
import {
  FIRST_PICTURE,
  firstPicture,
  parseRecipe,
  pictureOf,
  sourcesOf,
  type DesignObject,
  type PictureObject,
  type Recipe,
} from '@open-kite/core';
import type { BulkItem, BulkRun } from '@open-kite/contract';
import type { DesignPool } from '../jobs/design-pool.js';
import type { ReadingPool } from '../jobs/reading-pool.js';
import type { BulkStore, StoredItem } from '../store/bulk.js';
import type { PictureStore, StoredPicture } from '../store/pictures.js';
import type { ProjectStore } from '../store/projects.js';
import { UserError } from '../user-error.js';
import { lettersOf, withText } from './with-text.js';

/** Designs made at the same time: as many as there are threads to make them. */
const AT_ONCE = 2;
/** Files of one run. */
const MOST_ITEMS = 2000;
/** Cells of a contact sheet. */
const CELL = { width: 260, height: 300, picture: 230 } as const;
const ACROSS = 4;
const MOST_ON_SHEET = 200;

interface Deps {
  readonly store: BulkStore;
  readonly projects: ProjectStore;
  readonly pictures: PictureStore;
  readonly designs: DesignPool;
  readonly reading: ReadingPool;
  /** Hears of what nobody could foresee. */
  readonly fault: (error: unknown) => void;
}

/** Bulk runs: files wait in the store, become projects one after the other, and go on after a restart. */
export class BulkRuns {
  private under = 0;
  private closed = false;

  constructor(private readonly deps: Deps) {
    // What was begun when the server was cut off is begun again: half of it does not stay on the shelf.
    for (const { project } of deps.store.making()) if (project !== null) deps.projects.erase(project, 'anywhere');
    deps.store.resume();
  }

  list(): BulkRun[] {
    return this.deps.store.runs().map(({ id }) => this.describe(id));
  }

  /** @throws UserError 404 */
  describe(id: string): BulkRun {
    const run = this.deps.store.run(id);
    if (!run) throw new UserError(404, `there is no bulk run ${id.slice(0, 60)}`);
    const figures = new Map(this.deps.projects.list().map((project) => [project.id, project.figures]));
    return {
      id,
      name: run.name,
      createdAt: run.createdAt,
      cancelled: run.cancelled,
      items: this.deps.store.items(id).map(({ name, state, error, project }): BulkItem => ({
        name,
        state,
        error,
        project,
        figures: (project !== null && figures.get(project)) || null,
      })),
    };
  }

  /** Begins a run. @throws UserError 404 where there is no such project */
  create(name: string, project: string | null): string {
    if (project === null) return this.deps.store.create(name.trim(), null, {});
    const { recipe, pictures } = this.deps.projects.get(project);
    return this.deps.store.create(name.trim(), recipe, pictures);
  }

  /** Adds a file to a run. One that cannot be read is kept with what is wrong with it. */
  async add(run: string, name: string, bytes: Buffer): Promise<void> {
    if (this.deps.store.items(run).length >= MOST_ITEMS)
      throw new UserError(422, `a bulk run has at most ${MOST_ITEMS} files`);
    this.describe(run);
    const model = this.deps.store.run(run)?.recipe;
    if (model && !pictureOf(model)) throw new UserError(422, 'this project has no picture that could be exchanged');
    try {
      const { png, source, ...info } = await this.deps.reading.picture(bytes);
      this.deps.pictures.add({ ...info, png: Buffer.from(png), source: source && Buffer.from(source) });
      this.deps.store.add(run, name, info.hash, null);
    } catch (error) {
      if (!(error instanceof UserError)) throw error;
      this.deps.store.add(run, name, null, error.message);
    }
    this.goOn();
  }

  /**
   * Adds names to a run: each takes the place of the text in its project.
   * @throws UserError 422 where the project has no text, or there are too many
   */
  addNames(run: string, names: readonly string[]): void {
    const { store } = this.deps;
    if (store.items(run).length + names.length > MOST_ITEMS)
      throw new UserError(422, `a bulk run has at most ${MOST_ITEMS} names`);
    this.describe(run);
    const model = store.run(run)?.recipe;
    if (!model) throw new UserError(422, 'names need a project as their model: choose one that has letters');
    if (!lettersOf(model)) throw new UserError(422, 'this project has no letters that a name could take the place of');
    store.addTexts(
      run,
      names.map((name) => name.trim()).filter((name) => name !== ''),
    );
    this.goOn();
  }

  cancel(run: string, cancelled: boolean): void {
    this.describe(run);
    this.deps.store.cancel(run, cancelled);
    this.goOn();
  }

  remove(run: string): void {
    this.describe(run);
    this.deps.store.remove(run);
  }

  /** Takes up whatever waits. */
  goOn(): void {
    while (!this.closed && this.under < AT_ONCE) {
      const item = this.deps.store.next();
      if (!item) return;
      this.under++;
      this.deps.store.set(item, 'making', null, null);
      this.make(item)
        .catch((error: unknown) => this.deps.fault(error))
        .finally(() => {
          this.under--;
          this.goOn();
        });
    }
  }

  close(): void {
    this.closed = true;
  }

  private async make(item: StoredItem): Promise<void> {
    const { store, projects, pictures, designs, reading } = this.deps;
    let project: string | null = null;
    try {
      const run = store.run(item.run);
      const template = run?.recipe ?? null;
      if (item.text !== null && run && template) {
        const recipe = withText(template, item.text);
        project = projects.create(item.text.replace(/\s+/gu, ' ').slice(0, 120), run.pictures, recipe).id;
      } else {
        const picture = pictures.get(item.picture ?? '');
        const recipe = template ? withPicture(template, picture) : await reading.firstRecipe(picture);
        const sources = [FIRST_PICTURE, ...sourcesOf(recipe)];
        // What cloth is printed with is that of the model.
        const hashOf = (source: string): string =>
          (source === FIRST_PICTURE ? undefined : run?.pictures[source]) ?? picture.hash;
        const hashes = Object.fromEntries(sources.map((source) => [source, hashOf(source)]));
        project = projects.create(nameOf(item.name), hashes, recipe).id;
      }
      store.set(item, 'making', project, null);
      await designs.make(project);
      store.set(item, 'done', project, null);
    } catch (error) {
      if (this.closed) return;
      // What could not be sewn does not lie on the shelf.
      if (project !== null) projects.erase(project, 'anywhere');
      const said = error instanceof Error ? error.message : String(error);
      store.set(item, 'failed', null, said.slice(0, 300));
    }
  }

  /** The pictures of a run's designs on one sheet, with their names and figures. */
  async contactSheet(run: string): Promise<Buffer> {
    const done = this.describe(run)
      .items.filter(({ state, project }) => state === 'done' && project !== null)
      .slice(0, MOST_ON_SHEET);
    if (done.length === 0) throw new UserError(422, 'nothing is done yet: there is nothing to show');
    const across = Math.min(ACROSS, done.length);
    const down = Math.ceil(done.length / across);
    const parts = await Promise.all(
      done.map(async ({ name, project, figures }, i) => {
        const left = (i % across) * CELL.width;
        const top = Math.floor(i / across) * CELL.height;
        const picture = await sharp(this.deps.projects.preview(project ?? ''))
          .resize(CELL.picture, CELL.picture, { fit: 'contain', background: '#fbf8f1' })
          .png()
          .toBuffer();
        const said = figures
          ? `${figures.stitches} stitches, ${figures.threads} threads, ${Math.round(figures.minutes)} min`
          : '';
        return [
          { input: picture, left: left + (CELL.width - CELL.picture) / 2, top: top + 12 },
          { input: label(name, said), left, top: top + CELL.picture + 14 },
        ];
      }),
    );
    return sharp({
      create: { width: across * CELL.width, height: down * CELL.height, channels: 3, background: '#fbf8f1' },
    })
      .composite(parts.flat())
      .png()
      .toBuffer();
  }
}

/** Two lines of text as a picture; what they say is data, and no markup. */
function label(name: string, said: string): Buffer {
  const plain = (text: string): string =>
    text.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`).replace(/\p{Cc}/gu, ' ');
  const line = (y: number, size: number, colour: string, text: string): string =>
    `<text x="${CELL.width / 2}" y="${y}" font-family="sans-serif" font-size="${size}" fill="${colour}" text-anchor="middle">${plain(text)}</text>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${CELL.width}" height="46">${line(17, 15, '#1f2d2c', name.slice(0, 30))}${line(35, 12, '#6d7672', said)}</svg>`;
  return Buffer.from(svg);
}

/** Name of a project from that of a file. */
function nameOf(file: string): string {
  const plain = file
    .replace(/\.[^.]*$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return plain === '' ? 'Picture' : plain.slice(0, 120);
}

/**
 * A recipe with another picture in the place of its lowest: as large at its longer side, by the same settings. What was said of
 * places on the old picture means nothing on another one.
 */
function withPicture(recipe: Recipe, { width, height }: Pick<StoredPicture, 'width' | 'height'>): Recipe {
  const own = pictureOf(recipe);
  if (!own) return recipe;
  const longest = Math.max(own.picture.widthMm, own.picture.heightMm);
  const side = (pixels: number): number =>
    Math.max(5, Math.round((longest * pixels * 10) / Math.max(width, height)) / 10);
  const place = { ...firstPicture(own.id, width, height).picture, widthMm: side(width), heightMm: side(height) };
  const { dropGround, groundTolerance, groundEverywhere } = own.picture;
  const picture: PictureObject = {
    ...own,
    source: FIRST_PICTURE,
    picture: { ...place, dropGround, groundTolerance, groundEverywhere },
    colours: { ...own.colours, decisions: [] },
    rendering: { ...own.rendering, mix: [], strokes: [], lines: [], grid: null },
  };
  return parseRecipe({
    ...recipe,
    // Lists and other pictures are those of the old design; what the user added stays.
    objects: recipe.objects.flatMap((object): DesignObject[] => {
      if (object.id === own.id) return [picture];
      return 'source' in object ? [] : [object];
    }),
    decisions: [],
    ignored: undefined,
  });
}
