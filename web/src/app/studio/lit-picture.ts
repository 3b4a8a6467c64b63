import { effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import type { Recipe } from '@open-kite/core';
import { Conversion } from '../convert/conversion';
import { ProjectStore } from '../project/project-store';

/** Pixels of the picture while a slider moves, and once it rests: what half a stage and all of it show. */
const MOVING_PIXELS = 120_000;
const RESTING_PIXELS = 1_000_000;
const REST_MS = 900;

/** The whole picture in the light of the recipe, drawn anew whenever the light changes. */
@Injectable()
export class LitPicture implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);

  readonly bitmap = signal<ImageBitmap | undefined>(undefined);

  constructor() {
    let shown = '';
    effect(() => {
      const recipe = this.store.recipe();
      const hash = this.store.picture()?.hash;
      if (!recipe || !hash) return;
      const key = `${hash} ${JSON.stringify(recipe.light)}`;
      if (key === shown) return;
      shown = key;
      untracked(() => {
        clearTimeout(this.rest);
        void this.draw(recipe, MOVING_PIXELS);
        this.rest = setTimeout(() => void this.draw(recipe, RESTING_PIXELS), REST_MS);
      });
    });
  }

  private rest: ReturnType<typeof setTimeout> | undefined;

  ngOnDestroy(): void {
    clearTimeout(this.rest);
    this.bitmap()?.close();
  }

  private async draw(recipe: Recipe, pixels: number): Promise<void> {
    try {
      const bitmap = await this.conversion.picture(recipe, pixels);
      if (!bitmap) return;
      this.bitmap()?.close();
      this.bitmap.set(bitmap);
      performance.mark('kite-lit');
    } catch {
      // Without the picture there is nothing to compare with; the stitches are shown all the same.
      this.bitmap.set(undefined);
    }
  }
}
