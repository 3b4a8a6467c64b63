import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { PIECES_METHOD, RENDER_METHODS } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { RenderingActs } from './rendering-acts';

/** How the picture becomes stitches: the choice that decides what the third step holds. */
@Component({
  selector: 'kite-method-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="row"
      ><strong>Sew it as</strong>
      <select #field (change)="acts.setMethod(field.value)">
        @for (method of methods; track method.id) {
          <option [value]="method.id" [selected]="method.id === now().id">{{ method.name }}</option>
        }
      </select>
    </label>
    <p class="hint">{{ now().hint }}</p>
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 5px;
      padding-bottom: 12px;
    }
    .hint {
      margin: 0;
      color: var(--mute);
      font-size: 12.5px;
    }
  `,
})
export class MethodChoice {
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(RenderingActs);

  protected readonly methods = [
    { id: PIECES_METHOD, name: 'Flat pieces', hint: 'Closed shapes and lines, each sewn as fill, satin or line.' },
    ...RENDER_METHODS.map(({ id, name, hint }) => ({ id, name, hint })),
  ];
  protected readonly now = computed(
    () => this.methods.find(({ id }) => id === this.store.view()?.method) ?? this.methods[0],
  );
}
