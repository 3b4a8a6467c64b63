import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { StepName } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { RenderingActs } from '../rendering/rendering-acts';
import { TidyActs } from '../tidy/tidy-acts';
import { KNOTS, StudioState, type Knot } from '../studio-state';

type KnotState = 'done' | 'running' | 'look';

const LABELS: Readonly<Record<Knot, string>> = {
  picture: 'Picture',
  colours: 'Colours',
  pieces: 'Pieces',
  stitches: 'Stitches',
  tidy: 'Tidy',
  sew: 'Sew',
};

/** Knot under which each step of the conversion happens. */
const KNOT_OF: Readonly<Record<StepName, Knot>> = {
  prepare: 'picture',
  colours: 'colours',
  trace: 'pieces',
  pieces: 'pieces',
  order: 'stitches',
  stitches: 'stitches',
};

const SAID: Readonly<Record<KnotState, string>> = {
  done: 'done',
  running: 'running',
  look: 'needs a look',
};

/** The kite string with its knots: the steps of the work, how each stands, and which one is open. */
@Component({
  selector: 'kite-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Steps">
      <svg viewBox="0 0 600 20" preserveAspectRatio="none" aria-hidden="true">
        <path d="M0 9C60 12 90 4 150 9S250 14 310 8S420 4 480 10S560 12 600 6" />
      </svg>
      <ol>
        @for (knot of knots(); track knot.id) {
          <li>
            <button
              type="button"
              [class]="knot.state"
              [class.open]="state.knot() === knot.id"
              [attr.aria-current]="state.knot() === knot.id ? 'step' : null"
              [attr.aria-label]="knot.label + (knot.count > 0 ? ' ' + knot.count : '') + ', ' + knot.said"
              (click)="state.knot.set(knot.id)"
            >
              <span class="knot" aria-hidden="true"></span>
              <span class="label">{{ knot.label }}</span>
              @if (knot.count > 0) {
                <span class="count"> {{ knot.count }}</span>
              }
            </button>
          </li>
        }
      </ol>
    </nav>
  `,
  styleUrl: './line.scss',
})
export class Line {
  private readonly conversion = inject(Conversion);
  protected readonly state = inject(StudioState);
  private readonly rendering = inject(RenderingActs);

  private readonly tidy = inject(TidyActs);

  /** Findings that each step may show: Tidy all that may fail, Sew what will. */
  private readonly counts = computed((): Partial<Record<Knot, number>> => {
    if (this.conversion.rough()) return {};
    const list = this.tidy.list();
    return {
      tidy: list.filter(({ level }) => level !== 'waste').length,
      sew: list.filter(({ level }) => level === 'problem').length,
    };
  });

  protected readonly knots = computed(() => {
    const working = this.conversion.state() === 'working';
    const running = KNOT_OF[this.conversion.progress().step];
    const counts = this.counts();
    return KNOTS.map((id) => {
      let state: KnotState = 'done';
      const count = counts[id] ?? 0;
      if (working && KNOTS.indexOf(id) >= KNOTS.indexOf(running)) state = 'running';
      else if (count > 0) state = 'look';
      const label = id === 'pieces' ? (this.rendering.method()?.step ?? LABELS[id]) : LABELS[id];
      return { id, label, state, said: SAID[state], count: state === 'look' ? count : 0 };
    });
  });
}
