import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  type OnDestroy,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  flattenRing,
  hoopToSource,
  isInside,
  PIECES_METHOD,
  simplify,
  sourceToHoop,
  type Design,
  type Look,
} from '@open-kite/core';
import {
  Aperture,
  Blend,
  Columns2,
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
import { Preferences } from '../../shared/preferences';
import { DrawActs } from '../draw/draw-acts';
import { DrawPane } from '../draw/draw-pane';
import { GridActs } from '../grid/grid-acts';
import { GridPane } from '../grid/grid-pane';
import { LitPicture } from '../lit-picture';
import { PieceActs } from '../pieces/piece-acts';
import { RenderingActs } from '../rendering/rendering-acts';
import { GradientActs } from '../stitches/gradient-acts';
import { StudioState, type Compare, type Picking } from '../studio-state';
import { fit, pan, toHoop, toStage, zoomAt, type Box, type Camera, type Size } from './camera';
import {
  diamond,
  EMBER,
  paintCompare,
  paintMarks,
  paintOutlines,
  paintRulers,
  paintSolo,
  paintWhere,
  RULER,
  type Lens,
} from './overlay';
import {
  angleTo,
  handleAt,
  handlesOf,
  onCloth,
  paintGuides,
  paintHandles,
  shareAlong,
  type Handle,
  type Handles,
  type Place,
} from './stitch-handles';
import { Tiles } from './tiles';

interface Drag {
  readonly kind: 'pan' | 'lens' | 'split' | 'guide' | Handle;
  x: number;
  y: number;
  moved: boolean;
}

const LENS_RADIUS = 78;
/** How long the place that was asked for is marked. */
const MARK_MS = 4000;

/** Guide lines follow the hand this closely, and have so many numbers at most. */
const GUIDE_TOLERANCE_MM = 0.3;
const MOST_GUIDE_NUMBERS = 400;
const CURSORS: Readonly<Partial<Record<Drag['kind'], string>>> = {
  lens: 'move',
  split: 'ew-resize',
  guide: 'crosshair',
  angle: 'grab',
  start: 'move',
  end: 'move',
  entry: 'move',
  exit: 'move',
};

/** The cloth at true size: stitches, rulers, the lens, and the marks of what is selected and sewn. */
@Component({
  selector: 'kite-stage',
  imports: [DrawPane, GridPane, LucideAngularModule, MatTooltipModule],
  templateUrl: './stage.html',
  styleUrl: './stage.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Stage implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);
  protected readonly state = inject(StudioState);
  protected readonly draw = inject(DrawActs);
  protected readonly grid = inject(GridActs);
  private readonly acts = inject(PieceActs);
  private readonly rendering = inject(RenderingActs);
  private readonly gradients = inject(GradientActs);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly haze = viewChild<ElementRef<SVGFEGaussianBlurElement>>('haze');

  protected readonly icons = { Maximize, Minus, Plus };
  protected readonly compares: readonly { compare: Compare; label: string; hint: string; icon: LucideIconData }[] = [
    { compare: 'lens', label: 'Lens', hint: 'Lens: the picture through the stitches (L)', icon: Aperture },
    { compare: 'split', label: 'Split line', hint: 'Split line (K)', icon: Columns2 },
    { compare: 'fade', label: 'Fade the picture in', hint: 'The picture faded over the stitches (D)', icon: Blend },
    { compare: 'picture', label: 'Picture alone', hint: 'The picture alone (B)', icon: Image },
  ];
  protected readonly looks: readonly { look: Look; label: string; hint: string }[] = [
    { look: 'sewn', label: 'Thread', hint: 'As it will look when it is sewn' },
    { look: 'line', label: 'Needle', hint: 'Every stitch as a line, with its needle points' },
    { look: 'density', label: 'Covers', hint: 'How many covers of thread lie over each spot' },
  ];

  protected readonly size = signal<Size>({ width: 1, height: 1 });
  protected readonly camera = signal<Camera>({ x: 0, y: 0, scale: 4 });
  private readonly lens = signal<Lens>({ x: 0, y: 0, radius: LENS_RADIUS, split: 0 });
  private readonly tiles = new Tiles(() => this.paintSoon());
  private readonly lit = inject(LitPicture);
  private readonly where = signal<ImageBitmap | undefined>(undefined);
  private readonly mark = signal<{ x: number; y: number } | undefined>(undefined);
  private markTimer: ReturnType<typeof setTimeout> | undefined;
  private drag: Drag | undefined;
  /** Where a handle or a guide line has been dragged to so far, in CSS pixels and in mm. */
  private dragged: Place | undefined;
  private readonly guide = signal<readonly number[]>([]);
  private space = false;
  private planned = false;
  private fitted = false;
  /** Whether the user chose what is shown; until then the whole picture is kept in view. */
  private touched = false;
  private shownBox = '';
  private readonly pointers = new Map<number, { x: number; y: number }>();
  private pinch = 0;
  private observer: ResizeObserver | undefined;

  /** What is shown of the picture: all of it while a place on it is asked for. */
  private readonly shown = computed(() => (this.state.picking() ? 'picture' : this.state.compare()));

  protected readonly percent = computed(() => `${Math.round((this.camera().scale / (96 / 25.4)) * 100)} %`);
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

  private readonly open = inject(OpenPicture);
  private drawn: { readonly design: Design; readonly look: Look } | undefined;

  constructor() {
    effect(() => {
      const design = this.conversion.design();
      const look = this.state.look();
      // Below the grid's own pane nothing of it is seen.
      if (!design || this.grid.open()) return;
      if (design !== this.drawn?.design || look !== this.drawn.look) {
        this.tiles.show(design, look, this.conversion.takeSpares(design));
        this.drawn = { design, look };
      }
      const box = JSON.stringify(design.picture);
      if (!this.fitted || (!this.touched && box !== this.shownBox)) untracked(() => this.fitAll());
      this.shownBox = box;
      this.paintSoon();
    });
    effect(() => {
      const at = this.state.where();
      const recipe = this.store.recipe();
      if (!at || !recipe || this.conversion.state() !== 'done') {
        this.where.set(undefined);
        return;
      }
      void this.conversion
        .where(recipe, this.open.id(), at.colour - this.open.firstColour(), at.shade)
        .then((bitmap) => {
          if (this.state.where() === at) this.where.set(bitmap);
        });
    });
    effect(() => {
      const goal = this.state.goal();
      if (goal) untracked(() => this.show(goal));
    });
    effect(() => {
      // Whatever of these changes, the stage is painted again.
      this.camera();
      this.size();
      this.lens();
      this.lit.bitmap();
      this.where();
      this.state.fade();
      this.state.distance();
      this.state.stroking();
      this.state.lassoing();
      this.rendering.area();
      this.store.view();
      this.state.picking();
      this.state.compare();
      this.state.hovered();
      this.state.hoveredThread();
      this.state.selected();
      this.state.solo();
      this.state.knot();
      this.guide();
      this.mark();
      this.state.row();
      this.preferences.unit();
      this.paintSoon();
    });
    afterNextRender(() => {
      const host = this.canvas().nativeElement.parentElement as HTMLElement;
      this.observer = new ResizeObserver(() => {
        this.size.set({ width: host.clientWidth, height: host.clientHeight });
        if (!this.fitted || !this.touched) this.fitAll();
      });
      this.observer.observe(host);
    });
  }

  ngOnDestroy(): void {
    this.observer?.disconnect();
    clearTimeout(this.markTimer);
    this.tiles.close();
  }

  fitAll(): void {
    const { width, height } = this.size();
    const design = this.conversion.design();
    if (!design?.picture || width < 50) return;
    this.fitted = true;
    this.touched = false;
    // Rulers cover the left and upper edge.
    const camera = fit(design.picture, { width: width - RULER, height: height - RULER });
    this.camera.set(pan(camera, RULER / 2, RULER / 2));
    const { left, top, width: w, height: h } = design.picture;
    this.lens.set({ x: left + w * 0.72, y: top + h * 0.66, radius: LENS_RADIUS, split: left + w / 2 });
  }

  /** Shows a part of the hoop, with a mark in its middle for a while. */
  private show(box: Box): void {
    this.touched = true;
    const { width, height } = this.size();
    const camera = fit(box, { width: width - RULER, height: height - RULER });
    this.camera.set(pan(camera, RULER / 2, RULER / 2));
    this.mark.set({ x: box.left + box.width / 2, y: box.top + box.height / 2 });
    clearTimeout(this.markTimer);
    this.markTimer = setTimeout(() => this.mark.set(undefined), MARK_MS);
  }

  zoom(factor: number): void {
    this.touched = true;
    const { width, height } = this.size();
    this.camera.update((camera) => zoomAt(camera, this.size(), factor, width / 2, height / 2));
  }

  protected wheeled(event: WheelEvent): void {
    event.preventDefault();
    this.touched = true;
    const { x, y } = this.placeOf(event);
    if (event.shiftKey) this.camera.update((camera) => pan(camera, -event.deltaY, 0));
    else this.camera.update((camera) => zoomAt(camera, this.size(), Math.exp(-event.deltaY * 0.0016), x, y));
  }

  protected pressed(event: PointerEvent): void {
    this.canvas().nativeElement.focus({ preventScroll: true });
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    const place = this.placeOf(event);
    this.pointers.set(event.pointerId, place);
    if (this.pointers.size === 2) {
      this.pinch = this.pinchSpan();
      this.drag = undefined;
      return;
    }
    const kind = this.space || event.button === 1 ? 'pan' : this.grabbed(place);
    if (kind === 'guide') this.addToGuide(place);
    this.drag = { kind, x: place.x, y: place.y, moved: false };
  }

  protected moved(event: PointerEvent): void {
    const place = this.placeOf(event);
    if (this.pointers.has(event.pointerId)) this.pointers.set(event.pointerId, place);
    if (this.pointers.size === 2) {
      const span = this.pinchSpan();
      if (this.pinch > 0)
        this.camera.update((camera) => zoomAt(camera, this.size(), span / this.pinch, place.x, place.y));
      this.pinch = span;
      return;
    }
    const { drag } = this;
    if (!drag) {
      if (this.state.picking()) {
        this.cursor.set('crosshair');
        return;
      }
      this.state.hovered.set(this.pieceAt(place));
      this.cursor.set(CURSORS[this.grabbed(place)] ?? '');
      return;
    }
    const dx = place.x - drag.x;
    const dy = place.y - drag.y;
    if (!drag.moved && Math.abs(dx) + Math.abs(dy) < 4) return;
    drag.moved = true;
    drag.x = place.x;
    drag.y = place.y;
    const { scale } = this.camera();
    this.touched ||= drag.kind === 'pan';
    if (this.dragStitches(drag.kind, place, event.shiftKey)) return;
    if (drag.kind === 'pan') this.camera.update((camera) => pan(camera, dx, dy));
    else if (drag.kind === 'lens')
      this.lens.update((lens) => ({ ...lens, x: lens.x + dx / scale, y: lens.y + dy / scale }));
    else this.lens.update((lens) => ({ ...lens, split: lens.split + dx / scale }));
  }

  /** Moves over a drawing tool count only while they move the cloth. */
  protected panned(event: PointerEvent): void {
    if (this.drag?.kind === 'pan') this.moved(event);
  }

  protected released(event: PointerEvent): void {
    const wasPinch = this.pointers.size === 2;
    this.pointers.delete(event.pointerId);
    this.pinch = 0;
    const { drag } = this;
    if (drag?.kind === 'guide') this.endGuide();
    else if (drag && this.dragged && (drag.kind === 'entry' || drag.kind === 'exit')) {
      this.acts.setEnd(this.chosenOne() ?? -1, drag.kind, onCloth(this.camera(), this.size(), this.dragged));
    } else if (!wasPinch && drag && !drag.moved && event.button === 0) {
      const picking = this.state.picking();
      if (picking) void this.pick(picking, this.placeOf(event));
      else this.state.select(this.pieceAt(this.placeOf(event)), event.shiftKey);
    }
    this.drag = undefined;
    this.dragged = undefined;
    this.paintSoon();
  }

  private async pick(picking: Picking, place: { x: number; y: number }): Promise<void> {
    const placement = this.store.view()?.picture;
    if (!placement) return;
    const at = toHoop(this.camera(), this.size(), place.x, place.y);
    const { u, v } = hoopToSource(placement, at.x, at.y);
    const anchor = await this.conversion.sample(u, v);
    if (!anchor || this.state.picking() !== picking) return;
    this.state.picking.set(undefined);
    this.cursor.set('');
    picking.take(anchor);
  }

  protected left(): void {
    this.state.hovered.set(undefined);
  }

  protected keyed(event: KeyboardEvent): void {
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [40, 0],
      ArrowRight: [-40, 0],
      ArrowUp: [0, 40],
      ArrowDown: [0, -40],
    };
    const step = steps[event.key];
    if (event.key === ' ') {
      this.space = true;
      event.preventDefault();
    } else if (step && this.state.compare() === 'lens' && event.altKey) {
      const { scale } = this.camera();
      this.lens.update((lens) => ({ ...lens, x: lens.x - step[0] / 4 / scale, y: lens.y - step[1] / 4 / scale }));
      event.preventDefault();
    } else if (step) {
      this.touched = true;
      this.camera.update((camera) => pan(camera, step[0], step[1]));
      event.preventDefault();
    }
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

  private placeOf(event: MouseEvent): { x: number; y: number } {
    const box = this.canvas().nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  private pinchSpan(): number {
    const [a, b] = [...this.pointers.values()];
    return Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);
  }

  /** What a press at a place takes hold of. */
  private grabbed(place: { x: number; y: number }): Drag['kind'] {
    const { x, y } = toHoop(this.camera(), this.size(), place.x, place.y);
    const lens = this.lens();
    const { scale } = this.camera();
    if (this.state.compare() === 'lens') {
      const gap = Math.sqrt((x - lens.x) ** 2 + (y - lens.y) ** 2) * scale;
      if (gap <= lens.radius) return 'lens';
    }
    if (this.state.compare() === 'split' && Math.abs(x - lens.split) * scale < 12) return 'split';
    if (this.isStroking() || (this.state.guiding() && this.chosenOne() !== undefined)) return 'guide';
    const handles = this.handles();
    return (handles && handleAt(handles, place)) ?? 'pan';
  }

  /** The one chosen piece while the Stitches step is open: its stitches can be taken hold of. */
  private chosenOne(): number | undefined {
    const selected = this.state.selected();
    if (this.state.knot() !== 'stitches' || selected.size !== 1 || this.conversion.rough()) return undefined;
    return [...selected][0];
  }

  private handles(): Handles | undefined {
    const design = this.conversion.design();
    const index = this.chosenOne();
    return design && index !== undefined && this.state.row() === undefined
      ? handlesOf(design, index, this.camera(), this.size())
      : undefined;
  }

  /** Drags a handle or a guide line on; false where something else is dragged. */
  private dragStitches(kind: Drag['kind'], place: Place, snap: boolean): boolean {
    if (kind === 'guide') {
      this.addToGuide(place);
      return true;
    }
    const index = this.chosenOne();
    if (index === undefined) return false;
    if (kind === 'angle') {
      const handles = this.handles();
      if (handles) this.acts.setOption([index], 'angle', angleTo(handles.middle, place, snap));
    } else if (kind === 'start' || kind === 'end') {
      const { x, y } = onCloth(this.camera(), this.size(), place);
      this.gradients.setWay(kind, x, y);
    } else if (kind.startsWith('stop')) {
      const handles = this.handles();
      if (handles) this.gradients.setStop(Number(kind.slice(4)), { at: shareAlong(handles, place) });
    } else if (kind === 'entry' || kind === 'exit') {
      this.dragged = place;
      this.paintSoon();
    } else return false;
    return true;
  }

  private addToGuide(place: Place): void {
    const { x, y } = onCloth(this.camera(), this.size(), place);
    this.guide.update((line) => [...line, x, y]);
  }

  /** Directions for a rendering are being drawn, or an area of its lines. */
  private isStroking(): boolean {
    return this.state.lassoing() || (this.state.stroking() && this.state.knot() === 'pieces' && this.rendering.led());
  }

  /** The line drawn becomes a guide of the chosen piece, or a direction of the rendering. */
  private endGuide(): void {
    const index = this.chosenOne();
    const line = simplify([...this.guide()], GUIDE_TOLERANCE_MM).slice(0, MOST_GUIDE_NUMBERS);
    this.guide.set([]);
    if (this.state.lassoing()) {
      if (line.length >= 6) this.rendering.setArea(line);
      this.state.lassoing.set(false);
      return;
    }
    if (this.isStroking()) {
      if (line.length >= 4) this.rendering.addStroke(line);
      return;
    }
    const piece = index === undefined ? undefined : this.conversion.design()?.pieces[index];
    if (index === undefined || !piece || line.length < 4) return;
    this.acts.setGuides(index, [...piece.choices.guides, line]);
    this.state.guiding.set(false);
  }

  /** The piece sewn last at a place, if there is one. */
  private pieceAt(place: { x: number; y: number }): number | undefined {
    const design = this.conversion.design();
    if (!design) return undefined;
    const { x, y } = toHoop(this.camera(), this.size(), place.x, place.y);
    for (let k = design.order.length - 1; k >= 0; k--) {
      const index = design.order[k];
      const { bounds } = design.pieces[index];
      if (x < bounds.left || x > bounds.right || y < bounds.top || y > bounds.bottom) continue;
      if (isInside(this.ringsOf(design, index), x, y)) return index;
    }
    return undefined;
  }

  /** Directions drawn before, on the cloth. */
  private strokes(): number[][] {
    return (this.store.view()?.rendering.strokes ?? []).map((stroke) => this.onStage(stroke));
  }

  /** Places of the picture, on the cloth. */
  private onStage(places: readonly number[]): number[] {
    const picture = this.store.view()?.picture;
    const out: number[] = [];
    for (let i = 0; picture && i < places.length; i += 2) {
      const { x, y } = sourceToHoop(picture, places[i], places[i + 1]);
      out.push(x, y);
    }
    return out;
  }

  private readonly rings = new WeakMap<object, number[][]>();

  private ringsOf(design: Design, index: number): number[][] {
    const piece = design.pieces[index];
    let rings = this.rings.get(piece);
    if (!rings) this.rings.set(piece, (rings = piece.outline.map((curve) => flattenRing(curve, 0.1))));
    return rings;
  }

  /** Mixes what is painted as an eye does that looks from some metres: a Gaussian in linear light. */
  private seeFromAfar(context: CanvasRenderingContext2D, pixelsPerMm: number): void {
    const metres = this.state.distance();
    if (metres <= 0) return;
    // An arc minute is about what an eye can tell apart.
    const sigmaMm = (metres * 1000 * Math.tan(Math.PI / 180 / 60)) / 2;
    this.haze()?.nativeElement.setStdDeviation(sigmaMm * pixelsPerMm, sigmaMm * pixelsPerMm);
    context.filter = 'url(#kite-haze)';
    context.drawImage(context.canvas, 0, 0);
    context.filter = 'none';
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
    if (this.grid.open()) return;
    const canvas = this.canvas().nativeElement;
    const size = this.size();
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width;
      canvas.height = height;
    }
    const context = canvas.getContext('2d', { alpha: false });
    if (!context) return;
    const camera = this.camera();
    const design = this.conversion.design();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = design?.fabric.hex ?? this.store.view()?.cloth.hex ?? '#f4f1ea';
    context.fillRect(0, 0, width, height);
    this.tiles.paint(context, camera, size, ratio, this.state.row());
    if (this.state.row() === undefined) performance.mark('kite-painted');
    this.seeFromAfar(context, camera.scale * ratio);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (design) {
      const bitmap = this.lit.bitmap();
      const placement = this.store.view()?.picture;
      if (bitmap && placement) {
        const picture = { bitmap, placement };
        paintCompare(context, camera, size, this.shown(), this.lens(), this.state.fade(), picture, design.fabric.hex);
      }
      const where = this.where();
      const box = this.open.result()?.box;
      if (where && box) paintWhere(context, camera, size, where, box, design.fabric.hex);
      if (this.state.solo() && this.state.selected().size > 0) {
        paintSolo(context, camera, size, design, this.state.selected());
      }
      paintOutlines(
        context,
        camera,
        size,
        design,
        this.state.hovered(),
        this.state.hoveredThread(),
        this.state.selected(),
      );
      paintMarks(context, camera, size, design, this.state.selected(), this.state.row());
      const one = this.chosenOne();
      if (one !== undefined && design.pieces[one]) {
        const drawn = this.guide();
        const lines = [...design.pieces[one].choices.guides, ...(drawn.length >= 4 ? [drawn] : [])];
        paintGuides(context, camera, size, lines);
        const handles = this.handles();
        if (handles) paintHandles(context, handles, this.dragged);
        // What is painted is told to whoever cannot see it.
        canvas.dataset['handles'] = JSON.stringify(handles ?? {});
      }
      if (this.state.knot() === 'pieces' && this.rendering.led()) {
        const drawn = this.guide();
        paintGuides(context, camera, size, [...this.strokes(), ...(drawn.length >= 4 ? [[...drawn]] : [])]);
      }
      if (this.state.knot() === 'tidy') {
        const area = this.rendering.area();
        const ring = this.onStage([...area, ...area.slice(0, 2)]);
        const drawn = this.guide();
        const lines = [...(ring.length >= 6 ? [ring] : []), ...(drawn.length >= 4 ? [[...drawn]] : [])];
        paintGuides(context, camera, size, lines);
      }
      const mark = this.mark();
      if (mark) {
        const at = toStage(camera, size, mark.x, mark.y);
        diamond(context, at.x, at.y - 12, 9, EMBER);
      }
    }
    paintRulers(context, camera, size, this.preferences.unit());
  }
}
