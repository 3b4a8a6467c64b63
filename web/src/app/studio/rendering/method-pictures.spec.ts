import { TestBed } from '@angular/core/testing';
import { RENDER_METHODS, type PictureObject, type Recipe } from '@open-kite/core';
import { expose } from 'comlink';
import { SpareWorkers } from '../../convert/spare-workers';
import { fakeConversion, fakeStore, studioProviders } from '../../test/rig';
import { MethodPictures } from './method-pictures';

/** A worker that converts nothing: it notes the recipes, and gives one byte as the picture of each. */
class FakeWorkers {
  readonly recipes: Recipe[] = [];
  taken = 0;
  ended = 0;
  failing = false;

  take(): Worker {
    this.taken++;
    const { port1, port2 } = new MessageChannel();
    expose(
      {
        setCupboard: () => undefined,
        open: () => undefined,
        convert: (_: number, recipe: Recipe) => {
          if (this.failing) throw new Error('cannot be sewn');
          this.recipes.push(recipe);
        },
        preview: () => ({ png: new Uint8Array([1]), stitches: this.recipes.length * 100 }),
      },
      port2,
    );
    return Object.assign(port1, { terminate: () => void this.ended++ }) as unknown as Worker;
  }
}

describe('MethodPictures', () => {
  let workers: FakeWorkers;
  let store: ReturnType<typeof fakeStore>;
  let pictures: MethodPictures;

  beforeEach(() => {
    workers = new FakeWorkers();
    store = fakeStore();
    TestBed.configureTestingModule({
      providers: [
        ...studioProviders(fakeConversion(), store),
        { provide: SpareWorkers, useValue: workers },
        { provide: MethodPictures, useClass: MethodPictures },
      ],
    });
    pictures = TestBed.inject(MethodPictures);
  });

  it('makes one of every method, alone on the cloth and small, in one worker that is ended', async () => {
    store.changeWhole('more', (recipe) => {
      recipe.budget = 9000;
      const [first] = recipe.objects as unknown as { picture: { widthMm: number; heightMm: number; xMm: number } }[];
      Object.assign(first.picture, { widthMm: 160, heightMm: 120, xMm: 30 });
    });
    expect(pictures.complete()).toBeFalse();
    await pictures.make();
    expect(pictures.complete()).toBeTrue();
    expect(pictures.making()).toBeFalse();
    expect([workers.taken, workers.ended]).toEqual([1, 1]);
    const made = workers.recipes.map(({ objects }) => objects[0] as PictureObject);
    expect(made.map(({ method }) => method).sort()).toEqual(['pieces', ...RENDER_METHODS.map(({ id }) => id)].sort());
    // Pieces of a photograph take longest.
    expect(made.at(-1)?.method).toBe('pieces');
    for (const { picture } of made) {
      expect([picture.widthMm, picture.heightMm, picture.xMm]).toEqual([50, 37.5, 0]);
    }
    for (const { objects, budget, decisions } of workers.recipes) {
      expect([objects.length, budget, decisions.length]).toEqual([1, null, 0]);
    }
    expect(store.view().picture.widthMm).toBe(160);
  });

  it('keeps them while picture, crop, light and cloth stay, and makes them anew when one changes', async () => {
    await pictures.make();
    const first = pictures.list().map(({ url }) => url);
    store.change('method', (view) => (view.method = 'rows'));
    await pictures.make();
    expect(workers.taken).toBe(1);
    expect(pictures.list().map(({ url }) => url)).toEqual(first);
    store.change('light', (view) => (view.light.brightness = 20));
    await pictures.make();
    expect(workers.taken).toBe(2);
    expect(pictures.list().every(({ url }, i) => url !== undefined && url !== first[i])).toBeTrue();
    store.change('cloth', (view) => (view.cloth.hex = '#203040'));
    await pictures.make();
    expect(workers.taken).toBe(3);
  });

  it('tries again after a picture could not be sewn', async () => {
    workers.failing = true;
    await pictures.make();
    expect(pictures.complete()).toBeFalse();
    expect(pictures.making()).toBeFalse();
    expect(workers.ended).toBe(1);
    workers.failing = false;
    await pictures.make();
    expect(pictures.complete()).toBeTrue();
  });

  it('leaves what is under way when the picture changes meanwhile', async () => {
    const early = pictures.make();
    store.change('width', (view) => (view.picture.turn = 90));
    const late = pictures.make();
    await late;
    expect(pictures.complete()).toBeTrue();
    expect(workers.taken).toBe(2);
    expect(workers.ended).toBeGreaterThanOrEqual(2);
    // Every picture is of the one as it is now.
    expect(
      workers.recipes.slice(-5).every(({ objects }) => (objects[0] as PictureObject).picture.turn === 90),
    ).toBeTrue();
    void early;
  });
});
