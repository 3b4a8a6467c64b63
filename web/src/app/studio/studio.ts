import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { BreakpointObserver } from '@angular/cdk/layout';
import { toSignal } from '@angular/core/rxjs-interop';
import { MAT_TOOLTIP_DEFAULT_OPTIONS } from '@angular/material/tooltip';
import { Title } from '@angular/platform-browser';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar, MatSnackBarModule } from '@angular/material/snack-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { Ellipsis, LayoutGrid, LucideAngularModule, Redo2, Undo2 } from 'lucide-angular';
import { firstValueFrom, map } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { Conversion } from '../convert/conversion';
import { FORMATS } from '@open-kite/core';
import { STUDIO_ACTS } from './studio-acts';
import { ProjectStore, STUCK, type SaveState } from '../project/project-store';
import { LeaveDialog } from './leave-dialog';
import { saveFile } from '../shared/save-file';
import { Line } from './line/line';
import { DrawActs } from './draw/draw-acts';
import { GRID_KEYS, GridActs } from './grid/grid-acts';
import { CopyActs } from './placing/copy-acts';
import { NeedleActs } from './needle/needle-acts';
import { PlaceActs } from './placing/place-acts';
import { MaskPane } from './picture/mask-pane';
import { Reel } from './reel/reel';
import { Sheet } from './sheet/sheet';
import { FirstLook } from './first-look';
import { toNextPart } from './parts';
import { Shortcuts } from './shortcuts';
import { Stage } from './stage/stage';
import { TidyActs } from './tidy/tidy-acts';
import { KNOTS, StudioState } from './studio-state';
import { Tray } from './tray/tray';
import { TryOuts } from './tryouts/try-outs';

/** Long enough that a preview is not drawn between two moves of a slider: it keeps the worker busy. */
const PREVIEW_AFTER_MS = 5000;

/** Too narrow for Tray, Stage and Sheet side by side, or a hand's screen that hardly is wider. */
const TABLET = '(max-width: 900px), (max-width: 1100px) and (pointer: coarse)';

/** Ways of the arrow keys. */
const NUDGES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** One project on one page: the Line above, Tray, Stage and Sheet, and the Reel below. */
/** What is said of changes that stand so. */
const SAID: Readonly<Record<SaveState, string>> = {
  saved: 'All changes kept',
  saving: 'Keeping changes …',
  offline: 'Not kept yet: no server',
  trouble: 'Not kept yet: trouble on the server',
  conflict: 'Changed elsewhere',
  gone: 'Not on the shelf any more',
  refused: 'Not kept: refused',
};

@Component({
  selector: 'kite-studio',
  imports: [
    Line,
    LucideAngularModule,
    MaskPane,
    MatMenuModule,
    MatSnackBarModule,
    MatTooltipModule,
    Reel,
    RouterLink,
    Sheet,
    FirstLook,
    Shortcuts,
    Stage,
    Tray,
    TryOuts,
  ],
  templateUrl: './studio.html',
  styleUrl: './studio.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [
    {
      provide: MAT_TOOLTIP_DEFAULT_OPTIONS,
      // What explains one button must not lie over the next.
      useValue: { showDelay: 300, hideDelay: 0, touchendHideDelay: 1500, disableTooltipInteractivity: true },
    },
    Conversion,
    ProjectStore,
    ...STUDIO_ACTS,
  ],
  host: {
    '(document:keydown)': 'keyed($event)',
    '(window:beforeunload)': 'leaving($event)',
    // A picture dropped by mistake must not take the page away.
    '(document:dragover)': '$event.preventDefault()',
    '(document:drop)': '$event.preventDefault()',
  },
})
export class Studio {
  private readonly api = inject(Api);
  private readonly snack = inject(MatSnackBar);
  private readonly title = inject(Title);
  private readonly dialog = inject(MatDialog);
  protected readonly store = inject(ProjectStore);
  protected readonly conversion = inject(Conversion);
  protected readonly state = inject(StudioState);
  private readonly tidy = inject(TidyActs);
  private readonly draw = inject(DrawActs);
  private readonly grid = inject(GridActs);
  private readonly place = inject(PlaceActs);
  private readonly needle = inject(NeedleActs);
  private readonly copies = inject(CopyActs);
  private readonly stage = viewChild(Stage);

  readonly id = input.required<string>();

  /** On a tablet Tray and Sheet lie beside the screen, and one at a time is pulled over the Stage. */
  protected readonly isTablet = toSignal(
    inject(BreakpointObserver)
      .observe(TABLET)
      .pipe(map(({ matches }) => matches)),
    { requireSync: true },
  );
  protected readonly drawers = [
    { id: 'tray', label: 'Tray' },
    { id: 'sheet', label: 'Sheet' },
  ] as const;
  /** The one that is out: whoever goes to a step sees its controls. */
  protected readonly drawer = signal<'tray' | 'sheet' | undefined>(undefined);

  protected readonly icons = { Undo2, Redo2, Ellipsis, LayoutGrid };
  protected readonly missing = signal('');
  protected readonly help = signal(false);
  /** What the menu takes away; the Sew step has every format. */
  protected readonly exports = FORMATS.filter(({ write, fits, ending }) => (write && !fits) || ending === 'kite').map(
    ({ ending, name }) => ({ kind: ending, label: `${name} (.${ending})` }),
  );
  protected readonly saved = computed(() => SAID[this.store.saveState()]);
  private previewTimer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const id = this.id();
      void untracked(() => this.open(id));
    });
    effect(() => {
      const pictures = this.store.pictures();
      const stored = this.store.stored();
      if (stored) untracked(() => this.conversion.open(pictures, stored));
    });
    effect(() => {
      const recipe = this.store.recipe();
      if (recipe) void untracked(() => this.conversion.convert(recipe));
    });
    effect(() => {
      if (this.conversion.state() !== 'done' || !this.conversion.design() || this.conversion.asStored()) return;
      clearTimeout(this.previewTimer);
      this.previewTimer = setTimeout(() => void this.keepPreview(), PREVIEW_AFTER_MS);
    });
    effect(() => this.title.setTitle(`${this.store.name() || 'Project'} · Open Kite`));
    // A new result has other rows, and perhaps other pieces: what pointed into the old one is found again or let go.
    effect(() => {
      this.conversion.design();
      this.state.playing.set(false);
      this.state.row.set(undefined);
      this.state.hovered.set(undefined);
      untracked(() => this.state.findChosen());
      this.state.hoveredThread.set(undefined);
    });
    // Tools belong to their step.
    effect(() => {
      if (this.state.knot() !== 'pieces') untracked(() => this.draw.leave());
    });
  }

  private async open(id: string): Promise<void> {
    this.missing.set('');
    try {
      await this.store.open(id);
    } catch (error) {
      this.missing.set(
        error instanceof ApiError && error.status === 404
          ? 'This project is not on the shelf.'
          : `The project could not be opened: ${(error as Error).message}.`,
      );
    }
  }

  protected reload(): void {
    void this.open(this.id());
  }

  private async keepPreview(): Promise<void> {
    if (this.conversion.state() !== 'done') return;
    const preview = await this.conversion.preview();
    if (!preview) return;
    void this.conversion.keepDesign(this.id());
    const { png, stitches, threads, minutes } = preview;
    // A missing picture on the shelf is no reason to disturb the work.
    await firstValueFrom(this.api.setPreview(this.id(), png, { stitches, threads, minutes })).catch(() => undefined);
  }

  protected async take(kind: string): Promise<void> {
    const recipe = this.store.recipe();
    if (!recipe) return;
    if (this.conversion.state() !== 'done') {
      this.snack.open('The stitches are still being made; try again in a moment.', undefined, { duration: 5000 });
      return;
    }
    const name = this.store.name();
    try {
      const bytes = await this.conversion.exportAs(kind, name, recipe);
      saveFile(new Blob([bytes], { type: FORMATS.find(({ ending }) => ending === kind)?.type }), name, kind);
    } catch (error) {
      this.snack.open(`Nothing was written: ${(error as Error).message}.`, undefined, { duration: 8000 });
    }
  }

  protected rename(event: Event): void {
    const field = event.target as HTMLInputElement;
    this.store.rename(field.value);
    field.value = this.store.name();
  }

  /** Leaving is asked about while the server refuses what was changed. */
  async mayLeave(): Promise<boolean> {
    const state = this.store.saveState();
    if (!STUCK.has(state)) return true;
    const data = `${SAID[state]}.`;
    return (await firstValueFrom(this.dialog.open(LeaveDialog, { data, maxWidth: '28rem' }).afterClosed())) === true;
  }

  protected leaving(event: BeforeUnloadEvent): void {
    if (this.store.saveState() !== 'saved') event.preventDefault();
  }

  protected keyed(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    const typing = target.matches('input:not([type=range]), textarea');
    // Letters and arrows belong to a list or a menu that has the keys.
    const inList = target.closest('mat-select, .cdk-overlay-container') !== null;
    const command = event.ctrlKey || event.metaKey;
    if (event.key === 'F6' && !inList && !command && !this.state.tryOuts()) {
      event.preventDefault();
      toNextPart(document, target, event.shiftKey);
      return;
    }
    if (command && !typing && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
      return;
    }
    if (command && !typing && event.key.toLowerCase() === 'y') {
      event.preventDefault();
      this.store.redo();
      return;
    }
    if (command && !typing && event.key.toLowerCase() === 'a') {
      event.preventDefault();
      this.state.selectAll((this.conversion.design()?.pieces ?? []).keys());
      return;
    }
    if (command && !typing && this.commanded(event)) {
      event.preventDefault();
      return;
    }
    if (!typing && this.nudged(event)) {
      event.preventDefault();
      return;
    }
    if (typing || inList || command || event.altKey) return;
    if (this.state.tryOuts() && event.key !== 'Escape') return;
    const knot = KNOTS[Number(event.key) - 1];
    if (knot) this.state.knot.set(knot);
    else if (event.key === 'Escape') {
      if (this.stage()?.letGo()) return;
      if (this.help()) this.help.set(false);
      else if (this.isTablet() && this.drawer()) this.drawer.set(undefined);
      else if (this.draw.tool()) this.draw.leave();
      else if (this.grid.open()) this.leaveGrid();
      else if (this.state.tryOuts()) this.state.tryOuts.set(false);
      else if (this.needle.piece() !== undefined) this.needle.toggle();
      else if (this.state.leading()) this.state.leading.set(false);
      else if (this.state.guiding()) this.state.guiding.set(false);
      else if (this.state.stroking()) this.state.stroking.set(false);
      else if (this.state.lassoing()) this.state.lassoing.set(false);
      else if (this.state.picking()) this.state.picking.set(undefined);
      else this.state.select(undefined, false);
    } else this.act(event.key);
  }

  /** Copies and groups; not while points, the grid or a field have the keys. @returns whether it was one */
  private commanded(event: KeyboardEvent): boolean {
    if (this.grid.open() || this.draw.tool() || this.state.tryOuts()) return false;
    switch (event.key.toLowerCase()) {
      case 'd':
        this.copies.duplicate();
        return true;
      case 'c':
        // Text that is marked is copied as everywhere.
        return getSelection()?.isCollapsed !== false && this.copies.copy();
      case 'x':
        this.copies.cut();
        return true;
      case 'v':
        this.copies.paste();
        return true;
      case 'g':
        if (event.shiftKey) this.copies.ungroup();
        else this.copies.group();
        return true;
    }
    return false;
  }

  /** Arrow keys on the stage and in the tray move what is chosen. @returns whether they did */
  private nudged(event: KeyboardEvent): boolean {
    const step = NUDGES[event.key];
    const target = event.target as HTMLElement;
    if (!step || event.defaultPrevented || event.ctrlKey || event.altKey || !this.place.movable()) return false;
    if (this.grid.open() || this.draw.tool() || this.state.tryOuts() || this.state.knot() === 'picture') return false;
    if (target !== document.body && !target.closest('kite-stage, kite-tray')) return false;
    const by = event.shiftKey ? 1 : 0.1;
    if (this.needle.chosen().size > 0) this.needle.move(step[0] * by, step[1] * by);
    else this.place.nudge(step[0] * by, step[1] * by);
    return true;
  }

  /** What is chosen is let go first, then the grid. */
  private leaveGrid(): void {
    if (this.grid.chosen()) this.grid.chosen.set(undefined);
    else this.grid.leave();
  }

  private act(key: string): void {
    const tool = this.grid.open() ? GRID_KEYS[key] : undefined;
    if (tool) return this.grid.take(tool);
    switch (key) {
      case '?':
        return this.help.update((open) => !open);
      case 't':
        return this.state.tryOuts.set(true);
      case 'p':
        return this.state.togglePlay();
      case '.':
      case ',':
        return this.state.knot() === 'tidy' ? this.tidy.step(key === '.' ? 1 : -1) : undefined;
      case 'l':
        return this.state.toggleCompare('lens');
      case 'k':
        return this.state.toggleCompare('split');
      case 's':
        return this.state.solo.update((solo) => !solo);
      case 'Delete':
        // While points are moved it takes points away, and never the piece they are of.
        if (this.draw.tool()) return;
        if (this.needle.remove()) return;
        return this.copies.remove();
      case 'PageUp':
      case 'PageDown':
        return this.copies.step(key === 'PageUp' ? 1 : -1);
      case 'd':
        return this.state.toggleCompare('fade');
      case 'b':
        return this.state.toggleCompare('picture');
      case 'f':
        return this.stage()?.view.fitAll();
      case '+':
        return this.stage()?.view.zoom(1.25);
      case '-':
        return this.stage()?.view.zoom(0.8);
    }
  }
}
