import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { PIECES_METHOD, RENDER_METHODS, type Recipe } from '@open-kite/core';
import { proxy } from 'comlink';
import { produce } from 'immer';
import { readyHand, takeHand } from '../../convert/convert-hand';
import { SpareWorkers } from '../../convert/spare-workers';
import { Cupboard } from '../../cupboard/cupboard';
import { ProjectStore } from '../../project/project-store';

/** The picture of a project as one method would sew it. */
export interface MethodPicture {
  readonly method: string;
  readonly name: string;
  readonly hint: string;
  /** Address of a small picture; undefined while it is not there. */
  readonly url?: string;
  readonly stitches?: number;
}

const METHODS = [
  { id: PIECES_METHOD, name: 'Flat pieces', hint: 'Closed shapes and lines, each sewn as fill, satin or line.' },
  ...RENDER_METHODS,
].map(({ id, name, hint }): MethodPicture => ({ method: id, name, hint }));

/** Small ones are made soon, and show what matters: longest side in mm. */
const LONGEST_MM = 50;

/** The open picture as every method would sew it, made one after the other in a worker of its own. */
@Injectable()
export class MethodPictures implements OnDestroy {
  private readonly store = inject(ProjectStore);
  private readonly cupboard = inject(Cupboard);
  private readonly workers = inject(SpareWorkers);
  private readonly made = signal<readonly MethodPicture[]>(METHODS);
  private thread: Worker | undefined;
  private key = '';
  private job = 0;

  readonly list = this.made.asReadonly();
  readonly making = signal(false);
  /** Whether there is a picture of every method, as the picture is now. */
  readonly complete = computed(() => this.made().every(({ url }) => url !== undefined));

  /** Makes those that are not there; what was made of another picture, crop, light or cloth is made anew. */
  async make(): Promise<void> {
    const recipe = this.store.recipe();
    const object = this.store.object();
    if (!recipe || !object) return;
    const key = JSON.stringify([object.source, object.picture, object.light, recipe.cloth]);
    if (key === this.key) return;
    this.stop();
    this.key = key;
    this.forget();
    const hand = takeHand(this.workers);
    const { thread, worker } = hand;
    this.thread = thread;
    this.making.set(true);
    try {
      await readyHand(hand, this.cupboard, this.store.pictures());
      // Traced pieces of a photograph take longest.
      for (const { method } of METHODS.toReversed()) {
        const alone = aloneBy(recipe, object.id, method);
        await worker.convert(
          ++this.job,
          alone,
          'full',
          0,
          proxy(() => undefined),
        );
        const preview = await worker.preview();
        if (thread !== this.thread) return;
        this.put(method, preview?.png, preview?.stitches);
      }
    } catch {
      // A picture that cannot be sewn has no small pictures either: the conversion itself says why.
      if (thread === this.thread) this.key = '';
    } finally {
      thread.terminate();
      if (thread === this.thread) {
        this.thread = undefined;
        this.making.set(false);
      }
    }
  }

  private put(method: string, png: Uint8Array<ArrayBuffer> | undefined, stitches: number | undefined): void {
    const url = png && URL.createObjectURL(new Blob([png], { type: 'image/png' }));
    this.made.update((list) => list.map((item) => (item.method === method ? { ...item, url, stitches } : item)));
  }

  private stop(): void {
    this.thread?.terminate();
    this.thread = undefined;
    this.making.set(false);
  }

  private forget(): void {
    for (const { url } of this.made()) if (url) URL.revokeObjectURL(url);
    this.made.set(METHODS);
  }

  ngOnDestroy(): void {
    this.stop();
    this.forget();
  }
}

/** A recipe of one picture alone, small, sewn by a method. */
function aloneBy(recipe: Recipe, id: string, method: string): Recipe {
  return produce(recipe, (draft) => {
    draft.objects = draft.objects.filter((object) => object.id === id);
    draft.decisions = [];
    draft.budget = null;
    const [object] = draft.objects;
    if (object.kind !== 'picture') return;
    object.method = method;
    object.on = null;
    object.hidden = false;
    delete object.sketch;
    const { picture } = object;
    const factor = Math.min(1, LONGEST_MM / Math.max(picture.widthMm, picture.heightMm));
    picture.widthMm *= factor;
    picture.heightMm *= factor;
    picture.xMm = 0;
    picture.yMm = 0;
  });
}
