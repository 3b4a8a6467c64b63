import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Recipe } from '@open-kite/core';
import { Conversion } from '../convert/conversion';
import { ProjectStore } from '../project/project-store';

/** Pixels of the picture on the screen: what half a stage shows at its own resolution. */
const SCREEN_PIXELS = 500_000;

/** The whole picture in the light of the recipe, drawn anew whenever the light changes. */
@Injectable()
export class LitPicture {
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
      untracked(() => void this.draw(recipe));
    });
  }

  private async draw(recipe: Recipe): Promise<void> {
    try {
      const bitmap = await this.conversion.picture(recipe, SCREEN_PIXELS);
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
