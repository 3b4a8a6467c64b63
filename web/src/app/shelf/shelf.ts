import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { ImageUp, LucideAngularModule, RefreshCw, Spool } from 'lucide-angular';
import { firstValueFrom } from 'rxjs';
import type { BinnedProject, ProjectSummary } from '@open-kite/contract';
import { Api } from '../api/api';
import { SpareWorkers } from '../convert/spare-workers';
import { DESIGN_TYPES, fileOf, PICTURE_TYPES, projectFromFile } from '../shared/picture-drop';
import { Bin } from './bin';
import { Projects } from './projects';
import { SewnSample } from './sewn-sample';

/** How often the shelf is read while something on it is being made. */
const MAKING_MS = 1000;

/** Projects to go on with, and the place where a picture becomes a new one. */
@Component({
  selector: 'kite-shelf',
  imports: [Bin, LucideAngularModule, Projects, RouterLink, SewnSample],
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
  private readonly workers = inject(SpareWorkers);
  private readonly router = inject(Router);

  protected readonly icons = { ImageUp, RefreshCw, Spool };
  protected readonly types = `${PICTURE_TYPES},${DESIGN_TYPES}`;

  protected readonly projects = signal<readonly ProjectSummary[] | undefined>(undefined);
  /** What was taken off, and whether it is shown. */
  protected readonly bin = signal<readonly BinnedProject[]>([]);
  protected readonly binOpen = signal(false);
  protected readonly listProblem = signal('');
  /** What is wrong with the server's store: nothing is kept then. */
  protected readonly damage = signal('');
  protected readonly adding = signal('');
  protected readonly problem = signal('');
  protected readonly over = signal(false);

  private again: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.again));
    void this.load();
    this.workers.prepare();
  }

  protected async load(): Promise<void> {
    this.listProblem.set('');
    try {
      const [projects, bin, health] = await Promise.all([
        firstValueFrom(this.api.projects()),
        firstValueFrom(this.api.bin()),
        firstValueFrom(this.api.health()),
      ]);
      this.damage.set(health.damage ?? '');
      this.projects.set(projects);
      this.bin.set(bin);
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
      const { id } = await projectFromFile(this.api, file, (picture) => this.workers.fetchAhead(picture));
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
}
