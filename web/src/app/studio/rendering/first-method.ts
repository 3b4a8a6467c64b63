import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FIRST_METHODS, renderMethodOf } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';
import { MethodCards } from './method-cards';

/** Says, until anything is changed, how a photograph became stitches by itself, with the other methods beside it. */
@Component({
  selector: 'kite-first-method',
  imports: [MethodCards],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (said(); as now) {
      <section role="note" aria-label="How this photograph is sewn">
        <p>
          This picture is a photograph, sewn as <strong>{{ now.name.toLowerCase() }}</strong>.
          {{ isBeside() ? 'It can be sewn otherwise:' : 'The other methods are below.' }}
        </p>
        @if (isBeside()) {
          <kite-method-cards />
        }
        <button type="button" class="link done" (click)="read.set(true)">Good so</button>
      </section>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    section {
      display: grid;
      gap: 8px;
      margin: 0 0 12px;
      padding: 8px 12px;
      border-radius: 10px;
      background: var(--sailcloth);
      font-size: 13px;
    }
    p {
      margin: 0;
    }
    .done {
      justify-self: start;
      color: var(--mute);
    }
  `,
})
export class FirstMethod {
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  protected readonly read = signal(false);

  /** The method a photograph has by itself, while nothing has been changed. */
  protected readonly said = computed(() => {
    const method = this.store.view()?.method;
    if (this.read() || this.store.undoLabel() !== undefined || this.store.redoLabel() !== undefined) return undefined;
    return method === FIRST_METHODS.photograph ? renderMethodOf(method) : undefined;
  });
  /** The third step has the methods by itself. */
  protected readonly isBeside = computed(() => this.state.knot() !== 'pieces');
}
