import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  CLOTH_LOOKS,
  CORNERS,
  LIMITS,
  OUTLINE_KINDS,
  USUAL_APPLIQUE,
  type AppliqueChoices,
  type CopiesLayout,
  type ThreadChoice,
} from '@open-kite/core';
import { NumberField } from '../../shared/number-field';
import { SliderField } from '../../shared/slider-field';
import { MoreActs } from './more-acts';
import { ThreadField } from './thread-field';

const COVERS = [...OUTLINE_KINDS.filter(({ id }) => id !== 'applique'), { id: 'none', name: 'None' }];
const TACKS = [
  { id: 'zigzag', name: 'Zigzag' },
  { id: 'running', name: 'Double running' },
  { id: 'none', name: 'None' },
] as const;
const LAYOUTS: readonly { readonly id: CopiesLayout['kind']; readonly name: string }[] = [
  { id: 'ring', name: 'In a ring' },
  { id: 'grid', name: 'In a grid' },
  { id: 'mirror', name: 'Mirrored' },
];

/** What the chosen outline, applique or copies have to choose. */
@Component({
  selector: 'kite-outline-settings',
  imports: [MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField, SliderField, ThreadField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './outline-settings.html',
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    .chosen {
      gap: 10px;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    mat-form-field {
      width: 100%;
    }
  `,
})
export class OutlineSettings {
  protected readonly acts = inject(MoreActs);
  protected readonly limits = LIMITS;
  protected readonly kinds = OUTLINE_KINDS;
  protected readonly corners = CORNERS;
  protected readonly covers = COVERS;
  protected readonly tacks = TACKS;
  protected readonly looks = CLOTH_LOOKS;
  protected readonly layouts = LAYOUTS;

  protected readonly applique = computed(() => {
    const own = this.acts.outline();
    return own?.as === 'applique' ? (own.applique ?? USUAL_APPLIQUE) : undefined;
  });
  protected readonly isWide = computed(() => {
    const own = this.acts.outline();
    return own ? ['satin', 'zigzag', 'applique'].includes(own.as) : false;
  });

  protected set(label: string, field: string, value: unknown): void {
    this.acts.change(label, (outline) => void Reflect.set(outline, field, value));
  }

  protected setApplique(change: Partial<AppliqueChoices>): void {
    const applique = { ...(this.applique() ?? USUAL_APPLIQUE), ...change };
    this.acts.change('applique', (outline) => void Reflect.set(outline, 'applique', applique));
  }

  protected setCloth(change: Partial<AppliqueChoices['cloth']>): void {
    this.setApplique({ cloth: { ...(this.applique() ?? USUAL_APPLIQUE).cloth, ...change } });
  }

  protected setClothColour(paint: ThreadChoice): void {
    if ('hex' in paint) this.setCloth({ hex: paint.hex });
  }

  protected readonly round = Math.round;

  protected setThread(paint: ThreadChoice): void {
    this.set('thread of an outline', 'paint', paint);
  }

  protected setSilhouette(closed: boolean): void {
    this.acts.change('outer edge', (outline) => {
      if (closed) outline.closeMm = 0;
      else delete outline.closeMm;
    });
  }

  protected setLayoutKind(kind: CopiesLayout['kind']): void {
    const now = this.acts.copies()?.layout;
    if (!now || now.kind === kind) return;
    const first: Readonly<Record<CopiesLayout['kind'], CopiesLayout>> = {
      ring: { kind: 'ring', count: 6, radiusMm: 30, turned: true },
      grid: { kind: 'grid', columns: 3, rows: 2, stepXMm: 30, stepYMm: 30 },
      mirror: { kind: 'mirror', axis: 'x', gapMm: 4 },
    };
    this.acts.setLayout(first[kind]);
  }

  protected setLayout(change: object): void {
    const now = this.acts.copies()?.layout;
    if (now) this.acts.setLayout({ ...now, ...change });
  }
}
