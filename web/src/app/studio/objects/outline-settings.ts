import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  CLOTH_LOOKS,
  CORNERS,
  OUTLINE_KINDS,
  USUAL_APPLIQUE,
  type AppliqueChoices,
  type OutlineObject,
  type ThreadChoice,
} from '@open-kite/core';
import type { Draft } from '../../project/history';
import { NumberField } from '../../shared/number-field';
import { SliderField } from '../../shared/slider-field';
import { MoreActs } from './more-acts';
import { ObjectActs } from './object-acts';
import { ThreadField } from './thread-field';

const COVERS = [...OUTLINE_KINDS.filter(({ id }) => id !== 'applique'), { id: 'none', name: 'None' }];
const TACKS = [
  { id: 'zigzag', name: 'Zigzag' },
  { id: 'running', name: 'Double running' },
  { id: 'none', name: 'None' },
] as const;
/** What an outline or an applique has to choose. */
@Component({
  selector: 'kite-outline-settings',
  imports: [MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField, SliderField, ThreadField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './outline-settings.html',
  styleUrls: ['../sheet/sheet-parts.scss', './settings.scss'],
})
export class OutlineSettings {
  readonly outline = input.required<OutlineObject>();
  private readonly acts = inject(ObjectActs);
  protected readonly more = inject(MoreActs);
  protected readonly kinds = OUTLINE_KINDS;
  protected readonly corners = CORNERS;
  protected readonly covers = COVERS;
  protected readonly tacks = TACKS;
  protected readonly looks = CLOTH_LOOKS;

  protected readonly applique = computed(() => {
    const own = this.outline();
    return own.as === 'applique' ? (own.applique ?? USUAL_APPLIQUE) : undefined;
  });
  /** Steps the applique has by now. */
  protected readonly stepCount = computed(() => {
    const steps = this.applique();
    return steps ? [steps.placement, steps.tackDown !== 'none', steps.cover !== 'none'].filter(Boolean).length : 0;
  });
  protected readonly isWide = computed(() => ['satin', 'zigzag', 'applique'].includes(this.outline().as));

  protected set(label: string, field: string, value: unknown): void {
    this.change(label, (outline) => void Reflect.set(outline, field, value));
  }

  protected setApplique(change: Partial<AppliqueChoices>): void {
    const applique = { ...(this.applique() ?? USUAL_APPLIQUE), ...change };
    this.change('applique', (outline) => void Reflect.set(outline, 'applique', applique));
  }

  protected setCloth(change: Partial<AppliqueChoices['cloth']>): void {
    this.setApplique({ cloth: { ...(this.applique() ?? USUAL_APPLIQUE).cloth, ...change } });
  }

  protected setThread(paint: ThreadChoice): void {
    this.set('thread of an outline', 'paint', paint);
  }

  protected setSilhouette(closed: boolean): void {
    this.change('outer edge', (outline) => {
      if (closed) outline.closeMm = 0;
      else delete outline.closeMm;
    });
  }

  private change(label: string, edit: (outline: Draft<OutlineObject>) => void): void {
    this.acts.change(label, this.outline().id, 'outline', edit);
  }
}
