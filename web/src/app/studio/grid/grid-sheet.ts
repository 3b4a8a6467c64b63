import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { symbolOf, type Part } from '@open-kite/core';
import {
  Eraser,
  Frame,
  FlipHorizontal2,
  FlipVertical2,
  LucideAngularModule,
  PaintBucket,
  Pipette,
  Repeat2,
  RotateCw,
  Scissors,
  Slash,
  SquareDashed,
  X,
  type LucideIconData,
} from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { formatCount } from '../../shared/units';
import { ThreadPicker } from '../rendering/thread-picker';
import { GridActs, type GridTool, type GridView } from './grid-acts';

/** Controls while the grid is changed by hand: tools, parts, threads, and what is done with chosen cells. */
@Component({
  selector: 'kite-grid-sheet',
  imports: [LucideAngularModule, MatTooltipModule, ThreadPicker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './grid-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './grid-sheet.scss'],
})
export class GridSheet {
  private readonly snack = inject(MatSnackBar);
  private readonly conversion = inject(Conversion);
  protected readonly acts = inject(GridActs);

  protected readonly icons = { FlipHorizontal2, FlipVertical2, RotateCw, Frame, Repeat2 };
  protected readonly tools: readonly { tool: GridTool; name: string; key: string; icon: LucideIconData }[] = [
    { tool: 'stitch', name: 'Stitch', key: 'X', icon: X },
    { tool: 'bare', name: 'Bare', key: 'E', icon: Eraser },
    { tool: 'take', name: 'Take up', key: 'Q', icon: Pipette },
    { tool: 'fill', name: 'Fill area', key: 'A', icon: PaintBucket },
    { tool: 'replace', name: 'Replace', key: 'R', icon: Repeat2 },
    { tool: 'back', name: 'Back stitch', key: 'N', icon: Slash },
    { tool: 'unpick', name: 'Unpick', key: 'U', icon: Scissors },
    { tool: 'choose', name: 'Choose', key: 'M', icon: SquareDashed },
  ];
  protected readonly parts: readonly { part: Part; name: string; path: string }[] = [
    { part: 'full', name: 'Full cross', path: 'M3 3L17 17M17 3L3 17' },
    { part: 'half', name: 'Half cross', path: 'M3 17L17 3' },
    { part: 'three-quarter', name: 'Three-quarter cross', path: 'M3 17L17 3M3 3L10 10' },
    { part: 'quarter', name: 'Quarter cross', path: 'M3 3L10 10' },
    { part: 'side', name: 'Side of a cross', path: 'M3 3L10 10M17 3L10 10' },
  ];
  protected readonly views: readonly { view: GridView; name: string }[] = [
    { view: 'crosses', name: 'Crosses' },
    { view: 'colours', name: 'Colours' },
    { view: 'symbols', name: 'Symbols' },
  ];

  /** Threads, and what is sewn with them in the design as it is; what is being stitched counts once it is converted. */
  protected readonly threads = computed(() => {
    const [counts, threads] = [this.conversion.threadCounts(), this.acts.threads()];
    return threads.map((thread, at) => {
      const count = counts.find((c) => c.thread === at);
      const backs =
        count && count.backStitchMm > 0 ? `, ${(count.backStitchMm / 10).toFixed(0)} cm of back stitch` : '';
      const cells = (count?.cells ?? 0) + (count?.parts ?? 0);
      return { ...thread, at, said: `${formatCount(cells)} cells${backs}`, symbol: symbolOf(at) };
    });
  });
  protected readonly inHand = computed(() => this.threads().at(this.acts.thread()));

  protected around(): void {
    const count = this.acts.repeatAround();
    if (count > 0) return;
    this.snack.open('What is chosen is too large to be repeated around the edge.', undefined, { duration: 5000 });
  }
}
