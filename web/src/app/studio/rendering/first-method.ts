import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FIRST_METHODS, PIECES_METHOD, RENDER_METHODS, renderMethodOf } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { RenderingActs } from './rendering-acts';

/** Says, until anything is changed, how a photograph became stitches by itself, with the other methods beside it. */
@Component({
  selector: 'kite-first-method',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (said(); as now) {
      <p role="note">
        This picture is a photograph, sewn as <strong>{{ now.name.toLowerCase() }}</strong>. Rather:
        @for (method of others(); track method.id) {
          <button type="button" class="link" (click)="acts.setMethod(method.id)">{{ method.name }}</button>
        }
        <button type="button" class="link done" (click)="read.set(true)">Good so</button>
      </p>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    p {
      margin: 0 0 12px;
      padding: 8px 12px;
      border-radius: 10px;
      background: var(--sailcloth);
      font-size: 13px;
    }
    .link {
      margin-right: 8px;
      font-size: 13px;
    }
    .done {
      color: var(--mute);
    }
  `,
})
export class FirstMethod {
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(RenderingActs);
  protected readonly read = signal(false);

  /** The method a photograph has by itself, while nothing has been changed. */
  protected readonly said = computed(() => {
    const method = this.store.view()?.method;
    if (this.read() || this.store.undoLabel() !== undefined || this.store.redoLabel() !== undefined) return undefined;
    return method === FIRST_METHODS.photograph ? renderMethodOf(method) : undefined;
  });
  protected readonly others = computed(() =>
    [{ id: PIECES_METHOD, name: 'Flat pieces' }, ...RENDER_METHODS].filter(({ id }) => id !== this.said()?.id),
  );
}
