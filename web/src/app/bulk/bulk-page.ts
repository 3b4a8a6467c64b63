import { HttpClient } from '@angular/common/http';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { bulkRunSchema, bulkRunsSchema, type BulkItem, type BulkRun, type ProjectSummary } from '@open-kite/contract';
import { namesOf } from '@open-kite/core';
import { firstValueFrom } from 'rxjs';
import { Api, told } from '../api/api';
import { PageHead } from '../shared/page-head';
import { PICTURE_TYPES } from '../shared/picture-drop';
import { formatCount } from '../shared/units';

const ROOT = '/api/bulk';
const LOOK_MS = 1000;
/** Files that are sent at the same time. */
const AT_ONCE = 2;

type Column = 'name' | 'state' | 'stitches' | 'threads' | 'minutes';

const SAID: Readonly<Record<BulkItem['state'], string>> = {
  waiting: 'waiting',
  making: 'being sewn',
  done: 'done',
  failed: 'skipped',
};

/** Lists of names are smaller than this. */
const MOST_LIST_BYTES = 200_000;

const isList = ({ name, type }: File): boolean => /\.(csv|txt)$/i.test(name) || type === 'text/plain';

/** Bulk runs: many pictures through the settings of one project, or many names through its text. */
@Component({
  selector: 'kite-bulk-page',
  imports: [MatFormFieldModule, MatInputModule, MatSelectModule, PageHead, RouterLink],
  templateUrl: './bulk-page.html',
  styleUrl: './bulk-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:dragover)': '$event.preventDefault()', '(document:drop)': 'dropped($event)' },
})
export class BulkPage {
  private readonly http = inject(HttpClient);
  private readonly api = inject(Api);

  protected readonly runs = signal<readonly BulkRun[]>([]);
  protected readonly projects = signal<readonly ProjectSummary[]>([]);
  protected readonly model = signal<string | null>(null);
  /** What went wrong with the last thing that was asked for; it stays until the next. */
  protected readonly problem = signal('');
  /** Why the runs cannot be read just now. */
  protected readonly lost = signal('');
  protected readonly sending = signal(0);
  /** Names as they are typed, one a line. */
  protected readonly names = signal('');
  protected readonly nameCount = computed(() => namesOf(this.names()).length);
  private readonly chosen = signal<string | undefined>(undefined);
  protected readonly sortBy = signal<{ readonly column: Column; readonly up: boolean } | undefined>(undefined);
  protected readonly types = PICTURE_TYPES;
  protected readonly count = formatCount;
  protected readonly said = SAID;
  protected readonly columns: readonly { readonly id: Column; readonly name: string; readonly number: boolean }[] = [
    { id: 'name', name: 'File', number: false },
    { id: 'state', name: 'State', number: false },
    { id: 'stitches', name: 'Stitches', number: true },
    { id: 'threads', name: 'Threads', number: true },
    { id: 'minutes', name: 'Minutes', number: true },
  ];

  protected readonly run = computed(() => this.runs().find(({ id }) => id === this.chosen()) ?? this.runs().at(0));
  protected readonly items = computed(() => {
    const items = [...(this.run()?.items ?? [])];
    const sort = this.sortBy();
    if (!sort) return items;
    const value = (item: BulkItem): string | number => {
      if (sort.column === 'name' || sort.column === 'state') return item[sort.column];
      return item.figures?.[sort.column] ?? -1;
    };
    return items.sort((a, b) => (sort.up ? 1 : -1) * compare(value(a), value(b)));
  });
  protected readonly done = computed(() => this.items().filter(({ state }) => state === 'done').length);
  protected readonly open = computed(
    () => this.items().filter(({ state }) => state === 'waiting' || state === 'making').length,
  );

  constructor() {
    void this.load();
    void firstValueFrom(this.api.projects())
      .then((projects) => this.projects.set(projects))
      .catch(() => undefined);
    const timer = setInterval(() => void this.load(), LOOK_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  protected async load(): Promise<void> {
    try {
      this.runs.set(await firstValueFrom(told(this.http.get<BulkRun[]>(ROOT), bulkRunsSchema)));
      this.lost.set('');
    } catch (error) {
      this.lost.set((error as Error).message);
    }
  }

  protected look(run: BulkRun): void {
    this.chosen.set(run.id);
  }

  protected sort(column: Column): void {
    this.sortBy.update((now) => ({ column, up: now?.column === column ? !now.up : true }));
  }

  protected picked(event: Event): void {
    const field = event.target as HTMLInputElement;
    void this.begin([...(field.files ?? [])]);
    field.value = '';
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    const files = [...(event.dataTransfer?.files ?? [])];
    const list = files.find(isList);
    if (list) void this.readNames(list);
    void this.begin(files.filter((file) => !isList(file)));
  }

  private async readNames(file: File): Promise<void> {
    if (file.size > MOST_LIST_BYTES) {
      this.problem.set(`${file.name} is too long for a list of names.`);
      return;
    }
    const names = namesOf(await file.text());
    this.names.set(names.map((name) => name.replaceAll('\n', '\\n')).join('\n'));
    if (names.length === 0) this.problem.set(`${file.name}: there are no names in it.`);
  }

  /** Begins a run with the names. */
  protected async sewNames(): Promise<void> {
    const names = namesOf(this.names());
    await this.newRun(names.length, 'name', async ({ id }) => {
      await firstValueFrom(told(this.http.post<BulkRun>(`${ROOT}/${id}/names`, { names }), bulkRunSchema));
      this.names.set('');
    });
  }

  /** Begins a run with files, and sends them one after the other. */
  private async begin(files: readonly File[]): Promise<void> {
    if (files.length === 0) return;
    await this.newRun(files.length, 'picture', async ({ id }) => {
      const left = [...files];
      const sender = async (): Promise<void> => {
        for (let file = left.shift(); file; file = left.shift()) {
          await this.send(id, file);
          this.sending.update((n) => n - 1);
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, sender));
    });
  }

  /** Begins a run by the settings that are chosen, and fills it; one that stays empty is none. */
  private async newRun(count: number, what: string, fill: (run: BulkRun) => Promise<void>): Promise<void> {
    this.problem.set('');
    this.sending.set(count);
    try {
      const body = { name: `${count} ${what}${count === 1 ? '' : 's'}`, project: this.model() };
      const run = await firstValueFrom(told(this.http.post<BulkRun>(ROOT, body), bulkRunSchema));
      this.chosen.set(run.id);
      try {
        await fill(run);
      } catch (error) {
        const { items } = await firstValueFrom(told(this.http.get<BulkRun>(`${ROOT}/${run.id}`), bulkRunSchema));
        if (items.length === 0) await firstValueFrom(told(this.http.delete(`${ROOT}/${run.id}`)));
        throw error;
      }
    } catch (error) {
      this.problem.set((error as Error).message);
    } finally {
      this.sending.set(0);
      await this.load();
    }
  }

  private async send(run: string, file: File): Promise<void> {
    const address = `${ROOT}/${run}/files?name=${encodeURIComponent(file.name)}`;
    const body = new Blob([file], { type: 'application/octet-stream' });
    await firstValueFrom(told(this.http.post<BulkRun>(address, body), bulkRunSchema));
  }

  protected async set(run: BulkRun, what: 'cancel' | 'resume'): Promise<void> {
    await this.carryOut(() => firstValueFrom(told(this.http.post(`${ROOT}/${run.id}/${what}`, {}))));
  }

  protected async remove(run: BulkRun): Promise<void> {
    await this.carryOut(() => firstValueFrom(told(this.http.delete(`${ROOT}/${run.id}`))));
  }

  private async carryOut(work: () => Promise<unknown>): Promise<void> {
    this.problem.set('');
    try {
      await work();
      await this.load();
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }
}

const compare = (a: string | number, b: string | number): number =>
  typeof a === 'number' && typeof b === 'number' ? a - b : String(a).localeCompare(String(b), 'en', { numeric: true });
