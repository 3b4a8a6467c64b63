import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy, signal } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { NamedThread } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { DrawSection } from '../pieces/draw-section';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { Fold } from '../../shared/fold';
import { SliderField } from '../../shared/slider-field';
import { formatCount } from '../../shared/units';
import { GridActs } from '../grid/grid-acts';
import { GridChoice } from '../grid/grid-choice';
import { GridSheet } from '../grid/grid-sheet';
import { Problems } from '../pieces/problems';
import { ObjectSection } from '../objects/object-section';
import { OutlineSection } from '../objects/outline-section';
import { StudioState } from '../studio-state';
import { BudgetField } from './budget-field';
import { FavouredAreas } from './favoured-areas';
import { GroundBelow } from './ground-below';
import { MethodChoice } from './method-choice';
import { RenderOptions } from './render-options';
import { RenderingActs } from './rendering-acts';
import { ThreadPicker } from './thread-picker';
import { ThreadLabel } from '../../shared/thread-label';

export const SECTIONS = 3;
const TURN_MS = 40;
/** Options of colour: they stand with the threads. */
const COLOUR_OPTIONS = ['effect', 'hue', 'order', 'palette', 'inks', 'first', 'ground'];

/** Controls of the third step where a picture is rendered rather than traced. */
@Component({
  selector: 'kite-rendering-sheet',
  imports: [
    MatTooltipModule,
    Fold,
    ObjectSection,
    BudgetField,
    DrawSection,
    FavouredAreas,
    GridChoice,
    GridSheet,
    GroundBelow,
    MethodChoice,
    OutlineSection,
    Problems,
    RenderOptions,
    SliderField,
    ThreadPicker,
    ThreadLabel,
  ],
  templateUrl: './rendering-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './rendering-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RenderingSheet implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(RenderingActs);
  protected readonly grid = inject(GridActs);
  protected readonly state = inject(StudioState);

  private readonly open = inject(OpenPicture);
  protected readonly recipe = this.store.view;
  protected readonly count = formatCount;
  protected readonly colourOptions = COLOUR_OPTIONS;
  /** Sections built so far: each in a turn of its own, so that none is long. */
  protected readonly turn = signal(0);
  private timer: ReturnType<typeof setTimeout> | undefined;

  protected readonly otherOptions = computed(() =>
    Object.keys(this.acts.method()?.options ?? {}).filter((name) => !COLOUR_OPTIONS.includes(name)),
  );
  protected readonly strokes = computed(() => this.recipe()?.rendering.strokes.length ?? 0);
  protected readonly hasOwn = computed(() => {
    const method = this.acts.method();
    return method !== undefined && Object.keys(this.recipe()?.rendering.values[method.id] ?? {}).length > 0;
  });

  protected readonly summary = computed(() => {
    const figures = this.conversion.figures();
    const design = this.conversion.design();
    if (!figures || !design || this.open.result()?.method !== this.acts.method()?.id) return 'Being made …';
    const metres = figures.threads.reduce((sum, { lengthM }) => sum + lengthM, 0);
    const threads = `${design.threads.length} ${design.threads.length === 1 ? 'thread' : 'threads'}`;
    return `${formatCount(figures.stitches)} stitches, ${metres.toFixed(0)} m of ${threads}, ${figures.trims} ${figures.trims === 1 ? 'trim' : 'trims'}.`;
  });

  protected readonly threads = computed(() => {
    const design = this.conversion.design();
    const figures = this.conversion.figures();
    if (!design) return [];
    return (this.open.result()?.threads ?? []).map((at) => ({
      ...design.threads[at],
      at,
      stitches: figures?.threads[at]?.stitches ?? 0,
    }));
  });

  protected readonly threadCount = computed(() => {
    const count = this.recipe()?.colours.count ?? 'auto';
    const source = this.acts.method()?.threads;
    return count === 'auto' ? (source?.from === 'mix' ? source.usual : 12) : count;
  });

  protected readonly addable = computed(() => {
    const source = this.acts.method()?.threads;
    return source?.from === 'list' && this.named().length < source.most;
  });
  protected readonly removable = computed(() => {
    const source = this.acts.method()?.threads;
    return source?.from === 'list' && this.named().length > source.least;
  });

  /** Where a thread of a mix can be sewn among the others. */
  protected readonly places = [
    { kind: 'first', name: 'First', title: 'Sew it before the others' },
    { kind: 'last', name: 'Last', title: 'Sew it after the others' },
  ] as const;

  protected readonly said = computed(() =>
    (this.recipe()?.rendering.mix ?? []).map((decision, index) => {
      if (decision.kind === 'first' || decision.kind === 'last') {
        const text = `sewn ${decision.kind === 'first' ? 'before' : 'after'} the others`;
        return { index, hex: decision.hex, text };
      }
      if (decision.kind === 'drop') return { index, hex: decision.hex, text: 'left out' };
      if (decision.kind === 'keep') {
        return { index, hex: 'hex' in decision.thread ? decision.thread.hex : '#888888', text: 'always in the mix' };
      }
      return {
        index,
        hex: decision.hex,
        text: `another in its place: ${'code' in decision.to ? decision.to.code : decision.to.hex}`,
      };
    }),
  );

  constructor() {
    this.nextTurn();
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
    this.state.stroking.set(false);
    this.grid.leave();
  }

  private nextTurn(): void {
    this.timer = setTimeout(() => {
      this.turn.update((turn) => turn + 1);
      if (this.turn() < SECTIONS) this.nextTurn();
    }, TURN_MS);
  }

  protected setCount(count: number): void {
    this.store.change('number of threads', ({ colours }) => (colours.count = Math.round(count)));
  }

  protected setCloth(event: Event): void {
    const { value } = event.target as HTMLInputElement;
    this.store.change('cloth colour', (recipe) => (recipe.cloth.hex = value));
  }

  /** Threads that are named one by one, as they are now. */
  private named(): NamedThread[] {
    const source = this.acts.method()?.threads;
    const most = source?.from === 'list' ? source.most : 0;
    // What fills the ground is chosen as an option.
    const ground = this.open.result()?.groundThread;
    const below = this.threads().findLastIndex(({ at }) => at === ground);
    return this.threads()
      .filter((_, i) => i !== below)
      .slice(0, most)
      .map(({ chart, code, hex }) => (chart === 'own' ? { hex } : { chart, code }));
  }

  protected swap(at: number, to: NamedThread): void {
    const thread = this.threads()[at];
    if (this.acts.method()?.threads.from === 'list') this.acts.setThreads(this.named().with(at, to));
    else this.acts.decide('thread exchanged', { kind: 'swap', hex: this.mixedHex(thread.hex), to });
  }

  /** The thread of the mix that a thread took the place of. */
  private mixedHex(hex: string): string {
    const swapped = this.recipe()?.rendering.mix.find((d) => d.kind === 'swap' && 'hex' in d.to && d.to.hex === hex);
    return swapped?.kind === 'swap' ? swapped.hex : hex;
  }

  protected addThread(): void {
    this.acts.setThreads([...this.named(), { hex: '#8a5a83' }]);
  }

  protected removeThread(at: number): void {
    this.acts.setThreads(this.named().filter((_, i) => i !== at));
  }
}
