import { computed, inject, Injectable } from '@angular/core';
import { Conversion } from '../convert/conversion';
import { ProjectStore } from '../project/project-store';

/** What became of the picture that is worked on. */
@Injectable()
export class OpenPicture {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);

  readonly id = computed(() => this.store.object()?.id ?? '');
  /** Whether there is one that is sewn: what is drawn on bare cloth, or over a picture kept for that, is nothing it could trace. */
  readonly isSewn = computed(() => {
    const picture = this.store.object();
    return picture !== undefined && picture.sketch !== true;
  });
  readonly result = computed(() => this.conversion.design()?.pictures.find(({ object }) => object === this.id()));
  /** First of its colours among those of the design. */
  readonly firstColour = computed(() => this.result()?.colours[0] ?? 0);
  readonly colours = computed(() => {
    const [first, count] = this.result()?.colours ?? [0, 0];
    return (this.conversion.design()?.colours ?? []).slice(first, first + count);
  });
}
