import { TestBed } from '@angular/core/testing';
import { defaultRecipe } from '@open-kite/core';
import { of, Subject, throwError, type Observable } from 'rxjs';
import type { Project, Save } from '@open-kite/contract';
import { Api, ApiError } from '../api/api';
import { ProjectStore } from './project-store';
import { Unsent, type UnsentChanges } from './unsent';

const project: Project = {
  id: 'p',
  name: 'Kite',
  revision: 4,
  recipe: defaultRecipe(100, 100),
  pictures: { 'picture-1': { hash: 'h', width: 100, height: 100, kind: 'raster' } },
  history: [],
  position: 0,
  base: 0,
  designKey: null,
};

describe('ProjectStore', () => {
  let store: ProjectStore;
  let saves: Save[];
  let answer: (save: Save) => Observable<{ revision: number }>;

  let restored: number;
  let unsent: Map<string, UnsentChanges>;

  beforeEach(async () => {
    jasmine.clock().install();
    saves = [];
    restored = 0;
    unsent = new Map();
    answer = (save) => of({ revision: save.revision + 1 });
    await begin();
  });

  async function begin(): Promise<void> {
    const api = {
      project: () => of(project),
      restore: () => of(void restored++),
      save: (_id: string, save: Save) => {
        saves.push(save);
        return answer(save);
      },
    };
    const kept = {
      keep: async (id: string, changes: UnsentChanges) => void unsent.set(id, changes),
      drop: async (id: string) => void unsent.delete(id),
      find: async (id: string) => unsent.get(id),
    };
    const providers = [ProjectStore, { provide: Api, useValue: api }, { provide: Unsent, useValue: kept }];
    TestBed.configureTestingModule({ providers });
    store = TestBed.inject(ProjectStore);
    await store.open('p');
  }

  afterEach(() => jasmine.clock().uninstall());

  const pass = async (ms: number): Promise<void> => {
    jasmine.clock().tick(ms);
    for (let i = 0; i < 8; i++) await Promise.resolve();
  };

  it('saves a little after a change, once', async () => {
    store.change('row angle', (r) => (r.stitches.angle = 50));
    store.change('row spacing', (r) => (r.stitches.spacingMm = 0.5));
    expect(store.saveState()).toBe('saving');
    await pass(600);
    expect(saves.length).toBe(1);
    expect(saves[0].revision).toBe(4);
    expect(saves[0].entries.map((e) => e.label)).toEqual(['row angle', 'row spacing']);
    expect(store.saveState()).toBe('saved');
  });

  it('sends only what the server does not hold yet', async () => {
    store.change('row angle', (r) => (r.stitches.angle = 50));
    await pass(600);
    store.undo();
    await pass(600);
    expect(saves[1]).toEqual(jasmine.objectContaining({ revision: 5, keep: 1, entries: [], position: 0 }));
    expect(store.undoLabel()).toBeUndefined();
    expect(store.redoLabel()).toBe('row angle');
  });

  it('saves again what was changed while a save was under way', async () => {
    const slow = new Subject<{ revision: number }>();
    answer = () => slow;
    store.change('row angle', (r) => (r.stitches.angle = 50));
    await pass(600);
    store.change('row spacing', (r) => (r.stitches.spacingMm = 0.6));
    await pass(600);
    expect(saves.length).toBe(1);
    answer = (save) => of({ revision: save.revision + 1 });
    slow.next({ revision: 5 });
    slow.complete();
    await pass(0);
    expect(saves.length).toBe(2);
    expect(saves[1].revision).toBe(5);
    expect(saves[1].recipe.stitches.spacingMm).toBe(0.6);
    expect(store.saveState()).toBe('saved');
  });

  it('stops at a conflict and keeps the change', async () => {
    answer = () => throwError(() => new ApiError(409, 'changed elsewhere'));
    store.change('row angle', (r) => (r.stitches.angle = 50));
    await pass(600);
    expect(store.saveState()).toBe('conflict');
    expect(store.recipe()?.stitches.angle).toBe(50);
    answer = (save) => of({ revision: save.revision + 1 });
    await store.keepMine();
    expect(saves.at(-1)).toEqual(jasmine.objectContaining({ revision: 4, keep: 0 }));
    expect(store.saveState()).toBe('saved');
  });

  it('tries again by itself when the server was away', async () => {
    answer = () => throwError(() => new ApiError(0, 'the server cannot be reached'));
    store.change('row angle', (r) => (r.stitches.angle = 50));
    await pass(600);
    expect(store.saveState()).toBe('offline');
    answer = (save) => of({ revision: save.revision + 1 });
    await pass(3100);
    expect(store.saveState()).toBe('saved');
    expect(saves.at(-1)?.recipe.stitches.angle).toBe(50);
  });

  it('renames, but never to nothing', async () => {
    store.rename('   ');
    expect(store.name()).toBe('Kite');
    store.rename(' Harbour ');
    await pass(600);
    expect(saves[0].name).toBe('Harbour');
  });

  describe('when the server does not take a save', () => {
    const refuse = (status: number, message: string): void => {
      answer = () => throwError(() => new ApiError(status, message));
    };
    const change = async (angle: number): Promise<void> => {
      store.change(`angle ${angle}`, (r) => (r.stitches.angle = angle), true);
      await pass(600);
    };

    it('says what it said, and waits for another change', async () => {
      refuse(400, 'a change has no "x"');
      await change(50);
      expect([store.saveState(), store.problem()]).toEqual(['refused', 'a change has no "x"']);
      await pass(60_000);
      expect(saves.length).toBe(1);
      answer = (save) => of({ revision: save.revision + 1 });
      store.undo();
      await pass(600);
      expect(store.saveState()).toBe('saved');
    });

    it('tries again by itself where that may pass, less and less often', async () => {
      refuse(500, 'something went wrong');
      await change(50);
      expect([store.saveState(), store.problem()]).toEqual(['trouble', 'something went wrong']);
      await pass(3100);
      expect(saves.length).toBe(2);
      await pass(3100);
      expect(saves.length).toBe(2);
      await pass(3100);
      expect(saves.length).toBe(3);
      refuse(0, 'the server cannot be reached');
      await store.tryAgain();
      expect(store.saveState()).toBe('offline');
    });

    it('puts a project back that was taken off the shelf', async () => {
      refuse(404, 'there is no project p');
      await change(50);
      expect(store.saveState()).toBe('gone');
      await change(60);
      expect(saves.length).toBe(1);
      answer = (save) => of({ revision: save.revision + 1 });
      await store.putBack();
      expect(restored).toBe(1);
      expect(store.saveState()).toBe('saved');
    });

    it('keeps its own after a conflict, however long its history is', async () => {
      for (let i = 0; i < 1500; i++) store.change(`step ${i}`, (r) => (r.stitches.angle = i % 90), true);
      refuse(409, 'changed elsewhere');
      await pass(600);
      expect(store.saveState()).toBe('conflict');
      answer = (save) => of({ revision: save.revision + 1 });
      await store.keepMine();
      const last = saves[saves.length - 1];
      expect([last.keep, last.entries.length, last.position]).toEqual([0, 1000, 1000]);
      expect(last.entries[999].label).toBe('step 1499');
      expect(store.saveState()).toBe('saved');
    });

    it('keeps what was undone around what is in force', async () => {
      for (let i = 0; i < 1500; i++) store.change(`step ${i}`, (r) => (r.stitches.angle = i % 90), true);
      for (let i = 0; i < 1400; i++) store.undo();
      await pass(600);
      const [{ keep, entries, position }] = saves;
      expect([keep, entries.length, position, entries[0].label]).toEqual([0, 1000, 0, 'step 100']);
      expect(store.redoLabel()).toBe('step 100');
    });
  });

  describe('changes that were never kept', () => {
    const closedWith = async (revision: number): Promise<void> => {
      answer = () => throwError(() => new ApiError(0, 'the server cannot be reached'));
      store.change('row angle', (r) => (r.stitches.angle = 33));
      await pass(600);
      const kept = unsent.get('p');
      if (!kept) throw new Error('nothing was kept');
      unsent.set('p', { ...kept, revision });
      TestBed.resetTestingModule();
      await pass(0);
      saves = [];
      answer = (save) => of({ revision: save.revision + 1 });
      unsent.set('p', { ...kept, revision });
      await begin();
    };

    it('are there again when the project is opened', async () => {
      await closedWith(4);
      expect([store.recipe()?.stitches.angle, store.broughtBack(), store.undoLabel()]).toEqual([33, true, 'row angle']);
      await pass(10);
      expect(saves.length).toBe(1);
      expect(store.saveState()).toBe('saved');
      expect(unsent.size).toBe(0);
    });

    it('are asked about where the project has others by now', async () => {
      await closedWith(3);
      expect([store.recipe()?.stitches.angle, store.saveState()]).toEqual([33, 'conflict']);
      await store.takeTheirs();
      expect(store.recipe()?.stitches.angle).not.toBe(33);
      expect([store.saveState(), unsent.size]).toEqual(['saved', 0]);
    });
  });
});
