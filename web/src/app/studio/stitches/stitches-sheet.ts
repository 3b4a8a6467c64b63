import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy, signal } from '@angular/core';
import {
  CORNERS,
  fabricOn,
  OFFSET_PATTERNS,
  overlapOn,
  stitchKindOf,
  type Fabric,
  type PictureView,
} from '@open-kite/core';
import { RouterLink } from '@angular/router';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { Fold } from '../../shared/fold';
import { SWATCH } from '../../shared/swatches';
import { Preferences } from '../../shared/preferences';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { ChoiceField } from '../../shared/choice-field';
import { kindsInWords } from '../pieces/kinds-in-words';
import { StitchKindField } from '../pieces/stitch-kind-field';
import { SliderField } from '../../shared/slider-field';
import { formatCount, formatLength } from '../../shared/units';
import { OwnFabrics } from '../../fabrics/own-fabrics';
import { PieceActs } from '../pieces/piece-acts';
import { STITCHES } from '../sheet/settings';
import { SettingsList } from '../sheet/settings-list';
import { NeedleSection } from '../needle/needle-section';
import { ObjectSection } from '../objects/object-section';
import { StudioState } from '../studio-state';
import { ConnectionsSection } from './connections-section';
import { GradientSection } from './gradient-section';
import { OptionList } from './option-list';

/** Sections below the chosen pieces, and the time between two of them. */
const SECTIONS = 3;
const TURN_MS = 60;

/** Minutes a thread change takes by hand. */
const CHANGE_MINUTES = 1;

/** Controls of the Stitches step: how the chosen pieces are sewn, the fabric and what it asks for, and the order. */
@Component({
  selector: 'kite-stitches-sheet',
  imports: [
    ChoiceField,
    Fold,
    MatCheckboxModule,
    NeedleSection,
    ConnectionsSection,
    ObjectSection,
    GradientSection,
    OptionList,
    RouterLink,
    SettingsList,
    SliderField,
    StitchKindField,
  ],
  templateUrl: './stitches-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './stitches-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StitchesSheet implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  protected readonly acts = inject(PieceActs);

  /** Sections built so far: while a project opens each is built in a turn of its own, so that none is long. */
  protected readonly turn = signal(this.conversion.design() ? SECTIONS : 0);
  private turnTimer: ReturnType<typeof setTimeout> | undefined;

  protected readonly settings = STITCHES;
  private readonly ownFabrics = inject(OwnFabrics);
  protected readonly fabrics = computed(() => {
    const cloth = this.recipe()?.cloth;
    return cloth ? this.ownFabrics.choicesFor(cloth) : [];
  });
  protected readonly fabricChoice = computed(() => {
    const cloth = this.recipe()?.cloth;
    return cloth && this.ownFabrics.choiceOf(cloth);
  });
  protected readonly patterns = OFFSET_PATTERNS.map(({ id, name }) => ({ id, name, picture: SWATCH.pattern(id) }));
  protected readonly corners = CORNERS;
  protected readonly count = formatCount;
  protected readonly recipe = this.store.view;
  protected readonly fabric = computed(() => {
    const cloth = this.recipe()?.cloth;
    return cloth && fabricOn(cloth);
  });
  /** Stitches before the fabric was changed last, so that the change can be told. */
  private readonly before = signal<{ readonly fabric: string; readonly stitches: number } | undefined>(undefined);

  /** What the conversion did by itself, in one line. */
  protected readonly summary = computed(() => {
    const design = this.conversion.design();
    const figures = this.conversion.figures();
    if (!design || !figures) return '';
    const kinds = kindsInWords(design.pieces);
    const angles = new Set(
      design.pieces.flatMap((p, i) => (p.family === 'area' ? [Math.round(design.rowAngles[i])] : [])),
    );
    const rows = angles.size > 1 ? `, rows at ${angles.size} angles` : '';
    const said = kinds !== '' ? `${kinds}${rows}; ` : '';
    return `${said}${formatCount(figures.stitches)} stitches in ${figures.minutes.oneNeedle} min on one needle.`;
  });

  protected readonly fabricChange = computed(() => {
    const before = this.before();
    const figures = this.conversion.figures();
    if (!before || !figures || this.conversion.state() !== 'done') return '';
    const more = figures.stitches - before.stitches;
    if (more === 0) return '';
    return `${formatCount(Math.abs(more))} stitches ${more > 0 ? 'more' : 'fewer'} than on ${before.fabric.toLowerCase()}.`;
  });

  /** What the order costs, and what it saves against the pieces as they were found. */
  protected readonly order = computed(() => {
    const design = this.conversion.design();
    const figures = this.conversion.figures();
    if (!design || !figures || design.pieces.length === 0) return undefined;
    const { orderCost: now, foundOrderCost: found } = design;
    const changes = Math.max(0, found.threadRuns - now.threadRuns);
    const parts = [
      changes > 0
        ? `${changes} thread ${changes === 1 ? 'change' : 'changes'} (${changes * CHANGE_MINUTES} min by hand)`
        : '',
      found.travelMm - now.travelMm > 1 ? `${this.length(found.travelMm - now.travelMm, 0)} of way` : '',
    ].filter((part) => part !== '');
    return {
      costs: `${figures.threadChanges} thread changes, ${figures.trims} cuts, ${this.length(now.travelMm, 0)} of way between pieces.`,
      saves: parts.length > 0 ? `It saves ${parts.join(' and ')} against the pieces as they were found.` : '',
    };
  });

  protected readonly chosen = computed(() => {
    const design = this.conversion.design();
    const stitches = this.conversion.pieceStitches();
    if (!design) return undefined;
    const indices = [...this.state.selected()].filter((i) => i < design.pieces.length);
    if (indices.length === 0) return undefined;
    const pieces = indices.map((i) => design.pieces[i]);
    const kinds = new Set(pieces.map((piece) => piece.kind));
    const [piece] = pieces;
    const kind = kinds.size === 1 ? stitchKindOf(piece.kind) : undefined;
    const locks = new Set(pieces.map((p) => this.acts.lockOf(p) ?? 'free'));
    return {
      indices,
      piece,
      kind,
      name: indices.length === 1 ? this.state.nameOf(indices[0]) : `${indices.length} pieces`,
      stitches: indices.reduce((n, i) => n + stitches[i], 0),
      single: indices.length === 1,
      lock: locks.size === 1 ? [...locks][0] : '',
      said: Object.keys(piece.choices.values).length > 0,
    };
  });

  constructor() {
    if (this.turn() < SECTIONS) this.nextTurn();
    this.ownFabrics.offer();
  }

  ngOnDestroy(): void {
    clearTimeout(this.turnTimer);
  }

  private nextTurn(): void {
    this.turnTimer = setTimeout(() => {
      this.turn.update((turn) => turn + 1);
      if (this.turn() < SECTIONS) this.nextTurn();
    }, TURN_MS);
  }

  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }

  protected compensationOf = (fabric: Fabric): number =>
    this.recipe()?.stitches.compensationMm ?? fabric.compensationMm;
  protected overlapOf = (fabric: Fabric): number =>
    this.recipe()?.stitches.overlapMm ?? overlapOn(fabric, this.recipe()?.stitches.compensationMm ?? null);

  protected set(label: string, edit: (recipe: Draft<PictureView>) => void): void {
    this.store.change(label, edit);
  }

  protected setFabric(id: string): void {
    const cloth = this.ownFabrics.clothOf(id);
    const now = this.fabric();
    if (!cloth || !now) return;
    this.before.set({ fabric: now.name, stitches: this.conversion.figures()?.stitches ?? 0 });
    this.set('fabric', (recipe) => {
      recipe.cloth = structuredClone(cloth);
    });
  }

  protected setCloth(event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.set('cloth colour', (recipe) => (recipe.cloth.hex = value));
  }

  protected setPattern(pattern: string): void {
    this.set('grain', (recipe) => (recipe.stitches.pattern = pattern));
  }

  protected setCorners(value: string): void {
    const corners = CORNERS.find(({ id }) => id === value);
    if (corners) this.set('corners', (recipe) => (recipe.stitches.corners = corners.id));
  }

  protected setOwn(key: 'compensationMm' | 'overlapMm', value: number | null): void {
    this.set(key === 'overlapMm' ? 'overlap' : 'compensation', (recipe) => (recipe.stitches[key] = value));
  }

  protected setNeedles(several: boolean): void {
    this.set('needles', (recipe) => (recipe.order.needles = several ? 6 : 1));
  }

  protected setHidden(hide: boolean): void {
    this.set('hidden ways', (recipe) => (recipe.order.hideTravel = hide));
  }

  protected lock(to: 'first' | 'last'): void {
    this.acts.lock(this.state.selected(), this.chosen()?.lock === to ? undefined : to);
  }
}
