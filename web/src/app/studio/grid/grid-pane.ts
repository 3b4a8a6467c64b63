import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  cellsBetween,
  cornerAt,
  endsOfStep,
  latticeStride,
  layPart,
  sideAt,
  snapLine,
  stepsOfLine,
  type Part,
  type StitchedGrid,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { toHoop, type Camera, type Size } from '../stage/camera';
import { GridActs, loose, type GridTool } from './grid-acts';
import { GridPainter } from './grid-painter';

/** What each tool does, in a few words. */
const HINTS: Readonly<Record<GridTool, string>> = {
  stitch: 'Press and pull to stitch cells. Part crosses go to the corner you point at.',
  bare: 'Press and pull to make cells bare.',
  take: 'Point at a cell to take up its thread.',
  fill: 'Point at an area: it gets the thread in hand.',
  replace: 'Point at a thread: all of it becomes the thread in hand, or what of it is chosen.',
  back: 'Pull a line along the grid or a diagonal.',
  unpick: 'Press and pull over back stitches to take them out.',
  choose: 'Pull a frame around cells; pull it on to move them, with Alt to leave a copy.',
};

/** Back stitches within this share of a cell are unpicked. */
const NEAR = 0.28;

interface Place {
  /** In cells from the upper left corner of the grid. */
  readonly u: number;
  readonly v: number;
}

type Drag =
  /** `cells` are those it came over. */
  | { readonly kind: 'cells'; readonly u: number; readonly v: number; readonly cells: Set<number> }
  | { readonly kind: 'line'; readonly x: number; readonly y: number }
  | { readonly kind: 'frame'; readonly x: number; readonly y: number }
  | { readonly kind: 'move'; readonly u: number; readonly v: number; readonly x: number; readonly y: number };

/** The grid over the stage, to be changed by hand. */
@Component({
  selector: 'kite-grid-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      role="application"
      [attr.aria-label]="label()"
      [style.cursor]="acts.tool() === 'choose' ? 'default' : 'crosshair'"
      (pointerdown)="pressed($event)"
      (pointermove)="moved($event)"
      (pointerup)="released($event)"
      (pointercancel)="drop()"
      (pointerleave)="hovered.set(undefined)"
      (keydown)="keyed($event)"
    ></canvas>
    <p role="status">
      <span>{{ hint() }}</span>
      <span class="where">{{ where() }}</span>
      <button type="button" class="quiet-button" (click)="acts.leave()">Done</button>
    </p>
  `,
  styleUrl: './grid-pane.scss',
})
export class GridPane {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  protected readonly acts = inject(GridActs);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly painter = new GridPainter();

  readonly camera = input.required<Camera>();
  readonly size = input.required<Size>();
  /** A press that is meant for the stage below: it moves the cloth. */
  readonly passed = output<PointerEvent>();

  protected readonly hovered = signal<{ x: number; y: number } | undefined>(undefined);
  private readonly cursor = signal<{ x: number; y: number } | undefined>(undefined);
  /** The grid with what is being stitched just now. */
  private readonly working = signal<StitchedGrid | undefined>(undefined);
  private readonly line = signal<readonly [number, number, number, number] | undefined>(undefined);
  private drag: Drag | undefined;
  private planned = false;

  protected readonly hint = computed(() => HINTS[this.acts.tool()]);
  protected readonly where = computed(() => {
    const at = this.hovered() ?? this.cursor();
    const block = this.acts.chosen();
    if (block) return `${block.cols} x ${block.rows} cells`;
    return at ? `${at.x + 1}, ${at.y + 1}` : '';
  });
  protected readonly label = computed(() => {
    const grid = this.acts.grid();
    return `Grid of ${grid?.cols ?? 0} by ${grid?.rows ?? 0} cells. Arrow keys move a cell, Enter uses the tool there.`;
  });

  constructor() {
    effect(() => {
      // Whatever of these changes, the grid is painted again.
      this.camera();
      this.size();
      this.acts.model();
      this.acts.threads();
      this.acts.view();
      this.acts.chosen();
      this.working();
      this.line();
      this.cursor();
      this.store.view();
      this.paintSoon();
    });
    afterNextRender(() => this.canvas().nativeElement.focus({ preventScroll: true }));
  }

  private paintSoon(): void {
    if (this.planned) return;
    this.planned = true;
    requestAnimationFrame(() => {
      this.planned = false;
      this.paint();
    });
  }

  private paint(): void {
    const canvas = this.canvas().nativeElement;
    const [grid, model] = [this.acts.grid(), this.working() ?? this.acts.model()];
    const size = this.size();
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
    if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
    const context = canvas.getContext('2d', { alpha: false });
    if (!context || !grid || !model) return;
    this.painter.paint(context, this.camera(), size, ratio, {
      grid,
      model,
      threads: this.acts.threads(),
      clothHex: this.store.view()?.cloth.hex ?? '#f4f1ea',
      view: this.acts.view(),
      chosen: this.acts.chosen(),
      cursor: this.cursor(),
      line: this.line(),
    });
    performance.mark('kite-grid-painted');
  }

  private placeOf(event: MouseEvent): Place {
    const box = this.canvas().nativeElement.getBoundingClientRect();
    const { x, y } = toHoop(this.camera(), this.size(), event.clientX - box.left, event.clientY - box.top);
    const grid = this.acts.grid();
    return grid ? { u: (x - grid.left) / grid.cellMm, v: (y - grid.top) / grid.cellMm } : { u: -1, v: -1 };
  }

  private isInside({ u, v }: Place): boolean {
    const grid = this.acts.grid();
    return grid !== undefined && u >= 0 && v >= 0 && u < grid.cols && v < grid.rows;
  }

  protected pressed(event: PointerEvent): void {
    const canvas = this.canvas().nativeElement;
    canvas.focus({ preventScroll: true });
    if (event.button !== 0) {
      this.passed.emit(event);
      return;
    }
    canvas.setPointerCapture(event.pointerId);
    this.cursor.set(undefined);
    const place = this.placeOf(event);
    const model = this.acts.model();
    if (!model || !this.isInside(place)) return;
    const [x, y] = [Math.floor(place.u), Math.floor(place.v)];
    this.conversion.hold();
    switch (this.acts.tool()) {
      case 'stitch':
      case 'bare':
      case 'unpick':
        this.working.set(loose(model));
        this.drag = { kind: 'cells', ...place, cells: new Set() };
        this.workAt(place, place, this.drag.cells);
        return;
      case 'back': {
        const from = latticePlace(place);
        this.drag = { kind: 'line', x: from[0], y: from[1] };
        this.line.set([...from, ...from]);
        return;
      }
      case 'choose': {
        const block = this.acts.chosen();
        if (block && x >= block.x && y >= block.y && x < block.x + block.cols && y < block.y + block.rows) {
          if (event.altKey) this.acts.copying.set(true);
          this.drag = { kind: 'move', ...place, x: block.x, y: block.y };
        } else {
          this.drag = { kind: 'frame', x, y };
          this.acts.chosen.set({ x, y, cols: 1, rows: 1 });
        }
        return;
      }
      default:
        this.useAt(x, y);
    }
  }

  protected moved(event: PointerEvent): void {
    const place = this.placeOf(event);
    const grid = this.acts.grid();
    this.hovered.set(this.isInside(place) ? { x: Math.floor(place.u), y: Math.floor(place.v) } : undefined);
    const { drag } = this;
    if (!drag || !grid) return;
    const [x, y] = [Math.floor(place.u), Math.floor(place.v)];
    switch (drag.kind) {
      case 'cells':
        this.workAt(drag, place, drag.cells);
        this.drag = { ...drag, ...place };
        return;
      case 'line': {
        const [toX, toY] = latticePlace(place);
        const end = snapLine(drag.x, drag.y, toX, toY);
        const inside = end[0] >= 0 && end[1] >= 0 && end[0] <= grid.cols * 2 && end[1] <= grid.rows * 2;
        if (inside) this.line.set([drag.x, drag.y, ...end]);
        return;
      }
      case 'frame': {
        const [endX, endY] = [Math.min(grid.cols - 1, Math.max(0, x)), Math.min(grid.rows - 1, Math.max(0, y))];
        const [left, top] = [Math.min(drag.x, endX), Math.min(drag.y, endY)];
        this.acts.chosen.set({ x: left, y: top, cols: Math.abs(endX - drag.x) + 1, rows: Math.abs(endY - drag.y) + 1 });
        return;
      }
      case 'move': {
        const block = this.acts.chosen();
        const [toX, toY] = [drag.x + Math.round(place.u - drag.u), drag.y + Math.round(place.v - drag.v)];
        if (block && (toX !== block.x || toY !== block.y)) this.acts.moveTo(toX, toY);
      }
    }
  }

  protected released(event: PointerEvent): void {
    const { drag } = this;
    this.drag = undefined;
    this.sewOn();
    if (!drag) return;
    const working = this.working();
    if (drag.kind === 'cells' && working) {
      this.acts.commit(LABELS[this.acts.tool()] ?? 'cells', working, drag.cells);
      this.working.set(undefined);
    } else if (drag.kind === 'line') {
      const line = this.line();
      this.line.set(undefined);
      if (line) this.layBack(line);
    }
    this.canvas().nativeElement.releasePointerCapture(event.pointerId);
  }

  /** Lets go of what was begun. */
  protected drop(): void {
    this.drag = undefined;
    this.working.set(undefined);
    this.line.set(undefined);
    this.sewOn();
  }

  /** After a gesture; what it changed is converted by itself before this. */
  private sewOn(): void {
    setTimeout(() => this.conversion.resume());
  }

  private layBack([x0, y0, x1, y1]: readonly [number, number, number, number]): void {
    const [grid, model] = [this.acts.grid(), this.acts.model()];
    if (!grid || !model) return;
    const after = loose(model);
    for (const step of stepsOfLine(latticeStride(grid), x0, y0, x1, y1)) after.backs.set(step, this.acts.thread());
    this.acts.commit('back stitch', after);
  }

  /** Stitches, bares or unpicks on the way from one place to another, and adds the cells it comes over to those given. */
  private workAt(from: Place, to: Place, over: Set<number>): void {
    const working = this.working();
    const grid = this.acts.grid();
    if (!working || !grid) return;
    const tool = this.acts.tool();
    const cells = working.cells;
    const backs = working.backs as Map<number, number>;
    if (tool === 'unpick') {
      unpickNear(backs, latticeStride(grid), from, to);
    } else {
      for (const [x, y] of cellsBetween(Math.floor(from.u), Math.floor(from.v), Math.floor(to.u), Math.floor(to.v))) {
        if (x < 0 || y < 0 || x >= grid.cols || y >= grid.rows) continue;
        const at = y * grid.cols + x;
        over.add(at);
        if (tool === 'bare') cells[at] = 0;
        else {
          const here = x === Math.floor(to.u) && y === Math.floor(to.v);
          cells[at] = this.stitched(cells[at], here ? to.u - x : 0.5, here ? to.v - y : 0.5);
        }
      }
    }
    // The same arrays go on: a new object tells that they changed.
    this.working.set({ cells, backs });
  }

  private stitched(code: number, u: number, v: number): number {
    const part = this.acts.part();
    return layPart(code, { thread: this.acts.thread(), part, corner: cornerFor(part, u, v) });
  }

  /** Uses a tool that works on one cell. */
  private useAt(x: number, y: number): void {
    const grid = this.acts.grid();
    const model = this.acts.model();
    if (!grid || !model) return;
    const cell = y * grid.cols + x;
    switch (this.acts.tool()) {
      case 'take':
        return this.acts.takeUp(cell);
      case 'fill':
        return this.acts.fill(cell);
      case 'replace':
        return this.acts.replaceAt(cell);
      case 'stitch':
      case 'bare': {
        const after = loose(model);
        after.cells[cell] = this.acts.tool() === 'bare' ? 0 : this.stitched(after.cells[cell], 0.25, 0.25);
        return this.acts.commit(LABELS[this.acts.tool()] ?? 'cells', after, new Set([cell]));
      }
      case 'back': {
        // By the keys a back stitch is laid along the upper edge of the cell.
        return this.layBack([x * 2, y * 2, x * 2 + 2, y * 2]);
      }
      case 'unpick': {
        const after = loose(model);
        unpickNear(after.backs, latticeStride(grid), { u: x, v: y + 0.5 }, { u: x + 1, v: y + 0.5 }, 0.6);
        return this.acts.commit('unpicked', after);
      }
      case 'choose':
        this.acts.chosen.set({ x, y, cols: 1, rows: 1 });
    }
  }

  protected keyed(event: KeyboardEvent): void {
    const step = ARROWS[event.key];
    const grid = this.acts.grid();
    const block = this.acts.chosen();
    if (!grid || event.ctrlKey || event.metaKey) return;
    if (step) {
      const by = event.shiftKey ? 10 : 1;
      if (block) {
        if (event.altKey) this.acts.copying.set(true);
        this.acts.moveTo(block.x + step[0] * by, block.y + step[1] * by);
      } else {
        const at = this.cursor() ?? { x: grid.cols >> 1, y: grid.rows >> 1 };
        const within = (v: number, most: number): number => Math.min(most - 1, Math.max(0, v));
        this.cursor.set({ x: within(at.x + step[0] * by, grid.cols), y: within(at.y + step[1] * by, grid.rows) });
      }
    } else if (event.key === 'Enter') {
      const at = this.cursor();
      if (at) this.useAt(at.x, at.y);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      if (!block) return;
      this.acts.clearChosen();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
}

const LABELS: Readonly<Partial<Record<GridTool, string>>> = {
  stitch: 'cells stitched',
  bare: 'cells made bare',
  unpick: 'unpicked',
};

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The place of the half-cell lattice nearest to one of the grid. */
const latticePlace = ({ u, v }: Place): [number, number] => [Math.round(u * 2), Math.round(v * 2)];

function cornerFor(part: Part, u: number, v: number): number {
  if (part === 'full') return 0;
  return part === 'side' ? sideAt(u, v) : cornerAt(u, v);
}

/** Takes out back stitches whose middle lies near the way from one place to another. */
function unpickNear(backs: Map<number, number>, stride: number, from: Place, to: Place, near = NEAR): void {
  const [dx, dy] = [to.u - from.u, to.v - from.v];
  const length2 = dx * dx + dy * dy || 1;
  for (const step of [...backs.keys()]) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    const [mx, my] = [(x0 + x1) / 4, (y0 + y1) / 4];
    const t = Math.min(1, Math.max(0, ((mx - from.u) * dx + (my - from.v) * dy) / length2));
    if (Math.hypot(mx - from.u - dx * t, my - from.v - dy * t) <= near) backs.delete(step);
  }
}
