import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { FABRICS, findingsOf, type Recipe } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import type { Draft } from '../../project/history';
import { Preferences } from '../../shared/preferences';
import { formatCount, formatLength } from '../../shared/units';
import { StudioState } from '../studio-state';
import { ColoursSheet } from '../colours/colours-sheet';
import { PictureSheet } from '../picture/picture-sheet';
import { STITCHES } from './settings';
import { PiecesSheet } from '../pieces/pieces-sheet';
import { SettingsList } from './settings-list';
import type { ExportKind } from '../../convert/convert-protocol';

/** Controls of the open step, each beside the figures it changes. */
@Component({
  selector: 'kite-sheet',
  imports: [ColoursSheet, PictureSheet, PiecesSheet, SettingsList],
  templateUrl: './sheet.html',
  styleUrls: ['./sheet-parts.scss', './sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);

  /** Takes the design away as a file. */
  readonly take = input.required<(kind: ExportKind) => void>();

  protected readonly stitches = STITCHES;
  protected readonly fabrics = FABRICS;
  protected readonly count = formatCount;

  protected readonly recipe = this.store.recipe;
  protected readonly design = this.conversion.design;
  protected readonly figures = this.conversion.figures;

  protected readonly fabric = computed(() => FABRICS.find((f) => f.id === this.recipe()?.stitches.fabric));
  protected readonly findings = computed(() => {
    const design = this.design();
    return design ? findingsOf(design) : [];
  });
  protected readonly cost = computed(() => {
    const figures = this.figures();
    return figures ? `${formatCount(figures.stitches)} stitches, ${figures.minutes.oneNeedle} min on one needle` : '';
  });
  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }

  protected set(label: string, edit: (recipe: Draft<Recipe>) => void): void {
    this.store.change(label, edit);
  }

  protected setFabric(id: string): void {
    const fabric = FABRICS.find((f) => f.id === id);
    if (!fabric) return;
    this.set('fabric', (recipe) => {
      recipe.stitches.fabric = id;
      recipe.clothHex = fabric.hex;
    });
  }

  protected setCloth(event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.set('cloth colour', (recipe) => (recipe.clothHex = value));
  }
}
