import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar, MatSnackBarModule } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import { EllipsisVertical, ImageUp, LucideAngularModule, RefreshCw, Spool } from 'lucide-angular';
import { firstValueFrom } from 'rxjs';
import type { ProjectSummary } from '@open-kite/contract';
import { Api } from '../api/api';
import { SpareWorkers } from '../convert/spare-workers';
import { DESIGN_TYPES, fileOf, PICTURE_TYPES, projectFromFile } from '../shared/picture-drop';
import { formatCount } from '../shared/units';

/** How often the shelf is read while something on it is being made. */
const MAKING_MS = 1000;

/** Projects to go on with, and the place where a picture becomes a new one. */
@Component({
  selector: 'kite-shelf',
  imports: [LucideAngularModule, MatMenuModule, MatSnackBarModule, RouterLink],
  templateUrl: './shelf.html',
  styleUrl: './shelf.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(document:paste)': 'pasted($event)',
    '(document:dragover)': 'dragged($event)',
    '(document:dragleave)': 'left($event)',
    '(document:drop)': 'dropped($event)',
  },
})
export class Shelf {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);

  protected readonly icons = { ImageUp, EllipsisVertical, RefreshCw, Spool };
  protected readonly types = `${PICTURE_TYPES},${DESIGN_TYPES}`;
  protected readonly count = formatCount;

  protected readonly projects = signal<readonly ProjectSummary[] | undefined>(undefined);
  protected readonly listProblem = signal('');
  protected readonly adding = signal('');
  protected readonly problem = signal('');
  protected readonly over = signal(false);

  private again: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.again));
    void this.load();
    inject(SpareWorkers).prepare();
  }

  protected async load(): Promise<void> {
    this.listProblem.set('');
    try {
      const projects = await firstValueFrom(this.api.projects());
      this.projects.set(projects);
      clearTimeout(this.again);
      // What is still being made is asked for until it is there.
      if (projects.some(({ making }) => making)) this.again = setTimeout(() => void this.load(), MAKING_MS);
    } catch (error) {
      this.listProblem.set((error as Error).message);
    }
  }

  protected chosen(event: Event): void {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    if (file) void this.add(file);
    field.value = '';
  }

  protected pasted(event: ClipboardEvent): void {
    const file = fileOf(event.clipboardData);
    if (!file) return;
    event.preventDefault();
    void this.add(file);
  }

  protected dragged(event: DragEvent): void {
    event.preventDefault();
    this.over.set(true);
  }

  protected left(event: DragEvent): void {
    if (event.relatedTarget === null) this.over.set(false);
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    const file = fileOf(event.dataTransfer);
    if (file) void this.add(file);
    else this.problem.set('Nothing was added: what was dropped is not a file.');
  }

  private async add(file: File): Promise<void> {
    if (this.adding()) return;
    this.problem.set('');
    this.adding.set(file.name);
    try {
      const { id } = await projectFromFile(this.api, file);
      await this.router.navigate(['/project', id]);
    } catch (error) {
      this.problem.set(`${file.name}: ${(error as Error).message}. Nothing was added; try another file.`);
    } finally {
      this.adding.set('');
    }
  }

  /** A project on bare cloth: letters and drawings need no picture. */
  protected async blank(): Promise<void> {
    if (this.adding()) return;
    this.problem.set('');
    this.adding.set('bare cloth');
    try {
      const { id } = await firstValueFrom(this.api.createProject('New design', null));
      await this.router.navigate(['/project', id]);
    } catch (error) {
      this.problem.set(`No design was begun: ${(error as Error).message}.`);
    } finally {
      this.adding.set('');
    }
  }

  protected async remove(project: ProjectSummary): Promise<void> {
    try {
      await firstValueFrom(this.api.remove(project.id));
    } catch (error) {
      this.problem.set(`${project.name} was not removed: ${(error as Error).message}.`);
      return;
    }
    await this.load();
    const bar = this.snack.open(`${project.name} is off the shelf.`, 'Put it back', { duration: 12000 });
    bar.onAction().subscribe(() => void firstValueFrom(this.api.restore(project.id)).then(() => this.load()));
  }

  protected preview(project: ProjectSummary): string {
    return `/api/projects/${project.id}/preview?v=${project.updatedAt}`;
  }

  protected day(project: ProjectSummary): string {
    return new Date(project.updatedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
  }
}
