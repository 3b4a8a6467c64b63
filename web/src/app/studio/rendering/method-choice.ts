import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { PIECES_METHOD } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { MethodCards } from './method-cards';
import { MethodPictures } from './method-pictures';

/** How the picture becomes stitches: the choice that decides what the third step holds. */
@Component({
  selector: 'kite-method-choice',
  imports: [MethodCards],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open.isSewn()) {
      <section aria-labelledby="method-title">
        <strong id="method-title">Sew it as</strong>
        <kite-method-cards />
        <p class="hint">{{ now()?.hint }}</p>
      </section>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    section {
      display: grid;
      gap: 6px;
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
  private readonly pictures = inject(MethodPictures);

  protected readonly open = inject(OpenPicture);

  protected readonly now = computed(() => {
    const method = this.store.view()?.method ?? PIECES_METHOD;
    return this.pictures.list().find((item) => item.method === method);
  });
}
