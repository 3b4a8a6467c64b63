import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input } from '@angular/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { Preferences } from '../../shared/preferences';
import { formatCount, formatLength } from '../../shared/units';
import { StudioState } from '../studio-state';
import { ColoursSheet } from '../colours/colours-sheet';
import { PictureSheet } from '../picture/picture-sheet';
import { PiecesSheet } from '../pieces/pieces-sheet';
import { FirstMethod } from '../rendering/first-method';
import { LinesSheet } from '../rendering/lines-sheet';
import { RenderingSheet } from '../rendering/rendering-sheet';
import { StitchesSheet } from '../stitches/stitches-sheet';
import type { ExportKind } from '../../convert/convert-protocol';
import { ThreadLabel } from '../../shared/thread-label';
import { TidyActs } from '../tidy/tidy-acts';
import { TidySheet } from '../tidy/tidy-sheet';

/** Findings listed before a design is taken away. */
const WORST = 3;

/** Controls of the open step, each beside the figures it changes. */
@Component({
  selector: 'kite-sheet',
  imports: [
    ColoursSheet,
    FirstMethod,
    LinesSheet,
    PictureSheet,
    PiecesSheet,
    RenderingSheet,
    StitchesSheet,
    ThreadLabel,
    TidySheet,
  ],
  templateUrl: './sheet.html',
  styleUrls: ['./sheet-parts.scss', './sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  protected readonly underWay = this.conversion.stale;

  /** Takes the design away as a file. */
  readonly take = input.required<(kind: ExportKind) => void>();

  protected readonly count = formatCount;

  protected readonly recipe = this.store.view;
  protected readonly design = this.conversion.design;
  protected readonly figures = this.conversion.figures;

  private readonly tidy = inject(TidyActs);
  /** What fails at the machine comes first; the rest is under Tidy. */
  protected readonly worst = computed(() =>
    this.tidy
      .list()
      .filter(({ level }) => level !== 'waste')
      .slice(0, WORST),
  );
  protected readonly more = computed(() => this.tidy.list().length - this.worst().length);
  protected readonly looked = this.conversion.findingsFit;

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // Another step begins at its top, however far down the last one was read.
    effect(() => {
      this.state.knot();
      host.scrollTop = 0;
    });
  }

  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }
}
