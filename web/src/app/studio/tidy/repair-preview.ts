import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { isIgnored, repaired, type Repair } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Tried } from '../../convert/convert-protocol';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { countedOf, TidyActs, type Counted } from './tidy-acts';

/** A finding that is only passed by is not tried. */
const REST_MS = 60;
const BLINK_MS = 700;

/** A repair as it would be: its stitches, and what would be counted then. */
interface Preview {
  readonly repair: Repair;
  /** Undefined while it is being tried. */
  readonly made?: Tried;
  readonly after?: Counted;
}

/** Tries the repair of the finding that is looked at, and shows it on the cloth in turns with what is there. */
@Injectable()
export class RepairPreview {
  private readonly acts = inject(TidyActs);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);

  /** Which of several repairs is tried, by its name; else the first. */
  private readonly wanted = signal<string | undefined>(undefined);
  readonly preview = signal<Preview | undefined>(undefined);
  /** Whether the cloth shows it repaired. */
  readonly isShown = computed(() => {
    const design = this.preview()?.made?.design;
    return design !== undefined && this.conversion.shownInstead() === design;
  });
  readonly blinking = signal(false);
  /** Number of what is looked at: what was tried for an older one is of no use. */
  private job = 0;

  constructor() {
    effect((onCleanup) => {
      const finding = this.acts.current();
      const wanted = this.wanted();
      const state = this.conversion.state();
      const ready = this.state.knot() === 'tidy' && !this.acts.underWay() && state === 'done';
      // A repair that was just taken stays on the cloth until its stitches are there.
      untracked(() => this.forget(state === 'working'));
      const repair = finding?.repairs.find(({ id }) => id === wanted) ?? finding?.repairs.at(0);
      if (!finding || !repair || !ready) return;
      this.preview.set({ repair });
      const timer = setTimeout(() => void this.make(repair), REST_MS);
      onCleanup(() => clearTimeout(timer));
    });
    effect((onCleanup) => {
      if (!this.blinking()) return;
      const timer = setInterval(() => this.show(!untracked(this.isShown)), BLINK_MS);
      onCleanup(() => clearInterval(timer));
    });
    inject(DestroyRef).onDestroy(() => this.forget());
  }

  /** Another repair of the same finding is looked at. */
  look(repair: Repair): void {
    this.wanted.set(repair.id);
  }

  /** Shows the cloth as it is, or repaired. */
  show(isRepaired: boolean): void {
    this.conversion.shownInstead.set(isRepaired ? this.preview()?.made?.design : undefined);
  }

  private forget(isShownOn = false): void {
    this.job++;
    this.blinking.set(false);
    this.preview.set(undefined);
    if (!isShownOn) this.conversion.shownInstead.set(undefined);
  }

  private async make(repair: Repair): Promise<void> {
    const recipe = this.store.recipe();
    if (!recipe) return;
    const { job } = this;
    const after = repaired(recipe, repair);
    const made = await this.conversion.tryOut(after).catch(() => undefined);
    // The same finding may have been left and come back to meanwhile: that try is another one.
    if (job !== this.job) return;
    // What cannot be tried just now can still be carried out.
    if (!made) {
      this.preview.set(undefined);
      return;
    }
    const told = made.findings.filter((each) => !isIgnored(each, after));
    this.preview.set({ repair, made, after: countedOf(made.measures.figures, told.length) });
  }
}
