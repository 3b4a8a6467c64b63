import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { objectFrame } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { toHoop, toStage, type Camera, type Size } from '../stage/camera';
import { DrawActs, type DrawTool } from './draw-acts';
import { DrawEditor, type DrawView, type PointEdit } from './draw-editor';

/** What to do with each tool, in a few words. */
const HINTS: Readonly<Record<DrawTool['kind'], string>> = {
  points: 'Click for corners, pull for curves. On the first point it closes; Enter ends a line.',
  free: 'Draw with the button held down.',
  area: 'Point at a colour to take its outline.',
  shape: 'Pull the shape open.',
  edit: 'Pull points; double click adds one, or rounds a corner.',
};

/** Drawing over the stage. */
@Component({
  selector: 'kite-draw-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #host class="surface" (pointerdown)="passOn($event)"></div>
    <p role="status">
      <span>{{ hint() }}</span>
      <button type="button" class="quiet-button" (click)="acts.leave()">Done</button>
    </p>
    @if (acts.tool()?.kind === 'edit') {
      <div class="edits" role="toolbar" aria-label="Points">
        @for (edit of edits(); track edit.what) {
          <button type="button" class="quiet-button" [disabled]="!edit.can" (click)="run(edit.what)">
            {{ edit.label }}
          </button>
        }
      </div>
    }
  `,
  styles: `
    :host,
    .surface {
      position: absolute;
      inset: 0;
    }
    .surface {
      cursor: crosshair;
      touch-action: none;
    }
    .edits {
      position: absolute;
      left: 32px;
      top: 72px;
      display: flex;
      flex-wrap: wrap;
      gap: 2px;
      max-width: calc(100% - 330px);
      padding: 3px;
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--paper);
    }
    p {
      position: absolute;
      left: 32px;
      top: 30px;
      display: flex;
      align-items: center;
      gap: 10px;
      width: max-content;
      max-width: calc(100% - 330px);
      margin: 0;
      padding: 3px 4px 3px 14px;
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--paper);
    }
  `,
  host: { '(document:keydown)': 'keyed($event)' },
})
export class DrawPane implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  protected readonly acts = inject(DrawActs);
  private readonly host = viewChild.required<ElementRef<HTMLDivElement>>('host');
  private editor: DrawEditor | undefined;

  readonly camera = input.required<Camera>();
  readonly size = input.required<Size>();
  /** A press that is meant for the stage below: it moves the cloth. */
  readonly passed = output<PointerEvent>();

  protected readonly hint = computed(() => HINTS[this.acts.tool()?.kind ?? 'points']);

  /** Ends of the lines there are, in mm. */
  private readonly ends = computed(() =>
    (this.conversion.design()?.pieces ?? [])
      .filter(({ family }) => family === 'line')
      .flatMap(({ paths }) =>
        paths.flatMap(({ points }) => [
          { x: points[0], y: points[1] },
          { x: points[points.length - 2], y: points[points.length - 1] },
        ]),
      ),
  );

  private readonly view = computed((): DrawView | undefined => {
    const tool = this.acts.tool();
    const view = this.store.view();
    if (!tool || !view) return undefined;
    const frame = objectFrame(view.objects, this.acts.edited()?.id ?? view.id);
    const camera = this.camera();
    const size = this.size();
    return {
      ...size,
      tool,
      paths: this.acts.edited()?.paths ?? [],
      ends: this.ends().map(({ x, y }) => toStage(camera, size, x, y)),
      toStage: (u, v) => {
        const { x, y } = frame.toHoop(u, v);
        return toStage(camera, size, x, y);
      },
      toSource: (x, y) => {
        const at = toHoop(camera, size, x, y);
        return frame.toFrame(at.x, at.y);
      },
    };
  });

  constructor() {
    afterNextRender(() => {
      this.editor = new DrawEditor(this.host().nativeElement, {
        drawn: (paths) => void this.acts.drawn(paths),
        reshaped: (paths) => {
          const id = this.acts.edited()?.id;
          if (id !== undefined) this.acts.reshape(id, paths);
        },
        pointed: (u, v) => void this.acts.takeArea(u, v),
        chose: () => this.look.update((n) => n + 1),
      });
      const view = this.view();
      if (!view) return;
      this.editor.update(view);
      this.look.update((n) => n + 1);
    });
    effect(() => {
      const view = this.view();
      if (!view || !this.editor) return;
      this.editor.update(view);
      // What can be done to the points is asked of the editor, once it has them.
      untracked(() => this.look.update((n) => n + 1));
    });
  }

  /** Grows whenever other points are chosen: the editor knows no signals. */
  private readonly look = signal(0);

  /** What can be done to the points now. */
  protected readonly edits = computed((): { what: PointEdit; label: string; can: boolean }[] => {
    this.look();
    this.acts.edited();
    const { editor } = this;
    const chosen = editor?.chosenCount ?? 0;
    const { now = 0, simpler = 0 } = editor?.counts() ?? {};
    const gap = editor?.endGap();
    const paths = this.acts.edited()?.paths ?? [];
    const mm = gap === undefined ? '' : ` (${(gap / this.camera().scale).toFixed(1)} mm apart)`;
    return [
      { what: 'corner', label: 'Corner or smooth', can: chosen > 0 },
      { what: 'straighten', label: 'Straighten', can: chosen > 1 },
      { what: 'cut', label: 'Cut open', can: chosen === 1 },
      { what: 'close', label: 'Close', can: paths.some(({ closed }) => !closed) },
      { what: 'join', label: `Join ends${mm}`, can: gap !== undefined },
      { what: 'simplify', label: simpler < now ? `Simplify: ${now} to ${simpler}` : 'Simplify', can: simpler < now },
    ];
  });

  protected run(what: PointEdit): void {
    this.editor?.edit(what);
    this.look.update((n) => n + 1);
  }

  ngOnDestroy(): void {
    this.editor?.close();
  }

  protected passOn(event: PointerEvent): void {
    if (event.button === 1) this.passed.emit(event);
  }

  protected keyed(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (target.closest('input, textarea, mat-select, .cdk-overlay-container') || event.ctrlKey || event.metaKey) return;
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const step = steps[event.key];
    const by = event.shiftKey ? 10 : 1;
    if (step && this.editor?.nudge(step[0] * by, step[1] * by)) event.preventDefault();
    else if (event.key === 'Enter') this.editor?.finish();
    else if (event.key === 'Backspace' || event.key === 'Delete') {
      if (this.editor?.removePoint()) event.stopImmediatePropagation();
    }
  }
}
