import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import type { Recipe } from '@open-kite/core';
import { proxy } from 'comlink';
import { readyHand, takeHand, type ConvertHand } from '../../convert/convert-hand';
import { SpareWorkers } from '../../convert/spare-workers';
import { Cupboard } from '../../cupboard/cupboard';
import { ProjectStore } from '../../project/project-store';

/** One variant on the board. */
export interface TryOut {
  readonly id: number;
  readonly recipe: Recipe;
  /** What it differs in, in words. */
  readonly label: string;
  readonly state: 'waiting' | 'working' | 'done' | 'failed';
  readonly share: number;
  readonly picture?: string;
  readonly stitches?: number;
  readonly minutes?: number;
  readonly threadChanges?: number;
  readonly deltaE?: number;
  readonly ssim?: number;
  readonly problem?: string;
}

/** Try-outs made at once; the machine has few cores, and the page wants one. */
const HANDS = 2;

/** Makes variants of a project side by side, in workers of their own. */
@Injectable()
export class TryOutRunner implements OnDestroy {
  private readonly store = inject(ProjectStore);
  private readonly cupboard = inject(Cupboard);
  private readonly workers = inject(SpareWorkers);
  private hands: ConvertHand[] = [];
  private run = 0;
  private count = 0;

  readonly list = signal<readonly TryOut[]>([]);

  /** Makes variants; those made before are thrown away. */
  async start(variants: readonly { readonly recipe: Recipe; readonly label: string }[]): Promise<void> {
    this.stop();
    this.forget();
    const run = ++this.run;
    this.list.set(
      variants.map(({ recipe, label }) => ({ id: ++this.count, recipe, label, state: 'waiting', share: 0 })),
    );
    const pictures = this.store.pictures();
    const waiting = this.list().map(({ id }) => id);
    await Promise.all(
      Array.from({ length: Math.min(HANDS, variants.length) }, async () => {
        const hand = takeHand(this.workers);
        this.hands.push(hand);
        await readyHand(hand, this.cupboard, pictures);
        for (let id = waiting.shift(); id !== undefined && run === this.run; id = waiting.shift()) {
          await this.make(hand, id, run);
        }
        hand.thread.terminate();
        this.hands = this.hands.filter((other) => other !== hand);
      }),
    );
  }

  private async make({ worker }: ConvertHand, id: number, run: number): Promise<void> {
    const item = this.list().find((other) => other.id === id);
    if (!item) return;
    this.change(id, { state: 'working' });
    try {
      const listen = proxy((_: unknown, share: number) => {
        if (run === this.run) this.change(id, { share });
      });
      await worker.convert(id, item.recipe, 'full', 0, listen);
      const preview = await worker.preview();
      if (run !== this.run) return;
      this.change(id, {
        state: 'done',
        picture: preview && URL.createObjectURL(new Blob([preview.png], { type: 'image/png' })),
        stitches: preview?.stitches,
        minutes: preview?.minutes,
        threadChanges: preview?.threadChanges,
      });
      const likeness = await worker.likeness();
      if (run === this.run && likeness) this.change(id, { deltaE: likeness.deltaE, ssim: likeness.ssim });
    } catch (error) {
      if (run === this.run) this.change(id, { state: 'failed', problem: (error as Error).message });
    }
  }

  /** Stops what is being made; what is done stays. */
  stop(): void {
    this.run++;
    for (const { thread } of this.hands) thread.terminate();
    this.hands = [];
    this.list.update((list) => list.filter(({ state }) => state === 'done' || state === 'failed'));
  }

  throwAway(id: number): void {
    const item = this.list().find((other) => other.id === id);
    if (item?.picture) URL.revokeObjectURL(item.picture);
    this.list.update((list) => list.filter((other) => other.id !== id));
  }

  private forget(): void {
    for (const { picture } of this.list()) if (picture) URL.revokeObjectURL(picture);
    this.list.set([]);
  }

  private change(id: number, part: Partial<TryOut>): void {
    this.list.update((list) => list.map((item) => (item.id === id ? { ...item, ...part } : item)));
  }

  ngOnDestroy(): void {
    this.stop();
    this.forget();
  }
}
