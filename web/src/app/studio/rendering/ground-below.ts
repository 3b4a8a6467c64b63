import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { colourBelow, fillBelow, groundBelow, type DesignObject, type NamedThread } from '@open-kite/core';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { removeObjects } from '../objects/object-acts';
import { StudioState } from '../studio-state';
import { Conversion } from '../../convert/conversion';
import { freshShapeId } from '../../shared/fresh-name';
import { ThreadPicker } from './thread-picker';

/** A fill of its own colour below a rendering: laid by one touch, given another thread or a gradient, and taken away. */
@Component({
  selector: 'kite-ground-below',
  imports: [ThreadPicker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ground(); as fill) {
      <div class="row">
        <strong>Fill below</strong>
        <button type="button" class="link" (click)="remove(fill.id)">Remove</button>
      </div>
      <kite-thread-picker [hex]="hex()" [name]="'Fill below'" (chosen)="paint(fill.id, $event)" />
      <button type="button" class="link" (click)="open(fill.id)">Its stitches, or a gradient</button>
      <p class="note">Sewn first. What lies over it counts its colour instead of the cloth’s.</p>
    } @else if (offered()) {
      <div class="row">
        <strong>Fill below</strong>
        <button type="button" class="link" (click)="lay()">Lay one</button>
      </div>
      <p class="note">A plain fill or a gradient, in a colour of its own, that shows between the rows.</p>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
})
export class GroundBelow {
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly picture = inject(OpenPicture);
  private readonly conversion = inject(Conversion);

  /** Whether one may be laid; one that is there is always shown. */
  readonly offered = input(true);

  protected readonly ground = computed(() => {
    const [recipe, object] = [this.store.recipe(), this.store.object()];
    return recipe && object && groundBelow(recipe.objects, object);
  });
  /** Colour it is sewn in; while its stitches are still being made, the one it was given. */
  protected readonly hex = computed(() => {
    const fill = this.ground();
    const design = this.conversion.design();
    const sewn = design?.pieces.find(({ object }) => object === fill?.id);
    if (fill && 'hex' in fill.paint) return fill.paint.hex;
    return (sewn && design?.threads[sewn.thread]?.hex) ?? '#000000';
  });

  protected lay(): void {
    const [recipe, object] = [this.store.recipe(), this.store.object()];
    if (!recipe || !object) return;
    const threads = this.picture.result()?.threads ?? [];
    const above = threads.flatMap((i) => this.conversion.design()?.threads[i]?.hex ?? []);
    const hex = colourBelow(this.picture.colours(), above);
    const fill = fillBelow(recipe.objects, object, freshShapeId(recipe.objects), { hex });
    this.store.changeWhole('fill below', ({ objects }) => {
      const at = objects.findIndex((other) => other.id === object.id);
      objects.splice(at, 0, fill as Draft<DesignObject>);
    });
  }

  protected paint(id: string, { ...thread }: NamedThread): void {
    this.store.changeWhole('thread of the fill below', ({ objects }) => {
      const fill = objects.find((object) => object.id === id);
      if (fill?.kind === 'shape') fill.paint = thread;
    });
  }

  protected remove(id: string): void {
    this.store.changeWhole('fill below removed', (recipe) => removeObjects(recipe, [id]));
  }

  protected open(id: string): void {
    const design = this.conversion.design();
    const pieces = design?.pieces.flatMap(({ object }, i) => (object === id ? [i] : [])) ?? [];
    this.state.knot.set('stitches');
    if (pieces.length > 0) this.state.selectAll(pieces);
    else this.state.chooseLater([id]);
  }
}
