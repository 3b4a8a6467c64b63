import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { printedGridOf, finishedSize, HOOPS, hoopFit, stretch, type StitchedGrid } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { Preferences } from '../../shared/preferences';
import { saveFile } from '../../shared/save-file';
import { formatLength } from '../../shared/units';
import { GridActs } from './grid-acts';
import { GridPainter } from './grid-painter';
import { ChoiceField } from '../../shared/choice-field';

const SIDE = 118;

/** What the third step offers of a grid: fitting it to a hoop, changing it by hand, printing it. */
@Component({
  selector: 'kite-grid-choice',
  imports: [ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (acts.misfit()) {
      <section class="ask" aria-label="Changes made on other cells" role="alert">
        <strong>What becomes of your {{ acts.changes() }} changes by hand?</strong>
        <p class="note">They were made on cells of another size. Until you say, they are carried over.</p>
        <div class="both">
          <figure>
            <canvas #carried width="236" height="236"></canvas>
            <figcaption>
              <button type="button" class="link" (click)="acts.carry()">Carry them over</button>
            </figcaption>
          </figure>
          <figure>
            <canvas #plain width="236" height="236"></canvas>
            <figcaption>
              <button type="button" class="link" (click)="acts.clearChanges()">Leave them out</button>
            </figcaption>
          </figure>
        </div>
      </section>
    }
    <section aria-label="Grid">
      <div class="row">
        <strong>{{ said() }}</strong>
      </div>
      <kite-choice-field label="Fit it to a hoop" none="As the picture is" [choices]="hoops" (chosen)="fit($event)" />
      <div class="acts">
        <button
          type="button"
          class="solid-button second"
          [disabled]="acts.misfit() || !acts.grid()"
          (click)="acts.start()"
        >
          Change cells by hand
        </button>
        <button type="button" class="link" [disabled]="printing() || !acts.grid()" (click)="print()">
          {{ printing() ? 'Drawing the chart …' : 'Chart as PDF' }}
        </button>
      </div>
      @if (acts.changes() > 0 && !acts.misfit()) {
        <p class="note">
          {{ acts.changes() }} {{ acts.changes() === 1 ? 'change' : 'changes' }} by hand; they stay when colours change.
        </p>
      }
    </section>
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    .acts {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 14px;
    }
    .both {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
    }
    figure {
      margin: 0;
    }
    canvas {
      width: 100%;
      border: 1px solid var(--line);
      border-radius: 8px;
    }
    .ask {
      border-left: 3px solid var(--ember);
      padding-left: 10px;
    }
  `,
})
export class GridChoice {
  private readonly api = inject(Api);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);
  private readonly snack = inject(MatSnackBar);
  protected readonly acts = inject(GridActs);
  private readonly carried = viewChild<ElementRef<HTMLCanvasElement>>('carried');
  private readonly plain = viewChild<ElementRef<HTMLCanvasElement>>('plain');

  protected readonly hoops = HOOPS;
  protected readonly printing = signal(false);

  protected readonly said = computed(() => {
    const grid = this.acts.grid();
    if (!grid) return 'The grid is being made …';
    const { cols, rows, cellMm } = grid;
    const unit = this.preferences.unit();
    return `${cols} x ${rows} cells, ${formatLength(cols * cellMm, unit, 1)} x ${formatLength(rows * cellMm, unit, 1)}`;
  });

  constructor() {
    effect(() => {
      const [carried, plain] = [this.carried(), this.plain()];
      const [model, chart] = [this.acts.model(), this.acts.chart()];
      if (!carried || !plain || !model || !chart) return;
      untracked(() => {
        this.preview(carried.nativeElement, model);
        this.preview(plain.nativeElement, chart.base);
      });
    });
  }

  /** Draws a whole grid small. */
  private preview(canvas: HTMLCanvasElement, model: StitchedGrid): void {
    const context = canvas.getContext('2d', { alpha: false });
    const grid = this.acts.grid();
    if (!context || !grid) return;
    const [width, height] = [grid.cols * grid.cellMm, grid.rows * grid.cellMm];
    const camera = { x: grid.left + width / 2, y: grid.top + height / 2, scale: (SIDE - 24) / Math.max(width, height) };
    new GridPainter().paint(context, camera, { width: SIDE, height: SIDE }, canvas.width / SIDE, {
      grid,
      model,
      threads: this.acts.threads(),
      clothHex: this.store.view()?.cloth.hex ?? '#f4f1ea',
      view: 'colours',
      chosen: undefined,
      cursor: undefined,
      line: undefined,
    });
  }

  /** Scales the picture so that whole cells fill a hoop as far as they can. */
  protected fit(id: string): void {
    const hoop = HOOPS.find((each) => each.id === id);
    const grid = this.acts.grid();
    const recipe = this.store.view();
    if (!hoop || !grid || !recipe) return;
    const size = finishedSize(recipe.picture);
    const factor = hoopFit(hoop, size, grid.cellMm);
    if (factor <= 0) {
      this.snack.open('Not one cell of this size fits into that hoop.', undefined, { duration: 5000 });
      return;
    }
    this.store.change('grid fitted to a hoop', (draft) => {
      Object.assign(draft.picture, stretch(recipe.picture, factor, factor));
    });
  }

  protected async print(): Promise<void> {
    const design = this.conversion.design();
    if (!design || !this.acts.chart()) return;
    this.printing.set(true);
    try {
      const name = this.store.name();
      const pdf = await firstValueFrom(this.api.chartPdf(printedGridOf(design, name, this.store.object()?.id)));
      saveFile(pdf, name, 'chart.pdf');
    } catch (error) {
      this.snack.open(`No chart was drawn: ${(error as Error).message}.`, undefined, { duration: 8000 });
    } finally {
      this.printing.set(false);
    }
  }
}
