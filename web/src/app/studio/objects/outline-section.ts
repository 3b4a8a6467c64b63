import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { LIMITS, OUTLINE_KINDS, type OutlineObject, type ThreadChoice } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { SliderField } from '../../shared/slider-field';
import { ObjectActs } from './object-acts';

/** The outlines of the picture that is worked on: how each is sewn, and a new one. */
@Component({
  selector: 'kite-outline-section',
  imports: [SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <strong>Outline</strong>
      @if (outlines().length === 0) {
        <button type="button" class="link" (click)="add()">Add an outline</button>
      }
    </div>
    @for (outline of outlines(); track outline.id) {
      <label class="row"
        ><span>Sewn as</span>
        <select (change)="setKind(outline, value($event))">
          @for (kind of kinds; track kind.id) {
            <option [value]="kind.id" [selected]="kind.id === outline.as">{{ kind.name }}</option>
          }
        </select>
      </label>
      @if (isWide(outline)) {
        <kite-slider-field
          label="Width of the outline"
          unit="length"
          [digits]="1"
          [step]="0.1"
          [min]="1"
          [max]="7"
          [limit]="limits.outlineMm[1]"
          [value]="outline.widthMm"
          (changed)="acts.change('width of an outline', outline.id, 'outline', setWidth($event))"
        />
      }
      <kite-slider-field
        label="Offset outwards"
        unit="length"
        [digits]="1"
        [step]="0.1"
        [min]="-5"
        [max]="5"
        [limit]="limits.offsetMm[1]"
        [value]="outline.offsetMm"
        [resting]="0"
        (changed)="acts.change('offset of an outline', outline.id, 'outline', setOffset($event))"
      />
      <label class="row"
        ><span>Thread of the outline</span
        ><input
          type="color"
          [value]="hexOf(outline)"
          (input)="acts.change('thread of an outline', outline.id, 'outline', setHex(value($event)))"
      /></label>
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
  protected readonly kinds = OUTLINE_KINDS;
  protected readonly limits = LIMITS;

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

  protected value(event: Event): string {
    return (event.target as HTMLInputElement | HTMLSelectElement).value;
  }

  protected isWide({ as }: OutlineObject): boolean {
    return as === 'satin' || as === 'zigzag' || as === 'applique';
  }

  protected hexOf({ paint }: OutlineObject): string {
    return 'hex' in paint ? paint.hex : '#22304a';
  }

  protected setKind({ id }: OutlineObject, as: string): void {
    this.acts.change('kind of an outline', id, 'outline', (outline) => (outline.as = as));
  }

  protected readonly setWidth = (mm: number) => (outline: { widthMm: number }) => (outline.widthMm = mm);
  protected readonly setOffset = (mm: number) => (outline: { offsetMm: number }) => (outline.offsetMm = mm);
  protected readonly setHex = (hex: string) => (outline: { paint: ThreadChoice }) => (outline.paint = { hex });
}
