import { TestBed } from '@angular/core/testing';
import { defaultRecipe } from '@open-kite/core';
import { of, Subject, throwError, type Observable } from 'rxjs';
import type { Project, Save } from '@open-kite/contract';
import { Api, ApiError } from '../api/api';
import { ProjectStore } from './project-store';

const project: Project = {
  id: 'p',
  name: 'Kite',
  revision: 4,
  recipe: defaultRecipe(100, 100),
  pictures: { 'picture-1': { hash: 'h', width: 100, height: 100, kind: 'raster' } },
  history: [],
  position: 0,
  designKey: null,
};

describe('ProjectStore', () => {
  let store: ProjectStore;
  let saves: Save[];
  let answer: (save: Save) => Observable<{ revision: number }>;

  beforeEach(async () => {
    jasmine.clock().install();
    saves = [];
    answer = (save) => of({ revision: save.revision + 1 });
    const api = {
      project: () => of(project),
      save: (_id: string, save: Save) => {
        saves.push(save);
        return answer(save);
      },
    };
    TestBed.configureTestingModule({ providers: [ProjectStore, { provide: Api, useValue: api }] });
    store = TestBed.inject(ProjectStore);
    await store.open('p');
  });

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
});
