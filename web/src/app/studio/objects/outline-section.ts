import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { OutlineObject } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { ObjectActs } from './object-acts';
import { OutlineSettings } from './outline-settings';

/** The outlines of the picture that is worked on: how each is sewn, and a new one. */
@Component({
  selector: 'kite-outline-section',
  imports: [OutlineSettings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <strong>Outline</strong>
      @if (outlines().length === 0) {
        <button type="button" class="link" (click)="add()">Add an outline</button>
      }
    </div>
    @for (outline of outlines(); track outline.id) {
      <kite-outline-settings [outline]="outline" />
      @if (outline.as === 'applique') {
        <p class="note">A placement line, a stop to lay the patch, a tack-down, a stop to trim it, then the cover.</p>
      }
      <button type="button" class="link" (click)="acts.remove([outline.id])">Remove the outline</button>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 9px;
    }
  `,
})
export class OutlineSection {
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(ObjectActs);

  protected readonly outlines = computed(() => {
    const of = this.store.object()?.id;
    return (this.store.recipe()?.objects ?? []).filter(
      (object): object is OutlineObject => object.kind === 'outline' && object.of === of,
    );
  });

  protected add(): void {
    const of = this.store.object()?.id;
    if (of !== undefined) this.acts.addOutline(of);
  }
}
