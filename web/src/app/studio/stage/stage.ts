import { NgTemplateOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  Injector,
  type OnDestroy,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import { MatTooltipModule } from '@angular/material/tooltip';
import { hoopToSource, isHidden, PIECES_METHOD } from '@open-kite/core';
import {
  Aperture,
  Blend,
  Columns2,
  Eye,
  Image,
  LucideAngularModule,
  type LucideIconData,
  Maximize,
  Minus,
  Plus,
} from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { DrawActs } from '../draw/draw-acts';
import { DrawPane } from '../draw/draw-pane';
import { LetterActs } from '../letters/letter-acts';
import { TypePane } from '../letters/type-pane';
import { GridActs } from '../grid/grid-acts';
import { GridPane } from '../grid/grid-pane';
import { StudioState, type Compare, type Picking, type StageLook } from '../studio-state';
import { ChosenPiece } from './chosen-piece';
import { pieceAt, wholeAt } from './piece-at';
import { StagePainter } from './stage-painter';
import type { Place } from './camera';
import { StageView } from './stage-view';
import { FALLBACK_TOOLS, STAGE_TOOLS } from './tools';
import { PlaceActs } from '../placing/place-acts';
import { FrameTool } from './tools/frame-tool';
import { LensTool } from './tools/lens-tool';
import { SplitTool } from './tools/split-tool';
import { PanTool } from './tools/pan-tool';
import type { Grip } from './tools/stage-tool';

/** Pixels a press may move and still be a click. */
const STILL = 4;
/** A finger that rests so long chooses what lies under it as well, in ms. */
const LONG_PRESS_MS = 500;
/** Pixels of the arrow keys. */
const STEP = 40;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Room all tools need side by side, in CSS pixels. */
const ROOM_FOR_ALL = 690;

/** The cloth at true size: stitches, rulers, the lens, and the marks of what is selected and sewn. */
@Component({
  selector: 'kite-stage',
  imports: [DrawPane, GridPane, TypePane, LucideAngularModule, MatSliderModule, MatTooltipModule, NgTemplateOutlet],
  providers: [StageView, ChosenPiece, StagePainter, ...STAGE_TOOLS, ...FALLBACK_TOOLS],
  templateUrl: './stage.html',
  styleUrl: './stage.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Stage implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly open = inject(OpenPicture);
  /** What part of the cloth is shown. */
  readonly view = inject(StageView);
  protected readonly state = inject(StudioState);
  protected readonly draw = inject(DrawActs);
  protected readonly grid = inject(GridActs);
  protected readonly letters = inject(LetterActs);
  private readonly painter = inject(StagePainter);
  private readonly lens = inject(LensTool);
  private readonly split = inject(SplitTool);
  private readonly pan = inject(PanTool);
  private readonly frames = inject(FrameTool);
  private readonly place = inject(PlaceActs);
  private readonly injector = inject(Injector);
  private readonly tools = STAGE_TOOLS.map((tool) => this.injector.get(tool));
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly haze = viewChild<ElementRef<SVGFEGaussianBlurElement>>('haze');

  protected readonly icons = { Eye, Maximize, Minus, Plus };
  /** Whether there is no room for all tools in one row: what is used least stands above them when it is asked for. */
  protected readonly isNarrow = computed(() => this.view.size().width < ROOM_FOR_ALL);
  /** Whether what went away for want of room is shown above the other tools. */
  protected readonly isFromOpen = signal(false);
  protected readonly seen = computed(() => (this.state.distance() === 0 ? 'close' : `${this.state.distance()} m`));
  protected readonly compares: readonly { compare: Compare; label: string; hint: string; icon: LucideIconData }[] = [
    { compare: 'lens', label: 'Lens', hint: 'Lens: the picture through the stitches (L)', icon: Aperture },
    { compare: 'split', label: 'Split line', hint: 'Split line (K)', icon: Columns2 },
    { compare: 'fade', label: 'Fade the picture in', hint: 'The picture faded over the stitches (D)', icon: Blend },
    { compare: 'picture', label: 'Picture alone', hint: 'The picture alone (B)', icon: Image },
  ];
  private readonly allLooks: readonly { look: StageLook; label: string; hint: string }[] = [
    { look: 'sewn', label: 'Thread', hint: 'As it will look when it is sewn' },
    { look: 'line', label: 'Needle', hint: 'Every stitch as a line, with its needle points' },
    { look: 'density', label: 'Layers', hint: 'How many covers of thread lie over each spot' },
    { look: 'forecast', label: 'Forecast', hint: 'How the stitches lie when the fabric has been drawn together' },
  ];
  protected readonly look = computed((): StageLook => {
    const look = this.state.look();
    return look === 'forecast' && this.state.knot() !== 'tidy' ? 'sewn' : look;
  });
  /** What the cloth does afterwards is looked at while tidying. */
  protected readonly looks = computed(() =>
    this.allLooks.filter(({ look }) => look !== 'forecast' || this.state.knot() === 'tidy'),
  );

  private drag: { readonly grip: Grip; x: number; y: number; moved: boolean } | undefined;
  private space = false;
  private readonly pointers = new Map<number, Place>();
  private pinch = 0;
  private pinchAt: Place = { x: 0, y: 0 };
  private resting: ReturnType<typeof setTimeout> | undefined;
  private observer: ResizeObserver | undefined;

  protected readonly cursor = signal('');
  protected readonly busyShare = computed(() => {
    const state = this.conversion.state();
    return state === 'working' || state === 'opening' ? this.conversion.progress().share : undefined;
  });
  protected readonly conversionState = this.conversion.state;
  protected readonly failure = this.conversion.error;
  protected readonly rough = this.conversion.rough;
  protected readonly nothing = computed(() => {
    const design = this.conversion.design();
    if (!design || this.conversion.rough()) return false;
    const none = design.pictures.every(({ method }) => method === PIECES_METHOD) && design.pieces.length === 0;
    return none || design.stitches.count <= 1;
  });
  /** Why there is nothing, and what to do: a picture that is only drawn over is no fault. */
  protected readonly nothingSaid = computed(() => {
    const objects = this.store.recipe()?.objects ?? [];
    const pictures = objects.filter(({ kind }) => kind === 'picture');
    if (pictures.length === 0) {
      return {
        head: 'Bare cloth.',
        text: 'Draw under Pieces, or add letters, a picture or a stitch list in the Tray.',
      };
    }
    if (pictures.every((picture) => isHidden(objects, picture))) {
      const text = 'The picture is there to draw over: take a drawing tool under Pieces, or show it again in the Tray.';
      return { head: 'Nothing is sewn yet.', text, low: true };
    }
    const text =
      'Every part of the picture is bare cloth or too small. Sew the plain ground (Picture), or allow smaller pieces (Pieces).';
    return { head: 'There is nothing to sew.', text };
  });

  constructor() {
    effect(() => {
      const design = this.conversion.shownInstead() ?? this.conversion.design();
      const look = this.look();
      // Below the grid's own pane nothing of it is seen.
      if (!design || this.grid.open()) return;
      this.painter.show(design, look);
      untracked(() => this.view.follow(design));
      this.painter.soon();
    });
    effect(() => {
      const at = this.state.where();
      const recipe = this.store.recipe();
      if (!at || !recipe || this.conversion.state() !== 'done') {
        this.painter.where.set(undefined);
        return;
      }
      void this.conversion
        .where(recipe, this.open.id(), at.colour - this.open.firstColour(), at.shade)
        .then((bitmap) => {
          if (this.state.where() === at) this.painter.where.set(bitmap);
        });
    });
    effect(() => {
      const goal = this.state.goal();
      if (goal) untracked(() => this.view.show(goal));
    });
    effect(() => {
      this.painter.watch();
      if (!this.grid.open()) this.painter.soon();
    });
    afterNextRender(() => {
      const canvas = this.canvas().nativeElement;
      this.painter.begin(canvas, this.haze()?.nativeElement);
      const host = canvas.parentElement as HTMLElement;
      this.observer = new ResizeObserver(() =>
        this.view.resize({ width: host.clientWidth, height: host.clientHeight }),
      );
      this.observer.observe(host);
    });
  }

  ngOnDestroy(): void {
    this.observer?.disconnect();
    clearTimeout(this.resting);
    this.view.close();
    this.painter.close();
  }

  protected wheeled(event: WheelEvent): void {
    event.preventDefault();
    if (event.shiftKey) this.view.pan(-event.deltaY, 0);
    else this.view.zoom(Math.exp(-event.deltaY * 0.0016), this.placeOf(event));
  }

  protected pressed(event: PointerEvent): void {
    const canvas = this.canvas().nativeElement;
    canvas.focus({ preventScroll: true });
    canvas.setPointerCapture(event.pointerId);
    const place = this.placeOf(event);
    this.pointers.set(event.pointerId, place);
    clearTimeout(this.resting);
    if (this.pointers.size === 2) {
      this.pinch = this.pinchSpan();
      this.pinchAt = this.pinchMiddle();
      this.letGo();
      return;
    }
    const isPan = this.space || event.button === 1;
    const grip = isPan ? this.pan.grab() : this.gripAt(place, event.pointerType === 'touch');
    grip.begin?.(place);
    this.drag = { grip, x: place.x, y: place.y, moved: false };
    if (event.pointerType === 'touch' && !this.state.picking())
      this.resting = setTimeout(() => this.rested(place), LONG_PRESS_MS);
  }

  /** A finger has no Shift key: one that rests on a piece adds it to the choice, or takes it out. */
  private rested(place: Place): void {
    const { drag } = this;
    if (!drag || drag.moved || this.pieceAt(place) === undefined) return;
    this.drag = undefined;
    drag.grip.cancel?.();
    this.choose(place, true);
  }

  protected moved(event: PointerEvent): void {
    const place = this.placeOf(event);
    if (this.pointers.has(event.pointerId)) this.pointers.set(event.pointerId, place);
    if (this.pointers.size === 2) {
      const span = this.pinchSpan();
      const at = this.pinchMiddle();
      if (this.pinch > 0) this.view.zoom(span / this.pinch, at);
      this.view.pan(at.x - this.pinchAt.x, at.y - this.pinchAt.y);
      this.pinch = span;
      this.pinchAt = at;
      return;
    }
    const { drag } = this;
    if (!drag) {
      this.hover(place);
      return;
    }
    const by = { x: place.x - drag.x, y: place.y - drag.y };
    if (!drag.moved && Math.abs(by.x) + Math.abs(by.y) < STILL) return;
    clearTimeout(this.resting);
    this.drag = { grip: drag.grip, x: place.x, y: place.y, moved: true };
    drag.grip.drag(place, by, event.shiftKey, event.altKey);
  }

  /** Moves over a drawing tool count only while they move the cloth. */
  protected panned(event: PointerEvent): void {
    if (this.drag?.grip === this.pan.grab()) this.moved(event);
  }

  protected released(event: PointerEvent): void {
    const wasPinch = this.pointers.size === 2;
    this.pointers.delete(event.pointerId);
    this.pinch = 0;
    clearTimeout(this.resting);
    const { drag } = this;
    this.drag = undefined;
    const done = drag?.grip.drop?.(drag.moved);
    if (done || wasPinch || !drag || drag.moved || event.button !== 0) return;
    const picking = this.state.picking();
    if (picking) void this.pick(picking, this.placeOf(event));
    else this.choose(this.placeOf(event), event.shiftKey);
  }

  /** Chooses the piece at a place; where a rendering lies there, its whole picture. */
  private choose(place: Place, add: boolean): void {
    const piece = this.pieceAt(place);
    const { x, y } = this.view.toHoop(place);
    const design = this.conversion.design();
    const objects = this.store.recipe()?.objects ?? [];
    const owner = piece === undefined ? undefined : design?.pieces[piece]?.object;
    // A text is one thing; its single letters are chosen in the tray.
    const isText = objects.some(({ id, kind }) => id === owner && kind === 'letters');
    const whole = isText ? owner : piece === undefined ? wholeAt(design, objects, x, y) : undefined;
    if (whole === undefined || add) this.state.select(piece, add);
    else this.state.chooseWhole(whole);
  }

  /** Letters are typed where they stand. */
  protected doubled(): void {
    if (this.letters.chosen()) this.letters.typing.set(true);
  }

  protected left(): void {
    this.state.hovered.set(undefined);
  }

  protected keyed(event: KeyboardEvent): void {
    const step = ARROWS[event.key];
    if (event.key === ' ') this.space = true;
    else if (step && this.state.compare() === 'lens' && event.altKey) {
      this.lens.move((-step[0] * STEP) / 4, (-step[1] * STEP) / 4);
    } else if (step && this.state.compare() === 'split' && event.altKey) this.split.move((-step[0] * STEP) / 4);
    else if (step && this.place.movable()) return;
    else if (step) this.view.pan(step[0] * STEP, step[1] * STEP);
    else return;
    event.preventDefault();
  }

  protected keyLifted(event: KeyboardEvent): void {
    if (event.key === ' ') this.space = false;
  }

  protected cancel(): void {
    this.conversion.cancel();
  }

  protected setFade(event: Event): void {
    this.state.fade.set(Number((event.target as HTMLInputElement).value) / 100);
  }

  protected setDistance(event: Event): void {
    this.state.distance.set(Number((event.target as HTMLInputElement).value));
  }

  protected again(): void {
    const recipe = this.store.recipe();
    if (recipe) void this.conversion.convert(recipe);
  }

  private async pick(picking: Picking, place: Place): Promise<void> {
    const placement = this.store.view()?.picture;
    if (!placement) return;
    const at = this.view.toHoop(place);
    const { u, v } = hoopToSource(placement, at.x, at.y);
    const anchor = await this.conversion.sample(u, v);
    if (!anchor || this.state.picking() !== picking) return;
    this.state.picking.set(undefined);
    this.cursor.set('');
    picking.take(anchor);
  }

  private hover(place: Place): void {
    if (this.state.picking()) {
      this.cursor.set('crosshair');
      return;
    }
    this.state.hovered.set(this.pieceAt(place));
    this.cursor.set(this.gripAt(place).cursor);
  }

  private placeOf(event: MouseEvent): Place {
    const box = this.canvas().nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private pinchSpan(): number {
    const [a, b] = [...this.pointers.values()];
    return Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);
  }

  /** What a press at a place takes hold of; a finger on empty cloth moves that. */
  private gripAt(place: Place, finger = false): Grip {
    for (const tool of this.tools) {
      const grip = tool.grab(place);
      if (grip) return grip;
    }
    return finger ? this.pan.grab() : this.frames.grab();
  }

  /** Ends what is under way without doing it. @returns whether there was anything */
  letGo(): boolean {
    const { drag } = this;
    this.drag = undefined;
    if (!drag?.moved || !drag.grip.cancel) return false;
    drag.grip.cancel();
    return true;
  }

  private pinchMiddle(): Place {
    const [a, b] = [...this.pointers.values()];
    return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  }

  private pieceAt(place: Place): number | undefined {
    const design = this.conversion.design();
    const { x, y } = this.view.toHoop(place);
    return design && pieceAt(design, x, y);
  }
}
