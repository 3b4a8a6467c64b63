import { effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import type { PictureView } from '@open-kite/core';
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
      const view = this.store.view();
      const picture = this.store.picture();
      if (!view || !picture) return;
      const key = `${picture.hash} ${JSON.stringify(view.light)}`;
      if (key === shown) return;
      shown = key;
      untracked(() => {
        clearTimeout(this.rest);
        this.conversion.showPicture(picture);
        void this.draw(view, MOVING_PIXELS);
        this.rest = setTimeout(() => void this.draw(view, RESTING_PIXELS), REST_MS);
      });
    });
  }

  private rest: ReturnType<typeof setTimeout> | undefined;

  ngOnDestroy(): void {
    clearTimeout(this.rest);
    this.bitmap()?.close();
  }

  private async draw(view: PictureView, pixels: number): Promise<void> {
    try {
      const bitmap = await this.conversion.picture(view, pixels);
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
