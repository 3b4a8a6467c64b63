import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { differenceWord, FABRICS, findingsOf, LIMITS, type Recipe } from '@open-kite/core';
import { catchError, of } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import type { Draft } from '../../project/history';
import { Preferences } from '../../shared/preferences';
import { SliderField } from '../../shared/slider-field';
import { formatCount, formatLength, type Unit } from '../../shared/units';
import { StudioState } from '../studio-state';
import { KINDS, OUTLINE, SPOT, STITCHES } from './settings';
import { SettingsList } from './settings-list';
import type { ExportKind } from '../../convert/convert-protocol';

/** Controls of the open step, each beside the figures it changes. */
@Component({
  selector: 'kite-sheet',
  imports: [MatSlideToggleModule, SettingsList, SliderField],
  templateUrl: './sheet.html',
  styleUrl: './sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  private readonly api = inject(Api);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);

  /** Takes the design away as a file. */
  readonly take = input.required<(kind: ExportKind) => void>();

  protected readonly limits = LIMITS;
  protected readonly spot = [SPOT];
  protected readonly outline = OUTLINE;
  protected readonly kinds = KINDS;
  protected readonly stitches = STITCHES;
  protected readonly fabrics = FABRICS;
  protected readonly count = formatCount;
  protected readonly word = differenceWord;
  protected readonly charts = toSignal(this.api.charts.pipe(catchError(() => of([]))), { initialValue: [] });

  protected readonly recipe = this.store.recipe;
  protected readonly picture = this.store.picture;
  protected readonly design = this.conversion.design;
  protected readonly figures = this.conversion.figures;
  protected readonly units: readonly Unit[] = ['mm', 'in'];
  protected readonly whole = Math.round;
  protected locked = true;

  protected readonly fabric = computed(() => FABRICS.find((f) => f.id === this.recipe()?.stitches.fabric));
  protected readonly findings = computed(() => {
    const design = this.design();
    return design ? findingsOf(design) : [];
  });
  protected readonly colours = computed(() => {
    const design = this.design();
    const figures = this.figures();
    if (!design) return [];
    return design.colours
      .map((colour) => ({
        ...colour,
        name: colour.thread < 0 ? undefined : design.threads[colour.thread],
        stitches: figures?.threads[colour.thread]?.stitches ?? 0,
      }))
      .sort((a, b) => b.share - a.share);
  });
  protected readonly cost = computed(() => {
    const figures = this.figures();
    return figures ? `${formatCount(figures.stitches)} stitches, ${figures.minutes.oneNeedle} min on one needle` : '';
  });
  protected readonly chosen = computed(() => {
    const design = this.design();
    const stitches = this.conversion.pieceStitches();
    if (!design) return undefined;
    const pieces = [...this.state.selected()].filter((i) => i < design.pieces.length);
    if (pieces.length === 0) return undefined;
    const sum = pieces.reduce((n, i) => n + stitches[i], 0);
    const area = pieces.reduce((n, i) => n + design.pieces[i].areaMm2, 0);
    const [first] = pieces;
    return {
      count: pieces.length,
      stitches: sum,
      area,
      piece: design.pieces[first],
      thread: design.threads[design.pieces[first].thread],
    };
  });

  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }

  protected set(label: string, edit: (recipe: Draft<Recipe>) => void): void {
    this.store.change(label, edit);
  }

  /** Sets one side of the finished size; the other follows while the proportion is locked. */
  protected resize(side: 'widthMm' | 'heightMm', value: number): void {
    const other = side === 'widthMm' ? 'heightMm' : 'widthMm';
    const [least, most] = LIMITS.widthMm;
    this.set('finished size', ({ picture }) => {
      const ratio = picture[other] / picture[side];
      if (!this.locked) {
        picture[side] = round(value);
        return;
      }
      // Both sides stay within what a hoop holds.
      const wanted = Math.min(Math.max(value, least / Math.min(1, ratio)), most / Math.max(1, ratio));
      picture[side] = round(wanted);
      picture[other] = round(wanted * ratio);
    });
  }

  protected setChart(id: string): void {
    this.set('thread chart', (recipe) => (recipe.colours.charts = id === '' ? [] : [id]));
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

  protected setAuto(auto: boolean): void {
    const suggested = this.design()?.colours.length ?? 6;
    this.set(
      'number of colours',
      (recipe) => (recipe.colours.count = auto ? 'auto' : Math.min(60, Math.max(1, suggested))),
    );
  }
}

const round = (mm: number): number => Math.round(mm * 100) / 100;
