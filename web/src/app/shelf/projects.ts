import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField, MatLabel } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { EllipsisVertical, LucideAngularModule } from 'lucide-angular';
import { firstValueFrom } from 'rxjs';
import { MOST_SHARED, type ProjectSummary } from '@open-kite/contract';
import { Api } from '../api/api';
import { ChoiceField } from '../shared/choice-field';
import { Preferences } from '../shared/preferences';
import type { Renamed } from '../shared/rename-dialog';
import { saveFile } from '../shared/save-file';
import { formatCount } from '../shared/units';
import { listed, PROJECT_ORDERS } from './project-orders';

/** Projects that are laid out before somebody looks further down: more than a large screen holds. */
const AT_A_TIME = 60;

/** The projects that lie on the shelf: found, sorted, opened, and dealt with one by one or several at once. */
@Component({
  selector: 'kite-projects',
  imports: [
    ChoiceField,
    LucideAngularModule,
    MatCheckbox,
    MatFormField,
    MatInput,
    MatLabel,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    RouterLink,
  ],
  templateUrl: './projects.html',
  styleUrl: './projects.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Projects {
  private readonly api = inject(Api);
  private readonly injector = inject(Injector);
  private readonly preferences = inject(Preferences);

  readonly projects = input.required<readonly ProjectSummary[]>();
  /** What lies on the shelf is another than what is shown. */
  readonly changed = output();

  protected readonly icons = { EllipsisVertical };
  protected readonly orders = PROJECT_ORDERS;
  protected readonly count = formatCount;
  protected readonly wanted = signal('');
  protected readonly order = this.preferences.shelfOrder;
  protected readonly shown = computed(() => listed(this.projects(), this.wanted(), this.order()));
  /** A long shelf is laid out piece by piece, as far as somebody looks; another search or order begins anew. */
  private readonly most = linkedSignal({
    source: () => `${this.order()} ${this.wanted()}`,
    computation: () => AT_A_TIME,
  });
  protected readonly inView = computed(() => this.shown().slice(0, this.most()));
  private readonly more = viewChild<ElementRef<HTMLElement>>('more');
  /** Ids of those that are chosen; one that has gone is not chosen any more. */
  protected readonly chosen = linkedSignal<readonly ProjectSummary[], ReadonlySet<string>>({
    source: this.projects,
    computation: (projects, before) => new Set(projects.flatMap(({ id }) => (before?.value.has(id) ? [id] : []))),
  });
  protected readonly several = computed(() => this.shown().filter(({ id }) => this.chosen().has(id)));
  protected readonly tooMany = computed(() => this.several().length > MOST_SHARED);
  protected readonly mostShared = MOST_SHARED;
  protected readonly busy = signal('');
  protected readonly problem = signal('');

  constructor() {
    effect((onCleanup) => {
      const end = this.more()?.nativeElement;
      if (!end) return;
      // Whoever comes near the end need not press.
      const watch = new IntersectionObserver(([{ isIntersecting }]) => isIntersecting && this.showMore(), {
        rootMargin: '600px',
      });
      watch.observe(end);
      onCleanup(() => watch.disconnect());
    });
  }

  protected showMore(): void {
    this.most.update((most) => most + AT_A_TIME);
  }

  protected find(event: Event): void {
    this.wanted.set((event.target as HTMLInputElement).value);
  }

  protected choose(id: string, on: boolean): void {
    const next = new Set(this.chosen());
    if (on) next.add(id);
    else next.delete(id);
    this.chosen.set(next);
  }

  protected chooseAll(): void {
    this.chosen.set(new Set(this.shown().map(({ id }) => id)));
  }

  protected chooseNone(): void {
    this.chosen.set(new Set());
  }

  protected async rename(project: ProjectSummary): Promise<void> {
    const [{ RenameDialog }, { MatDialog }] = await Promise.all([
      import('../shared/rename-dialog'),
      import('@angular/material/dialog'),
    ]);
    const data: Renamed = { name: project.name };
    const opened = this.injector.get(MatDialog).open<unknown, Renamed, string>(RenameDialog, { data });
    const name = await firstValueFrom(opened.afterClosed());
    if (name === undefined || name === project.name) return;
    await this.carryOut('Renaming', `${project.name} keeps its name`, () =>
      firstValueFrom(this.api.rename(project.id, name)),
    );
  }

  protected async duplicate(projects: readonly ProjectSummary[]): Promise<void> {
    for (const project of projects) {
      const went = await this.carryOut('Duplicating', `${project.name} was not duplicated`, () =>
        firstValueFrom(this.api.duplicate(project.id)),
      );
      if (!went) return;
    }
  }

  /** Hands out archives: everything in them can be changed again, here and elsewhere. */
  protected async share(projects: readonly ProjectSummary[]): Promise<void> {
    const [first, ...rest] = projects;
    const ids = projects.map(({ id }) => id);
    await this.carryOut('Packing', 'Nothing was shared', async () => {
      const file = await firstValueFrom(this.api.share(ids));
      if (rest.length === 0) saveFile(file, first.name, 'kite');
      else saveFile(file, `Open Kite ${ids.length} projects`, 'zip');
    });
  }

  protected async remove(projects: readonly ProjectSummary[]): Promise<void> {
    const gone: ProjectSummary[] = [];
    for (const project of projects) {
      const went = await this.carryOut('Taking off', `${project.name} was not taken off`, () =>
        firstValueFrom(this.api.remove(project.id)),
      );
      if (!went) break;
      gone.push(project);
    }
    if (gone.length === 0) return;
    const [{ name }] = gone;
    const what = gone.length === 1 ? `${name} is off the shelf.` : `${gone.length} projects are off the shelf.`;
    const { MatSnackBar } = await import('@angular/material/snack-bar');
    const bar = this.injector
      .get(MatSnackBar)
      .open(what, gone.length === 1 ? 'Put it back' : 'Put them back', { duration: 12000 });
    bar.onAction().subscribe(() => void this.putBack(gone));
  }

  private async putBack(projects: readonly ProjectSummary[]): Promise<void> {
    for (const { id, name } of projects) {
      await this.carryOut('Putting back', `${name} did not come back`, () => firstValueFrom(this.api.restore(id)));
    }
  }

  /** Does something to what lies on the shelf; whether it went well. */
  private async carryOut(doing: string, fails: string, act: () => Promise<unknown>): Promise<boolean> {
    this.busy.set(doing);
    this.problem.set('');
    try {
      await act();
      return true;
    } catch (error) {
      this.problem.set(`${fails}: ${(error as Error).message}.`);
      return false;
    } finally {
      this.busy.set('');
      this.changed.emit();
    }
  }

  protected preview(project: ProjectSummary): string {
    return `/api/projects/${project.id}/preview?v=${project.updatedAt}`;
  }

  protected day(project: ProjectSummary): string {
    return new Date(project.updatedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
  }
}
