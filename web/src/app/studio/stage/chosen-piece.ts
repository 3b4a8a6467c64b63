import { computed, inject, Injectable } from '@angular/core';
import { Conversion } from '../../convert/conversion';
import { NeedleActs } from '../needle/needle-acts';
import { StudioState } from '../studio-state';
import { StageView } from './stage-view';
import { handlesOf } from './stitch-handles';

/** The one chosen piece while the Stitches step is open: its stitches can be taken hold of. */
@Injectable()
export class ChosenPiece {
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  private readonly view = inject(StageView);
  private readonly needle = inject(NeedleActs);

  readonly index = computed(() => {
    const selected = this.state.selected();
    if (this.state.knot() !== 'stitches' || selected.size !== 1 || this.conversion.rough()) return undefined;
    const [index] = selected;
    return this.conversion.design()?.pieces[index] ? index : undefined;
  });

  readonly piece = computed(() => {
    const index = this.index();
    return index === undefined ? undefined : this.conversion.design()?.pieces[index];
  });

  /** Its handles on the stage, while the sewing is not being played. */
  readonly handles = computed(() => {
    const design = this.conversion.design();
    const index = this.index();
    if (!design || index === undefined || this.state.row() !== undefined || this.needle.on()) return undefined;
    return handlesOf(design, index, this.view.camera(), this.view.size());
  });
}
