import { ChangeDetectionStrategy, Component, inject, Injector, input, output, signal } from '@angular/core';
import { firstValueFrom, type Observable } from 'rxjs';
import type { BinnedProject } from '@open-kite/contract';
import { Api } from '../api/api';

/** Projects that were taken off the shelf: each can come back, or be deleted for good. */
@Component({
  selector: 'kite-bin',
  template: `
    <header>
      <h2>Taken off the shelf</h2>
      <p>What lies here for 30 days is deleted for good.</p>
      @if (projects().length > 0) {
        <button class="quiet-button" type="button" [disabled]="busy()" (click)="erase()">Delete all of it</button>
      }
    </header>
    @if (problem(); as text) {
      <p class="problem" role="alert">{{ text }}</p>
    }
    <ul>
      @for (project of projects(); track project.id) {
        <li>
          <img
            [src]="project.hasPreview ? '/api/projects/' + project.id + '/preview' : 'kite.svg'"
            alt=""
            loading="lazy"
          />
          <span class="name">{{ project.name }}</span>
          <span class="day">{{ day(project) }}</span>
          <button
            class="solid-button second"
            type="button"
            [disabled]="busy()"
            [attr.aria-label]="'Put it back: ' + project.name"
            (click)="restore(project)"
          >
            Put it back
          </button>
          <button
            class="quiet-button"
            type="button"
            [disabled]="busy()"
            [attr.aria-label]="'Delete for good: ' + project.name"
            (click)="erase(project)"
          >
            Delete for good
          </button>
        </li>
      } @empty {
        <li class="empty">Nothing lies here.</li>
      }
    </ul>
  `,
  styleUrl: './bin.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Bin {
  private readonly api = inject(Api);
  private readonly injector = inject(Injector);

  readonly projects = input.required<readonly BinnedProject[]>();
  /** Something came back, or went for good: what is shown has to be read anew. */
  readonly changed = output();

  protected readonly busy = signal(false);
  protected readonly problem = signal('');

  protected day({ removedAt }: BinnedProject): string {
    return new Date(removedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
  }

  protected async restore(project: BinnedProject): Promise<void> {
    await this.carryOut(this.api.restore(project.id), `${project.name} did not come back`);
  }

  /** Deletes one for good, or all, once that was confirmed. */
  protected async erase(project?: BinnedProject): Promise<void> {
    const [{ EraseDialog }, { MatDialog }] = await Promise.all([
      import('./erase-dialog'),
      import('@angular/material/dialog'),
    ]);
    const all = this.projects().length;
    const what = project?.name ?? (all === 1 ? 'The project that lies here' : `The ${all} projects that lie here`);
    const sure: unknown = await firstValueFrom(
      this.injector.get(MatDialog).open(EraseDialog, { data: what }).afterClosed(),
    );
    if (sure === true) await this.carryOut(this.api.erase(project?.id), `${what} could not be deleted`);
  }

  private async carryOut(act: Observable<void>, fails: string): Promise<void> {
    this.busy.set(true);
    this.problem.set('');
    try {
      await firstValueFrom(act);
    } catch (error) {
      this.problem.set(`${fails}: ${(error as Error).message}.`);
    } finally {
      this.busy.set(false);
    }
    this.changed.emit();
  }
}
