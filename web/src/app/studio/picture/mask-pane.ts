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
  viewChild,
} from '@angular/core';
import { placedFrame, type Mask } from '@open-kite/core';
import { ProjectStore } from '../../project/project-store';
import { LitPicture } from '../lit-picture';
import { fit, pan, toHoop, zoomAt, type Camera, type Size } from '../stage/camera';
import { EMBER, maskPath, paintPlaced, PAPER } from '../stage/overlay';
import { Conversion } from '../../convert/conversion';
import { StudioState } from '../studio-state';
import { MaskEditor } from './mask-editor';
import { PictureTools } from './picture-tools';

/** The whole picture beside its stitches: what of it is used, how it is turned, and in which light. */
@Component({
  selector: 'kite-mask-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas aria-hidden="true"></canvas>
    <div
      #handles
      class="handles"
      tabindex="0"
      role="application"
      aria-label="Picture with its mask. Arrow keys move the mask, Delete takes a point away, Escape leaves drawing."
      [class.aiming]="picking()"
      (wheel)="wheeled($event)"
      (keydown)="keyed($event)"
      (pointerdown)="pressed($event)"
      (pointermove)="moved($event)"
      (pointerup)="lifted()"
      (pointerleave)="lifted()"
    ></div>
    <p class="caption">{{ caption() }}</p>
  `,
  styleUrl: './mask-pane.scss',
})
export class MaskPane implements OnDestroy {
  private readonly store = inject(ProjectStore);
  private readonly lit = inject(LitPicture);
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  protected readonly tools = inject(PictureTools);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly handles = viewChild.required<ElementRef<HTMLDivElement>>('handles');

  private readonly size = signal<Size>({ width: 1, height: 1 });
  /** Chosen by the user; the whole picture until then. */
  private readonly chosenView = signal<Camera | undefined>(undefined);
  private editor: MaskEditor | undefined;
  private observer: ResizeObserver | undefined;
  private panning: { x: number; y: number } | undefined;
  protected readonly picking = computed(() => this.state.picking() !== undefined);

  /** The view while a handle is held: it must not move under the pointer. */
  private readonly heldCamera = signal<Camera | undefined>(undefined);

  /** All of picture and mask, unless the user chose another view. */
  private readonly camera = computed((): Camera => {
    const chosen = this.heldCamera() ?? this.chosenView();
    if (chosen) return chosen;
    const placement = this.store.view()?.picture;
    if (!placement) return { x: 0, y: 0, scale: 1 };
    const whole = placedFrame({ ...placement, mask: null });
    const cut = placedFrame(placement);
    const left = Math.min(whole.left, cut.left);
    const top = Math.min(whole.top, cut.top);
    const box = {
      left,
      top,
      width: Math.max(whole.right, cut.right) - left,
      height: Math.max(whole.bottom, cut.bottom) - top,
    };
    return fit(box, this.size());
  });

  protected readonly caption = computed(() => {
    if (this.picking()) return 'Point at the colour you mean.';
    switch (this.tools.mode()) {
      case 'draw':
        return 'Click sets a point, dragging bends; Backspace takes one back; the first point closes.';
      case 'points':
        return 'Drag points and handles. A double click on the mask adds a point, Delete removes one.';
      default:
        return this.store.view()?.picture.mask
          ? 'What lies inside the mask is sewn.'
          : 'Drag the kite to turn the picture.';
    }
  });

  constructor() {
    effect(() => {
      const placement = this.store.view()?.picture;
      if (placement)
        this.editor?.update({ camera: this.camera(), size: this.size(), placement, mode: this.tools.mode() });
      this.lit.bitmap();
      this.paint();
    });
    afterNextRender(() => {
      this.editor = new MaskEditor(this.handles().nativeElement, {
        changed: (mask) => this.tools.setMask(mask),
        turned: (degrees) => this.tools.turn(degrees),
        drawn: (mask) => this.tools.drawn(mask),
        held: (holding) => this.heldCamera.set(holding ? this.camera() : undefined),
      });
      const host = this.canvas().nativeElement.parentElement as HTMLElement;
      this.observer = new ResizeObserver(() => this.size.set({ width: host.clientWidth, height: host.clientHeight }));
      this.observer.observe(host);
    });
  }

  ngOnDestroy(): void {
    this.observer?.disconnect();
    this.editor?.close();
    this.tools.mode.set('shape');
  }

  protected wheeled(event: WheelEvent): void {
    event.preventDefault();
    const { offsetX, offsetY } = event;
    const factor = Math.exp(-event.deltaY * 0.0016);
    this.chosenView.set(zoomAt(this.camera(), this.size(), factor, offsetX, offsetY));
  }

  protected pressed(event: PointerEvent): void {
    if (event.button === 1) {
      this.panning = { x: event.clientX, y: event.clientY };
      event.preventDefault();
      return;
    }
    const picking = this.state.picking();
    if (!picking) return;
    event.preventDefault();
    event.stopPropagation();
    const box = this.handles().nativeElement.getBoundingClientRect();
    const at = toHoop(this.camera(), this.size(), event.clientX - box.left, event.clientY - box.top);
    void this.tools.sample(at.x, at.y).then((anchor) => {
      if (!anchor) return;
      this.state.picking.set(undefined);
      picking.take(anchor);
    });
  }

  protected moved(event: PointerEvent): void {
    if (!this.panning) return;
    this.chosenView.set(pan(this.camera(), event.clientX - this.panning.x, event.clientY - this.panning.y));
    this.panning = { x: event.clientX, y: event.clientY };
  }

  protected lifted(): void {
    this.panning = undefined;
  }

  protected keyed(event: KeyboardEvent): void {
    const mask = this.store.view()?.picture.mask;
    const step = event.shiftKey ? 5 : 0.5;
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const by = steps[event.key];
    if (event.key === 'Backspace' && this.editor?.takeBack()) event.preventDefault();
    else if ((event.key === 'Delete' || event.key === 'Backspace') && this.editor?.deletePoint())
      event.preventDefault();
    else if (event.key === 'Escape' && this.tools.mode() !== 'shape') {
      this.tools.mode.set('shape');
      event.stopPropagation();
    } else if (by && mask) {
      this.tools.setMask({ ...mask, x: mask.x + by[0], y: mask.y + by[1] });
      event.preventDefault();
    } else if (event.key === 'f') {
      this.chosenView.set(undefined);
      event.stopPropagation();
    }
  }

  private paint(): void {
    const canvas = this.canvas().nativeElement;
    const { width, height } = this.size();
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    canvas.width = Math.round(width * ratio);
    canvas.height = Math.round(height * ratio);
    const context = canvas.getContext('2d');
    const placement = this.store.view()?.picture;
    const bitmap = this.lit.bitmap();
    if (!context || !placement || !bitmap) return;
    const camera = this.camera();
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    const x = width / 2 - camera.x * camera.scale;
    const y = height / 2 - camera.y * camera.scale;
    const { mask } = placement;
    if (!mask) {
      paintPlaced(context, { bitmap, placement }, x, y, camera.scale);
      return;
    }
    context.globalAlpha = 0.26;
    paintPlaced(context, { bitmap, placement }, x, y, camera.scale);
    context.globalAlpha = 1;
    this.paintCut(context, { bitmap, placement, mask }, x, y, camera.scale);
  }

  private paintCut(
    context: CanvasRenderingContext2D,
    { bitmap, placement, mask }: { bitmap: ImageBitmap; placement: Parameters<typeof placedFrame>[0]; mask: Mask },
    x: number,
    y: number,
    scale: number,
  ): void {
    const path = maskPath(mask, x, y, scale);
    context.save();
    context.clip(path);
    context.fillStyle = this.conversion.design()?.fabric.hex ?? PAPER;
    context.fill(path);
    paintPlaced(context, { bitmap, placement }, x, y, scale);
    context.restore();
    context.lineWidth = 3.5;
    context.strokeStyle = PAPER;
    context.stroke(path);
    context.lineWidth = 1.8;
    context.strokeStyle = EMBER;
    context.stroke(path);
  }
}
