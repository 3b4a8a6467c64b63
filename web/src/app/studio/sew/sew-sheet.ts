import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import { FORMATS, printedGridOf, threadKey, type Format } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { MachineApi } from '../../machine/machine-api';
import { ProjectStore } from '../../project/project-store';
import { Fold } from '../../shared/fold';
import { Preferences } from '../../shared/preferences';
import { saveFile } from '../../shared/save-file';
import { ThreadLabel } from '../../shared/thread-label';
import { formatCount, formatLength } from '../../shared/units';
import { StudioState } from '../studio-state';
import { TidyActs } from '../tidy/tidy-acts';
import { CostsSection } from './costs-section';
import { DrawerSection } from './drawer-section';
import { HoopSection } from './hoop-section';
import { StitchLengthsChart } from './stitch-lengths-chart';

/** Findings listed before a design is taken away. */
const WORST = 3;

/** The Sew step: the hoop, what it takes, and every way out of the studio. */
@Component({
  selector: 'kite-sew-sheet',
  imports: [
    CostsSection,
    DrawerSection,
    Fold,
    HoopSection,
    StitchLengthsChart,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    RouterLink,
    ThreadLabel,
  ],
  templateUrl: './sew-sheet.html',
  styleUrls: ['../sheet/sheet-parts.scss', './sew-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SewSheet {
  private readonly api = inject(Api);
  private readonly machine = inject(MachineApi);
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);
  private readonly tidy = inject(TidyActs);
  private readonly cupboard = inject(Cupboard);
  protected readonly state = inject(StudioState);

  protected readonly count = formatCount;
  protected readonly design = this.conversion.design;
  protected readonly figures = this.conversion.figures;
  protected readonly underWay = this.conversion.stale;
  protected readonly looked = this.conversion.findingsFit;
  protected readonly paper = signal<'A4' | 'LETTER'>('A4');
  protected readonly notes = signal('');
  /** Ending of the file that is being written. */
  protected readonly writing = signal('');
  protected readonly refused = signal<readonly string[]>([]);

  protected readonly projectId = computed(() => this.store.stored()?.id);

  /** How many threads there are to lay out, and how much of them. */
  protected readonly spools = computed(() => {
    const threads = this.figures()?.threads ?? [];
    const metres = threads.reduce((sum, { lengthM }) => sum + lengthM, 0);
    return `${threads.length} ${threads.length === 1 ? 'thread' : 'threads'}, ${metres.toFixed(0)} m`;
  });

  protected readonly formats = computed(() => {
    const design = this.design();
    return design ? FORMATS.filter(({ fits }) => !fits || fits(design)) : [];
  });
  /** What fails at the machine comes first; the rest is under Tidy. */
  protected readonly worst = computed(() =>
    this.tidy
      .list()
      .filter(({ level }) => level !== 'waste')
      .slice(0, WORST),
  );
  protected readonly more = computed(() => this.tidy.list().length - this.worst().length);

  protected length(mm: number, digits = 1): string {
    return formatLength(mm, this.preferences.unit(), digits);
  }

  /** How much of a thread is left in the drawer; nothing where it is of no chart. */
  protected inDrawer({ chart, code }: { readonly chart?: string; readonly code?: string }): string {
    if (!chart || !code) return '';
    const spools = this.cupboard.entries().get(threadKey(chart, code))?.spools ?? 0;
    if (spools === 0) return ', none in the drawer';
    return `, ${spools} ${spools === 1 ? 'spool' : 'spools'} in the drawer`;
  }

  protected async take({ ending, type }: Format): Promise<void> {
    const recipe = this.store.recipe();
    const design = this.design();
    if (!recipe || !design || this.writing() !== '') return;
    if (this.conversion.state() !== 'done') {
      this.say('The stitches are still being made; try again in a moment.');
      return;
    }
    const name = this.store.name();
    this.writing.set(ending);
    try {
      saveFile(await this.fileOf(ending, type, name), name, ending);
    } catch (error) {
      this.say(`Nothing was written: ${(error as Error).message}.`);
    } finally {
      this.writing.set('');
    }
  }

  private async fileOf(ending: string, type: string, name: string): Promise<Blob> {
    const recipe = this.store.recipe();
    const design = this.design();
    if (!recipe || !design) throw new Error('there is no design');
    if (ending === 'pdf') {
      return firstValueFrom(this.api.worksheet(await this.list(), name, this.paper(), this.notes()));
    }
    if (ending === 'chart.pdf') return firstValueFrom(this.api.chartPdf(printedGridOf(design, name)));
    return new Blob([await this.conversion.exportAs(ending, name, recipe)], { type });
  }

  private async list(): Promise<Blob> {
    const recipe = this.store.recipe();
    if (!recipe) throw new Error('there is no design');
    return new Blob([await this.conversion.exportAs('csv', this.store.name(), recipe)], { type: 'text/csv' });
  }

  /** Hands the design to the practice machine, and goes there. */
  protected async send(): Promise<void> {
    if (this.conversion.state() !== 'done') {
      this.say('The stitches are still being made; try again in a moment.');
      return;
    }
    this.refused.set([]);
    this.writing.set('machine');
    try {
      await this.machine.send(this.store.name(), await this.list());
      await this.router.navigate(['/machine']);
    } catch (error) {
      this.refused.set((error as Error).message.replace(/^the machine does not take it: /, '').split('; '));
    } finally {
      this.writing.set('');
    }
  }

  private say(text: string): void {
    this.snack.open(text, undefined, { duration: 8000 });
  }
}
