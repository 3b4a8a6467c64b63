import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FormsModule } from '@angular/forms';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import {
  differenceWord,
  isLow,
  parseChartContent,
  parseChartFile,
  threadFault,
  threadKey,
  writeChart,
  writePalette,
  writeStash,
  type BadLine,
  type ChartContent,
  type ChartThread,
  type StashEntry,
} from '@open-kite/core';
import { Archive, Download, Ellipsis, LucideAngularModule, Plus, Search, Trash2, Upload } from 'lucide-angular';
import type { CupboardChart } from '@open-kite/contract';
import { Cupboard } from './cupboard';
import { findThreads, readColour, type ListedThread, type ThreadOrder } from './thread-search';

/** What the shelves on the left stand for: one chart, all of them, or the drawer. */
type Shelf = { readonly kind: 'all' } | { readonly kind: 'drawer' } | { readonly kind: 'chart'; readonly id: string };

const TILE_WIDTH = 118;
const NEW_THREAD: ChartThread = { code: '', name: '', hex: '#2f756e', weight: 40, finish: 'plain' };
const UNDO_MS = 9000;

/** The thread cupboard: charts with their threads, the user's own charts, and what is in the drawer. */
@Component({
  selector: 'kite-thread-page',
  imports: [MatTooltipModule, FormsModule, LucideAngularModule, MatMenuModule, RouterLink, ScrollingModule],
  templateUrl: './thread-page.html',
  styleUrl: './thread-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThreadPage {
  protected readonly cupboard = inject(Cupboard);
  private readonly snack = inject(MatSnackBar);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly destroyed = inject(DestroyRef);

  /** Colour looked for when the page is opened from a project. */
  readonly near = input<string>();

  protected readonly icons = { Archive, Download, Ellipsis, Plus, Search, Trash2, Upload };
  protected readonly word = differenceWord;
  protected readonly state = signal<'loading' | 'ready' | 'failed'>('loading');
  protected readonly failure = signal('');
  protected readonly shelf = signal<Shelf>({ kind: 'all' });
  protected readonly words = linkedSignal(() => this.near() ?? '');
  protected readonly order = signal<ThreadOrder>('hue');
  protected readonly chosen = signal<string>('');
  protected readonly columns = signal(6);
  /** Thread being written, for a chart of the user's own. */
  protected readonly draft = signal<ChartThread | undefined>(undefined);
  protected readonly draftFault = computed(() => {
    const draft = this.draft();
    const chart = this.chart();
    if (!draft || !chart) return undefined;
    const twice = chart.threads.some((t) => t.code === draft.code && t.code !== this.draftOf());
    return threadFault(draft) ?? (twice ? `the code "${draft.code}" is used twice` : undefined);
  });
  private readonly draftOf = signal('');
  /** What an import left out. */
  protected readonly bad = signal<{ name: string; good: number; lines: readonly BadLine[] } | undefined>(undefined);

  protected readonly chart = computed((): CupboardChart | undefined => {
    const shelf = this.shelf();
    return shelf.kind === 'chart' ? this.cupboard.charts().find((c) => c.id === shelf.id) : undefined;
  });
  protected readonly colour = computed(() => readColour(this.words()));

  private readonly listed = computed((): ListedThread[] => {
    const shelf = this.shelf();
    const entries = this.cupboard.entries();
    return this.cupboard
      .charts()
      .flatMap((chart) =>
        shelf.kind === 'chart' && shelf.id !== chart.id
          ? []
          : chart.threads
              .filter((t) => shelf.kind !== 'drawer' || entries.has(threadKey(chart.id, t.code)))
              .map((t) => ({ ...t, chart: chart.id, chartName: chart.name })),
      );
  });
  protected readonly found = computed(() => {
    const colour = this.colour();
    return findThreads(this.listed(), colour ? '' : this.words(), colour, this.order());
  });
  protected readonly rows = computed(() => {
    const found = this.found();
    const columns = this.columns();
    const rows: (ListedThread & { key: string; stock: StashEntry | undefined; low: boolean })[][] = [];
    const entries = this.cupboard.entries();
    for (let i = 0; i < found.length; i += columns) {
      rows.push(
        found.slice(i, i + columns).map((thread) => {
          const key = threadKey(thread.chart, thread.code);
          const stock = entries.get(key);
          return { ...thread, key, stock, low: stock !== undefined && isLow(stock) };
        }),
      );
    }
    return rows;
  });
  protected readonly thread = computed(() => {
    const key = this.chosen();
    const found = this.listed().find((t) => threadKey(t.chart, t.code) === key);
    return found && { ...found, stock: this.cupboard.entries().get(key) ?? { spools: 0, lowAt: 0 } };
  });
  protected readonly drawer = computed(() => {
    const entries = this.cupboard.stash();
    return {
      threads: entries.filter((e) => e.spools > 0).length,
      spools: entries.reduce((sum, e) => sum + e.spools, 0),
      low: entries.filter(isLow).length,
    };
  });

  private readonly viewport = viewChild(CdkVirtualScrollViewport);

  constructor() {
    void this.load();
    // Another search, order or shelf is read from its start.
    effect(() => {
      this.words();
      this.order();
      this.shelf();
      untracked(() => this.viewport()?.scrollToIndex(0));
    });
    afterNextRender(() => {
      const area = this.host.nativeElement.querySelector('.threads') as HTMLElement;
      const observer = new ResizeObserver(() =>
        this.columns.set(Math.max(1, Math.floor((area.clientWidth - 24) / TILE_WIDTH))),
      );
      observer.observe(area);
      this.destroyed.onDestroy(() => observer.disconnect());
    });
  }

  protected async load(): Promise<void> {
    this.state.set('loading');
    try {
      await this.cupboard.load();
      this.state.set('ready');
    } catch (error) {
      this.failure.set((error as Error).message);
      this.state.set('failed');
    }
  }

  protected isShelf(kind: Shelf['kind'], id?: string): boolean {
    const shelf = this.shelf();
    return shelf.kind === kind && (shelf.kind !== 'chart' || shelf.id === id);
  }

  protected openShelf(shelf: Shelf): void {
    this.shelf.set(shelf);
    this.draft.set(undefined);
    this.bad.set(undefined);
  }

  // The drawer.

  protected async setStock(thread: ListedThread, change: Partial<StashEntry>): Promise<void> {
    const before = this.cupboard.entries().get(threadKey(thread.chart, thread.code)) ?? { spools: 0, lowAt: 0 };
    const limit = (value: number): number => Math.min(999, Math.max(0, Math.round(value) || 0));
    const spools = limit(change.spools ?? before.spools);
    const lowAt = limit(change.lowAt ?? before.lowAt);
    await this.attempt(() => this.cupboard.setStash([{ chart: thread.chart, code: thread.code, spools, lowAt }]));
  }

  // Charts of the user's own.

  protected async newChart(): Promise<void> {
    const names = new Set(this.cupboard.charts().map((c) => c.name));
    let name = 'My threads';
    for (let n = 2; names.has(name); n++) name = `My threads ${n}`;
    const chart = await this.attempt(() => this.cupboard.add({ name, threads: [] }));
    if (chart) this.openShelf({ kind: 'chart', id: chart.id });
  }

  protected rename(chart: CupboardChart, event: Event): void {
    const field = event.target as HTMLInputElement;
    const name = field.value.trim().slice(0, 80);
    if (name === '' || name === chart.name) field.value = chart.name;
    else void this.store(chart, { name, threads: chart.threads });
  }

  protected editThread(thread?: ChartThread): void {
    const { code, name, hex, weight, finish } = thread ?? NEW_THREAD;
    this.draftOf.set(code);
    this.draft.set({ code, name, hex, weight, finish });
  }

  protected setDraft(change: Partial<ChartThread>): void {
    this.draft.update((draft) => draft && { ...draft, ...change });
  }

  protected async keepDraft(): Promise<void> {
    const chart = this.chart();
    const draft = this.draft();
    if (!chart || !draft || this.draftFault()) return;
    const of = this.draftOf();
    const threads = of === '' ? [...chart.threads, draft] : chart.threads.map((t) => (t.code === of ? draft : t));
    if (await this.store(chart, { name: chart.name, threads })) {
      this.draft.set(undefined);
      this.chosen.set(threadKey(chart.id, draft.code));
    }
  }

  protected async removeThread(chart: CupboardChart, code: string): Promise<void> {
    const before = chart.threads;
    const saved = await this.store(chart, { name: chart.name, threads: before.filter((t) => t.code !== code) });
    if (!saved) return;
    this.draft.set(undefined);
    this.snack
      .open(`${code} was taken out.`, 'Undo', { duration: UNDO_MS })
      .onAction()
      .subscribe(() => {
        const now = this.cupboard.charts().find((c) => c.id === chart.id);
        if (now) void this.store(now, { name: now.name, threads: before });
      });
  }

  protected async removeChart(chart: CupboardChart): Promise<void> {
    const done = await this.attempt(() => this.cupboard.remove(chart.id).then(() => true));
    if (!done) return;
    this.openShelf({ kind: 'all' });
    this.snack
      .open(`"${chart.name}" was taken out. Projects that use it keep their threads.`, 'Undo', { duration: UNDO_MS })
      .onAction()
      .subscribe(() => void this.attempt(() => this.cupboard.restore(chart.id)));
  }

  // Files.

  protected async importFile(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    if (file.size > 2_000_000) {
      this.say(`${file.name} is too large for a chart (at most 2 MB).`);
      return;
    }
    const read = parseChartFile(await file.text());
    const name = read.name ?? file.name.replace(/\.[^.]*$/, '');
    this.bad.set(undefined);
    if (read.threads.length === 0) {
      this.bad.set({ name: file.name, good: 0, lines: read.bad });
      return;
    }
    const chart = await this.attempt(() =>
      this.cupboard.add(parseChartContent({ name: name.slice(0, 80), threads: read.threads })),
    );
    if (!chart) return;
    this.openShelf({ kind: 'chart', id: chart.id });
    if (read.bad.length > 0) this.bad.set({ name: file.name, good: read.threads.length, lines: read.bad });
    else this.say(`${read.threads.length} threads came in from ${file.name}.`);
  }

  protected exportChart(chart: CupboardChart, kind: 'csv' | 'gpl'): void {
    this.saveFile(`${chart.name}.${kind}`, kind === 'csv' ? writeChart(chart) : writePalette(chart));
  }

  protected exportDrawer(): void {
    this.saveFile('drawer.csv', writeStash(this.cupboard.stash()));
  }

  private saveFile(name: string, text: string): void {
    const address = URL.createObjectURL(new Blob([text], { type: 'text/plain' }));
    const link = document.createElement('a');
    link.href = address;
    link.download = name.replace(/[^\p{L}\p{N}.]+/gu, '-').toLowerCase();
    link.click();
    setTimeout(() => URL.revokeObjectURL(address), 10_000);
  }

  private async store(chart: CupboardChart, content: ChartContent): Promise<boolean> {
    return (await this.attempt(() => this.cupboard.save(chart, content))) !== undefined;
  }

  /** Does something on the server; where it fails that is said, and what is shown is fetched anew. */
  private async attempt<T>(act: () => Promise<T>): Promise<T | undefined> {
    try {
      return await act();
    } catch (error) {
      this.say(`Nothing was changed: ${(error as Error).message}.`);
      await this.cupboard.load().catch(() => undefined);
      return undefined;
    }
  }

  private say(text: string): void {
    this.snack.open(text, undefined, { duration: 7000 });
  }
}
