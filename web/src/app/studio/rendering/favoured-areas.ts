import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy } from '@angular/core';
import { boundsOf } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { RenderingActs } from './rendering-acts';

/** What matters most in a photograph: somebody draws round a face, and it counts more than the rest. */
@Component({
  selector: 'kite-favoured-areas',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <strong>What matters most</strong>
      <button type="button" class="link" [attr.aria-pressed]="waits()" (click)="draw()">
        {{ waits() ? 'Stop drawing' : 'Draw round a face' }}
      </button>
    </div>
    <p class="note">
      {{
        waits()
          ? 'Draw round it on the cloth.'
          : areas().length > 0
            ? 'Threads and rows are chosen for what is drawn round before all the rest.'
            : 'Draw round a face, and threads and rows are chosen for it before all the rest.'
      }}
    </p>
    @if (areas().length > 0) {
      <ul class="colours">
        @for (area of areas(); track area.index) {
          <li>
            <span class="grow">{{ area.text }}</span>
            <button
              type="button"
              class="link"
              [attr.aria-label]="'Take back: ' + area.text"
              (click)="acts.forgetLines(area.index)"
            >
              Take back
            </button>
          </li>
        }
      </ul>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
})
export class FavouredAreas implements OnDestroy {
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  protected readonly acts = inject(RenderingActs);
  /** Whether a line that is drawn now becomes such an area. */
  protected readonly waits = computed(() => this.acts.favouring() && this.state.lassoing());

  protected readonly areas = computed(() => {
    const view = this.store.view();
    return (view?.rendering.lines ?? []).flatMap(({ kind, area }, index) => {
      if (kind !== 'favour' || !view) return [];
      const { left, top, right, bottom } = boundsOf([[...area]]);
      const [wide, high] = [(right - left) * view.picture.widthMm, (bottom - top) * view.picture.heightMm];
      return [{ index, text: `An area of ${wide.toFixed(0)} by ${high.toFixed(0)} mm` }];
    });
  });

  protected draw(): void {
    const begins = !this.waits();
    this.acts.favouring.set(begins);
    this.state.lassoing.set(begins);
  }

  ngOnDestroy(): void {
    if (this.waits()) this.state.lassoing.set(false);
    this.acts.favouring.set(false);
  }
}
