import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import type { Picture } from '@open-kite/contract';
import { parseRecipe, pictureOf, viewOfDesign, type PictureView, type Recipe } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { draftView } from './draft-view';
import { change, redo, undo, type Draft, type Timeline } from './history';
import { Unsent } from './unsent';

/**
 * How the changes stand: kept, on their way; waiting for a server that is not reached (`offline`) or in trouble
 * (`trouble`), which are tried again; or refused for good: another save came first, the project is off the shelf, or
 * the server does not take them.
 */
export type SaveState = 'saved' | 'saving' | 'offline' | 'trouble' | 'conflict' | 'gone' | 'refused';

/** States that end only when somebody does something. */
export const STUCK: ReadonlySet<SaveState> = new Set<SaveState>(['conflict', 'gone', 'refused']);

const SAVE_AFTER_MS = 500;
const RETRY_AFTER_MS = 3000;
const LONGEST_RETRY_MS = 60_000;
/** Changes that one save carries at most; of more, the oldest can no longer be undone. */
const MOST_ENTRIES = 1000;
/** Changes of the same setting within this time are one step of undo. */
const GESTURE_MS = 900;

/** The open project: recipe, undo, and saving by itself. */
@Injectable()
export class ProjectStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly line = signal<Timeline | undefined>(undefined);
  private readonly latestName = signal('');
  private id = '';
  private revision = 0;
  /** Older entries of the history that the server did not hand out. */
  private base = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private dirty = false;
  private lastChange = 0;
  private readonly unsent = inject(Unsent);
  private retryMs = RETRY_AFTER_MS;

  /** Changes from before the page was closed were brought back. */
  readonly broughtBack = signal(false);

  /** The project's pictures, by their names in the recipe. */
  readonly pictures = signal<Readonly<Record<string, Picture>>>({});
  /** The project as it was opened: its id, and the key of the finished design that is stored with it. */
  readonly stored = signal<{ readonly id: string; readonly designKey: string | null } | undefined>(undefined);
  /** Picture that is worked on, by its id; the lowest while none is named. */
  readonly openPicture = signal<string | undefined>(undefined);
  readonly saveState = signal<SaveState>('saved');
  readonly problem = signal('');
  readonly name = this.latestName.asReadonly();
  readonly recipe = computed(() => this.line()?.recipe);
  /** The picture that is worked on, as the recipe has it. */
  readonly object = computed(() => {
    const recipe = this.recipe();
    return recipe && pictureOf(recipe, this.openPicture());
  });
  /** The recipe as the picture that is worked on sees it. */
  readonly view = computed((): PictureView | undefined => {
    const recipe = this.recipe();
    return recipe && viewOfDesign(recipe, this.openPicture());
  });
  /** What the picture that is worked on shows. */
  readonly picture = computed(() => this.pictures()[this.object()?.source ?? '']);
  readonly undoLabel = computed(() => {
    const line = this.line();
    return line && line.position > 0 ? line.entries[line.position - 1].label : undefined;
  });
  readonly redoLabel = computed(() => {
    const line = this.line();
    return line && line.position < line.entries.length ? line.entries[line.position].label : undefined;
  });

  /** Opens a project. @throws ApiError, or RangeError for a recipe that is none */
  async open(id: string): Promise<void> {
    const project = await firstValueFrom(this.api.project(id));
    this.id = id;
    this.revision = project.revision;
    this.base = project.base;
    this.dirty = false;
    this.latestName.set(project.name);
    const { history, position, pictures, designKey } = project;
    const recipe = parseRecipe(project.recipe);
    this.pictures.set(pictures);
    this.stored.set({ id, designKey });
    this.line.set({ recipe, entries: history, position, shared: history.length });
    this.saveState.set('saved');
    this.broughtBack.set(false);
    await this.bringBack(id);
  }

  /** Takes up changes that the server never got; where it has others since, which to keep is asked. */
  private async bringBack(id: string): Promise<void> {
    const changes = await this.unsent.find(id);
    if (!changes || this.id !== id || this.dirty) return;
    let recipe: Recipe;
    try {
      recipe = parseRecipe(changes.recipe);
    } catch {
      await this.unsent.drop(id);
      return;
    }
    const { entries, position, shared, name, revision, base } = changes;
    if (revision === this.revision) this.base = base;
    this.line.set({ recipe, entries, position, shared });
    this.latestName.set(name);
    this.dirty = true;
    this.broughtBack.set(true);
    if (revision === this.revision) this.saveSoon(0);
    else this.saveState.set('conflict');
  }

  /**
   * Changes the recipe as the picture that is worked on sees it; quick repeats under the same label become one step of
   * undo, unless each stands by itself.
   */
  change(label: string, edit: (view: Draft<PictureView>) => void, alone = false): void {
    const picture = this.object()?.id;
    this.changeWhole(label, (recipe) => edit(draftView(recipe, picture)), alone);
  }

  /** Gives the project another picture, under a name that its recipe does not have yet. */
  addPicture(picture: Picture): string {
    let n = 1;
    while (Object.hasOwn(this.pictures(), `picture-${n}`)) n++;
    const source = `picture-${n}`;
    this.pictures.update((pictures) => ({ ...pictures, [source]: picture }));
    return source;
  }

  /** Changes the recipe as a whole. */
  changeWhole(label: string, edit: (recipe: Draft<Recipe>) => void, alone = false): void {
    const now = performance.now();
    const joined = !alone && now - this.lastChange < GESTURE_MS;
    this.lastChange = now;
    this.advance((line) => change(line, label, edit, joined));
  }

  undo(): void {
    this.lastChange = 0;
    this.advance(undo);
  }

  redo(): void {
    this.lastChange = 0;
    this.advance(redo);
  }

  rename(name: string): void {
    const trimmed = name.trim().slice(0, 120);
    if (trimmed === '' || trimmed === this.latestName()) return;
    this.latestName.set(trimmed);
    this.saveSoon(SAVE_AFTER_MS);
  }

  /** In a conflict: gives up the changes made here. */
  async takeTheirs(): Promise<void> {
    this.dirty = false;
    await this.unsent.drop(this.id);
    await this.open(this.id);
  }

  /** In a conflict: writes what is here over what was saved elsewhere. */
  async keepMine(): Promise<void> {
    await this.saveAfter(async () => {
      const { revision, base } = await firstValueFrom(this.api.project(this.id));
      this.revision = revision;
      this.base = base;
      this.line.update((line) => line && { ...line, shared: 0 });
    });
  }

  /** Of a project that was taken off the shelf: puts it back, and keeps the changes there. */
  async putBack(): Promise<void> {
    await this.saveAfter(() => firstValueFrom(this.api.restore(this.id)));
  }

  /** Tries once more to save, whatever the server said before. */
  async tryAgain(): Promise<void> {
    await this.saveAfter(() => Promise.resolve());
  }

  /** Saves once something else has been done, if that goes well. */
  private async saveAfter(first: () => Promise<void>): Promise<void> {
    try {
      await first();
    } catch (error) {
      this.failed(error);
      return;
    }
    this.saveState.set('saving');
    await this.save();
  }

  private closed = false;

  ngOnDestroy(): void {
    this.closed = true;
    clearTimeout(this.timer);
    if (this.dirty && !STUCK.has(this.saveState())) void this.save();
  }

  private advance(step: (line: Timeline) => Timeline): void {
    const before = this.line();
    if (!before) return;
    const after = step(before);
    if (after === before) return;
    this.line.set(after);
    this.saveSoon(SAVE_AFTER_MS);
  }

  private saveSoon(after: number): void {
    this.dirty = true;
    const state = this.saveState();
    // What was refused may be taken once it is another; a conflict stays one.
    const waits = state === 'conflict' || state === 'gone';
    if (!waits) this.saveState.set(state === 'offline' || state === 'trouble' ? state : 'saving');
    clearTimeout(this.timer);
    // What could not be kept on leaving waits in the browser.
    if (!this.closed) this.timer = setTimeout(() => (waits ? this.keepHere() : void this.save()), after);
  }

  private saving: Promise<void> | undefined;

  /** Saves one state at a time; a change made meanwhile is saved after it. */
  private async save(): Promise<void> {
    if (this.saving) {
      await this.saving;
      if (!this.dirty) return;
    }
    this.saving = this.saveNow().finally(() => (this.saving = undefined));
    await this.saving;
  }

  private async saveNow(): Promise<void> {
    this.line.update((line) => line && shortened(line));
    const line = this.line();
    if (!line) return;
    this.keepHere();
    this.dirty = false;
    try {
      const { revision } = await firstValueFrom(
        this.api.save(this.id, {
          revision: this.revision,
          name: this.latestName(),
          recipe: line.recipe,
          pictures: Object.fromEntries(Object.entries(this.pictures()).map(([source, { hash }]) => [source, hash])),
          base: this.base,
          keep: line.shared,
          entries: line.entries.slice(line.shared),
          position: line.position,
        }),
      );
      this.revision = revision;
      // Entries changed while the save was under way are no longer what the server holds.
      this.line.update((now) => {
        if (!now) return now;
        let shared = 0;
        while (shared < now.entries.length && now.entries[shared] === line.entries[shared]) shared++;
        return { ...now, shared };
      });
      this.retryMs = RETRY_AFTER_MS;
      if (this.dirty) return;
      this.saveState.set('saved');
      void this.unsent.drop(this.id);
    } catch (error) {
      this.failed(error);
    }
  }

  /** Each answer has its own way out; only what may pass by itself is tried again. */
  private failed(error: unknown): void {
    this.dirty = true;
    this.problem.set(error instanceof Error ? error.message : String(error));
    const status = error instanceof ApiError ? error.status : 500;
    if (status === 409) this.saveState.set('conflict');
    else if (status === 404) this.saveState.set('gone');
    else if (status >= 400 && status < 500 && status !== 429) this.saveState.set('refused');
    else {
      this.saveState.set(status === 0 ? 'offline' : 'trouble');
      this.saveSoon(this.retryMs);
      this.retryMs = Math.min(LONGEST_RETRY_MS, this.retryMs * 2);
    }
  }

  private keepHere(): void {
    const line = this.line();
    if (!line) return;
    const { recipe, entries, position, shared } = line;
    void this.unsent.keep(this.id, {
      base: this.base,
      revision: this.revision,
      name: this.latestName(),
      recipe,
      entries,
      position,
      shared,
    });
  }
}

/** A timeline whose unsent changes fit one save: around what is in force, the oldest go first. */
function shortened(line: Timeline): Timeline {
  if (line.entries.length - line.shared <= MOST_ENTRIES) return line;
  const cut = Math.min(line.entries.length - MOST_ENTRIES, line.position);
  return {
    ...line,
    entries: line.entries.slice(cut, cut + MOST_ENTRIES),
    position: line.position - cut,
    shared: 0,
  };
}
