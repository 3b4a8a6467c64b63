import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { Conversion } from '../convert/conversion';
import { pageFor } from '../guide/pages';
import { ProjectStore } from '../project/project-store';
import { StudioState } from './studio-state';

/** The list of keys. */
@Component({
  selector: 'kite-shortcuts',
  imports: [A11yModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="card" role="dialog" aria-modal="true" aria-labelledby="keys-title" cdkTrapFocus cdkTrapFocusAutoCapture>
      <h2 id="keys-title">Keys</h2>
      <dl>
        @for (key of keys; track key.does) {
          <dt>{{ key.press }}</dt>
          <dd>{{ key.does }}</dd>
        }
      </dl>
      <p class="guide">
        Guide:
        <a [href]="'/guide/' + guide().id" target="_blank">{{ guide().title }}</a>
      </p>
      <button class="solid-button" type="button" (click)="closed.emit()">Close</button>
    </div>
  `,
  styles: `
    :host {
      position: fixed;
      inset: 0;
      z-index: 10;
      display: grid;
      place-items: center;
      background: rgb(0 0 0 / 35%);
    }
    .card {
      padding: 22px 28px;
      border-radius: 16px;
      background: var(--paper);
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 5px 22px;
      margin: 12px 0 18px;
    }
    dt {
      font-weight: 600;
    }
    dd {
      margin: 0;
    }
    .guide {
      margin: 0 0 18px;
    }
    .guide a {
      color: var(--glass);
      font-weight: 600;
    }
  `,
})
export class Shortcuts {
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  private readonly store = inject(ProjectStore);
  readonly closed = output();

  /** What the guide says of the job at hand. */
  protected readonly guide = computed(() => {
    const design = this.conversion.design();
    return pageFor({
      knot: this.state.knot(),
      method: this.store.view()?.method,
      vector: design?.pictures.some(({ vector }) => vector) ?? false,
      gradient: design?.pieces.some(({ gradient }) => gradient) ?? false,
    });
  });

  protected readonly keys = [
    { press: '1 … 6', does: 'open a step of the Line' },
    { press: 'F6', does: 'to the next part: Line, Tray, Stage, Sheet, Reel; with Shift back' },
    { press: 'P', does: 'play the sewing, or pause' },
    { press: 'T', does: 'try-outs: several settings side by side' },
    { press: '. and ,', does: 'in Tidy, the next finding and the one before' },
    { press: 'L, K, D, B', does: 'lens, split line, picture faded in, picture alone' },
    { press: '+, −, F', does: 'zoom in, zoom out, show all' },
    { press: 'arrows', does: 'move what is chosen by 0.1 mm, with Shift by 1 mm; else the cloth' },
    { press: 'Ctrl C, X, V', does: 'copy, cut, paste; also into another project' },
    { press: 'Ctrl D', does: 'duplicate; so does Alt while pulling' },
    { press: 'Ctrl G', does: 'group; with Shift, ungroup' },
    { press: 'Page Up, Page Down', does: 'one higher, one lower in the stack' },
    { press: 'Alt arrows', does: 'move the lens or the split line' },
    { press: 'space or middle button', does: 'move the cloth' },
    { press: 'Ctrl Z, Ctrl Y', does: 'undo, redo' },
    { press: 'Del', does: 'remove what is chosen; pieces of a picture stay bare' },
    { press: 'Ctrl A, S', does: 'choose all pieces; show only the chosen ones' },
    { press: 'Enter, Backspace', does: 'end a drawn line; take its last point back' },
    { press: 'X, E, Q, A, R, N, U, M', does: 'tools of the grid, while it is changed by hand' },
    { press: 'Esc', does: 'let go of the chosen pieces' },
    { press: '?', does: 'this list' },
  ];
}
