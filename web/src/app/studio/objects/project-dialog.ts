import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { catchError, map, of } from 'rxjs';
import type { ProjectSummary } from '@open-kite/contract';
import { Api } from '../../api/api';
import { listed } from '../../shelf/project-orders';

interface Listed {
  readonly projects?: readonly ProjectSummary[];
  readonly problem?: string;
}

/** Asks for a project of the shelf; closes with it, or with nothing. */
@Component({
  selector: 'kite-project-dialog',
  imports: [MatDialogModule, MatFormFieldModule, MatInputModule],
  template: `
    <h2 mat-dialog-title>Add another project</h2>
    <mat-dialog-content>
      <p>Its objects are put on top of this design as one group; they are moved, turned and scaled together.</p>
      @if (shelf().problem; as problem) {
        <p class="problem" role="alert">The shelf could not be read: {{ problem }}.</p>
      } @else if (shelf().projects) {
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>Find by name</mat-label>
          <input #field matInput type="search" autocomplete="off" cdkFocusInitial (input)="words.set(field.value)" />
        </mat-form-field>
        <ul role="list">
          @for (project of shown(); track project.id) {
            <li>
              <button type="button" [mat-dialog-close]="project">
                @if (project.hasPreview) {
                  <img [src]="'/api/projects/' + project.id + '/preview?r=' + project.revision" alt="" loading="lazy" />
                }
                <span>{{ project.name }}</span>
                @if (project.figures; as figures) {
                  <small>{{ figures.stitches }} stitches, {{ figures.threads }} threads</small>
                }
              </button>
            </li>
          } @empty {
            <li class="none">
              {{ words() ? 'No other project has a name like that.' : 'There is no other project.' }}
            </li>
          }
        </ul>
      } @else {
        <p role="status">Reading the shelf …</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="quiet-button" type="button" mat-dialog-close>Leave it</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
      gap: 10px;
      max-height: 46vh;
      margin: 12px 0 0;
      padding: 2px;
      overflow: auto;
      list-style: none;
    }
    li.none {
      grid-column: 1 / -1;
    }
    button:not(.quiet-button) {
      display: grid;
      grid-template-rows: 96px auto auto;
      gap: 3px;
      width: 100%;
      padding: 8px;
      border: 1px solid var(--line);
      border-radius: 9px;
      background: var(--paper);
      color: var(--ink);
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    button:not(.quiet-button):hover {
      border-color: var(--ember);
    }
    img {
      width: 100%;
      height: 96px;
      object-fit: contain;
    }
    span {
      grid-row: 2;
      overflow-wrap: anywhere;
      font-weight: 600;
    }
    small {
      grid-row: 3;
      color: var(--mute);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProjectDialog {
  /** The project that is open, which is not offered. */
  private readonly open = inject<string>(MAT_DIALOG_DATA);
  protected readonly words = signal('');
  protected readonly shelf = toSignal<Listed, Listed>(
    inject(Api)
      .projects()
      .pipe(
        map((projects): Listed => ({ projects })),
        catchError((error: Error) => of<Listed>({ problem: error.message })),
      ),
    { initialValue: {} },
  );
  protected readonly shown = computed(() => {
    const others = (this.shelf().projects ?? []).filter(({ id, making }) => id !== this.open && !making);
    return listed(others, this.words(), 'changed');
  });
}
