import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  CLOTH_LOOKS,
  CORNERS,
  EDGE_BEGINS,
  EDGE_ENDS,
  OUTLINE_KINDS,
  PATCH_FORMS,
  USUAL_APPLIQUE,
  type AppliqueChoices,
  type ClothLook,
  type OutlineObject,
  type ThreadChoice,
} from '@open-kite/core';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
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
/** How wide a print is at first. */
const USUAL_PRINT_MM = 40;

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
  protected readonly forms = PATCH_FORMS;
  protected readonly sides = EDGE_BEGINS;
  protected readonly ends = EDGE_ENDS;
  /** Whether it goes around the whole design: only then it may be a patch of some form. */
  protected readonly isAroundAll = computed(() => {
    const { of, pieces } = this.outline();
    return of === null && !pieces?.length;
  });
  protected readonly covers = COVERS;
  protected readonly tacks = TACKS;
  protected readonly looks = CLOTH_LOOKS;
  private readonly store = inject(ProjectStore);
  /** Pictures of the project that cloth can be printed with. */
  private readonly pictures = computed(() =>
    Object.entries(this.store.pictures()).flatMap(([source, { kind }]) => (kind === 'list' ? [] : [source])),
  );
  protected readonly printWidth = computed(() => this.applique()?.cloth.print?.widthMm ?? USUAL_PRINT_MM);

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

  /** @param form a form of patches, or `edges` */
  protected setForm(form: string): void {
    this.change('form of a patch', (outline) => {
      if (form === 'edges') Reflect.deleteProperty(outline, 'form');
      else Reflect.set(outline, 'form', form);
    });
  }

  /** @param side a side of the edge, or `near` */
  protected setBegins(side: string): void {
    this.change('where an outline begins', (outline) => {
      if (side === 'near') delete outline.begins;
      else Reflect.set(outline, 'begins', side);
    });
  }

  protected setGaps(on: boolean): void {
    this.change('gaps of an outline', (outline) => {
      if (on) outline.gaps = true;
      else delete outline.gaps;
    });
  }

  protected setApplique(change: Partial<AppliqueChoices>): void {
    const applique = { ...(this.applique() ?? USUAL_APPLIQUE), ...change };
    this.change('applique', (outline) => void Reflect.set(outline, 'applique', applique));
  }

  /** Prints a picture on the cloth of the applique. */
  protected async printFile(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    field.value = '';
    const source = file && (await this.acts.addSource(file));
    if (source !== undefined) this.setCloth({ look: 'print', print: { source, widthMm: this.printWidth() } });
  }

  protected setPrintWidth(widthMm: number): void {
    const print = this.applique()?.cloth.print;
    if (print) this.setCloth({ print: { ...print, widthMm } });
  }

  protected setLook(look: ClothLook): void {
    // Without a picture of its own, the print is that of the design.
    const { print } = this.applique()?.cloth ?? {};
    const [source] = this.pictures();
    if (look !== 'print' || print || source === undefined) this.setCloth({ look });
    else this.setCloth({ look, print: { source, widthMm: this.printWidth() } });
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
