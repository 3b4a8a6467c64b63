import { CdkDrag, type CdkDragEnd, type CdkDragMove } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatRadioModule } from '@angular/material/radio';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { RouterLink } from '@angular/router';
import {
  differenceWord,
  LIMITS,
  PIECES_METHOD,
  renderMethodOf,
  type ColourShade,
  type ColourShare,
  type PictureView,
} from '@open-kite/core';
import { ArrowDown, ArrowUp, ChevronDown, Columns2, LucideAngularModule, Pin, Pipette } from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { ProjectStore } from '../../project/project-store';
import type { Draft } from '../../project/history';
import { Fold } from '../../shared/fold';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { SliderField } from '../../shared/slider-field';
import { formatCount } from '../../shared/units';
import { SPOT } from '../sheet/settings';
import { SettingsList } from '../sheet/settings-list';
import { OpenPicture } from '../open-picture';
import { StudioState } from '../studio-state';
import { ColourActs } from './colour-acts';
import { ThreadCurveChart } from './thread-curve-chart';
import { ThreadLabel } from '../../shared/thread-label';

/** Controls of the second step: how many colours, which, and the threads they are sewn with. */
@Component({
  selector: 'kite-colours-sheet',
  imports: [
    MatTooltipModule,
    CdkDrag,
    Fold,
    ChoiceField,
    MatCheckboxModule,
    MatRadioModule,
    LucideAngularModule,
    MatSlideToggleModule,
    RouterLink,
    SettingsList,
    SliderField,
    ThreadCurveChart,
    ThreadLabel,
  ],
  templateUrl: './colours-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './colours-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColoursSheet {
  private readonly conversion = inject(Conversion);
  protected readonly underWay = this.conversion.stale;
  private readonly store = inject(ProjectStore);
  protected readonly cupboard = inject(Cupboard);
  protected readonly state = inject(StudioState);
  protected readonly acts = inject(ColourActs);

  protected readonly icons = { ArrowDown, ArrowUp, ChevronDown, Columns2, Pin, Pipette };
  protected readonly limits = LIMITS;
  protected readonly spot = [SPOT];
  protected readonly count = formatCount;
  protected readonly word = differenceWord;
  protected readonly whole = Math.round;

  protected readonly recipe = this.store.view;
  protected readonly design = this.conversion.design;
  /** Colour whose details are open, by its anchor's colour. */
  protected readonly open = signal('');
  /** Shade chosen to be moved, by its place in the open colour. */
  protected readonly shade = signal<ColourShade | undefined>(undefined);
  protected readonly picture = inject(OpenPicture);
  /** Colour something is dragged over, by its index. */
  protected readonly target = signal(-1);

  protected readonly cost = computed(() => {
    const figures = this.conversion.figures();
    return figures ? `${formatCount(figures.stitches)} stitches, ${figures.minutes.oneNeedle} min on one needle` : '';
  });

  /** Whether the picture as it was lies beside its threads on the stage. */
  protected readonly isWiped = computed(() => this.state.compare() === 'split');

  protected wipe(): void {
    this.state.toggleCompare('split');
  }

  /** Where threads are taken from, in a few words. */
  protected readonly matched = computed(() => {
    const { charts = [], stashOnly = false } = this.recipe()?.colours ?? {};
    if (stashOnly) return 'the drawer';
    const names = this.cupboard.charts().flatMap(({ id, name }) => (charts.includes(id) ? [name] : []));
    return names.length === 0 ? "the picture's own colours" : names.length === 1 ? names[0] : `${names.length} charts`;
  });

  /** What sewing as many colours as suggested is called: for a mix of threads the number is what is usual for it. */
  protected readonly asSuggested = computed(() => {
    const result = this.picture.result();
    const usual = renderMethodOf(result?.method ?? '')?.threads.from === 'mix';
    return `As many as ${usual ? 'is usual' : 'suggested'} (${result?.suggestedColours ?? '…'})`;
  });

  protected readonly colours = computed(() => {
    const design = this.design();
    const stitches = this.conversion.colourStitches();
    if (!design) return [];
    const first = this.picture.firstColour();
    const own = this.picture.colours();
    const rendered = this.picture.result()?.method !== PIECES_METHOD;
    return own
      .map((colour, at) => ({ colour, index: first + at }))
      .map(({ colour, index }) => ({
        colour,
        index,
        key: `${colour.anchor.hex} ${colour.anchor.u} ${colour.anchor.v}`,
        thread: colour.thread < 0 ? undefined : design.threads[colour.thread],
        stitches: stitches[index] ?? 0,
        // Colours of a painted picture that are nearest to one thread are sewn with it together.
        sharing: rendered ? own.filter((other) => other.thread === colour.thread).length : 1,
      }))
      .filter(({ colour }) => colour.share > 0);
  });

  /** Decisions that put colours together or apart, so that each can be taken back. */
  protected readonly regrouped = computed(() => {
    const recipe = this.recipe();
    const lost = this.picture.result()?.lostDecisions ?? [];
    if (!recipe) return [];
    return recipe.colours.decisions.flatMap((decision, index) => {
      if (lost.includes(index)) return [];
      switch (decision.kind) {
        case 'merge':
          return [{ index, from: decision.at.hex, to: decision.into.hex, said: 'merged into' }];
        case 'move':
          return [{ index, from: decision.at.hex, to: decision.into.hex, said: 'shade moved to' }];
        case 'split':
          return [{ index, from: decision.at.hex, to: '', said: 'split in two' }];
        default:
          return [];
      }
    });
  });

  protected readonly lost = computed(() => {
    const decisions = this.recipe()?.colours.decisions ?? [];
    const said = {
      pin: 'pinned',
      merge: 'merged',
      move: 'shade moved',
      split: 'split',
      rank: 'ordered',
      bare: 'left bare',
      thread: 'thread chosen',
    } as const;
    return (this.picture.result()?.lostDecisions ?? [])
      .filter((index) => index < decisions.length)
      .map((index) => ({ index, hex: decisions[index].at.hex, said: said[decisions[index].kind] }));
  });

  protected readonly nearest = computed(() => {
    const item = this.colours().find(({ key }) => key === this.open());
    return item ? this.acts.nearest(item.colour.hex) : [];
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.state.where.set(undefined));
  }

  protected set(label: string, edit: (recipe: Draft<PictureView>) => void): void {
    this.store.change(label, edit);
  }

  protected readonly setCount = (value: number): void => {
    const count = Math.min(LIMITS.count[1], Math.max(LIMITS.count[0], Math.round(value)));
    this.set('number of colours', ({ colours }) => (colours.count = count));
  };

  protected setAuto(auto: boolean): void {
    const suggested = this.picture.result()?.suggestedColours ?? 6;
    this.set('number of colours', ({ colours }) => (colours.count = auto ? 'auto' : Math.min(60, suggested)));
  }

  protected toggleChart(id: string, on: boolean): void {
    const charts = this.recipe()?.colours.charts ?? [];
    this.acts.matchAll(on ? [...charts, id] : charts.filter((c) => c !== id));
  }

  protected setFlag(label: string, flag: 'stashOnly' | 'distinct', on: boolean): void {
    this.set(label, ({ colours }) => (colours[flag] = on));
  }

  protected toggle(key: string): void {
    this.shade.set(undefined);
    this.open.update((open) => (open === key ? '' : key));
  }

  protected pointAt(colour: number | undefined, shade?: number): void {
    this.state.where.set(colour === undefined ? undefined : { colour, shade });
  }

  protected pick(): void {
    this.state.picking.set({ label: 'A colour to keep', take: (anchor) => this.acts.pick(anchor) });
  }

  /** What the open colour can be given to. */
  protected readonly others = computed((): Choice[] =>
    this.colours()
      .filter(({ key }) => key !== this.open())
      .map(({ index, thread, colour }) => ({ id: `${index}`, name: thread?.name ?? colour.hex, hex: colour.hex })),
  );

  protected mergeInto(from: ColourShare, index: string): void {
    const into = this.design()?.colours[Number(index)];
    if (into) this.acts.merge(from, into);
  }

  protected moveShadeTo(index: string): void {
    const into = this.design()?.colours[Number(index)];
    const shade = this.shade();
    if (into && shade) this.acts.moveShade(shade.anchor, into);
    this.shade.set(undefined);
  }

  // Dragging: a colour or a shade is dropped on another colour.

  protected dragged(event: CdkDragMove): void {
    const { x, y } = event.pointerPosition;
    this.target.set(this.colourAt(x, y));
  }

  protected dropped(event: CdkDragEnd, from: ColourShare, shade?: ColourShade): void {
    const into = this.design()?.colours[this.target()];
    event.source.reset();
    this.target.set(-1);
    if (!into || into === from) return;
    if (shade) this.acts.moveShade(shade.anchor, into);
    else this.acts.merge(from, into);
  }

  private colourAt(x: number, y: number): number {
    const row = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-colour]');
    return row ? Number(row.dataset['colour']) : -1;
  }
}
