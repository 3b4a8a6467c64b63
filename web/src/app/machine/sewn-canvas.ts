import {
  computed,
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import type { Hoop, Sewing, View } from '@open-kite/core';
import { SpareWorkers } from '../convert/spare-workers';
import { buffersOf, copyStitches } from '../convert/stitch-copies';
import type { DrawAnswer, DrawRequest } from '../studio/stage/draw-protocol';

/** Room around the hoop, and the width of its frame, in CSS pixels. */
const ROOM = 34;

/** A hoop with what is sewn in it so far, and the needle where it is. */
@Component({
  selector: 'kite-sewn-canvas',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="hoop" [style.width.px]="box().width" [style.height.px]="box().height">
      <canvas #canvas role="img" [attr.aria-label]="label()"></canvas>
      @if (needle(); as at) {
        <svg
          class="needle"
          width="34"
          height="48"
          [style.left.px]="at.x - 17"
          [style.top.px]="at.y - 44"
          aria-hidden="true"
        >
          <circle cx="17" cy="44" r="3" />
          <path d="M17 2L17 34M11 38L17 30L23 38" />
        </svg>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      place-items: center;
      min-width: 0;
      min-height: 0;
      overflow: hidden;
      background: color-mix(in srgb, var(--sailcloth) 80%, var(--ink) 8%);
    }
    .hoop {
      position: relative;
      box-sizing: content-box;
      border: 16px solid #cbb994;
      border-radius: 44px;
      outline: 2px solid #ad9a6f;
      box-shadow: inset 0 0 0 2px #ad9a6f;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
      border-radius: 28px;
    }
    .needle {
      position: absolute;
      overflow: visible;
      pointer-events: none;
    }
    .needle circle {
      fill: var(--ember);
    }
    .needle path {
      fill: none;
      stroke: #1f2d2c;
      stroke-width: 2.4;
    }
  `,
})
export class SewnCanvas implements OnDestroy {
  readonly sewing = input<Sewing | undefined>();
  readonly hoop = input.required<Pick<Hoop, 'widthMm' | 'heightMm'>>();
  /** Whether the needle moves: then it is drawn quickly. */
  readonly moving = input(false);
  /** Rows of the list that are done. */
  readonly row = input.required<number>();
  readonly label = input('');

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly worker = inject(SpareWorkers).take('draw');
  private readonly size = signal({ width: 0, height: 0 });
  /** The hoop's field; what is told of the machine time and again does not change it. */
  private readonly field = computed(() => this.hoop(), {
    equal: (a, b) => a.widthMm === b.widthMm && a.heightMm === b.heightMm,
  });
  /** The hoop's field on the screen, in CSS pixels. */
  protected readonly box = signal({ width: 10, height: 10 });
  protected readonly needle = signal<{ x: number; y: number } | undefined>(undefined);
  private observer: ResizeObserver | undefined;
  private scene = 0;
  private view: View | undefined;
  /** A picture is being made; the latest row waits for it. */
  private busy = false;
  private wanted = -1;
  private fine = false;
  private closed = false;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<DrawAnswer>) => this.arrived(data);
    effect(() => {
      const { widthMm, heightMm } = this.field();
      const { width, height } = this.size();
      const sewing = this.sewing();
      if (width === 0) return;
      const scale = Math.max(0.5, Math.min((width - 2 * ROOM) / widthMm, (height - 2 * ROOM) / heightMm));
      this.box.set({ width: Math.round(widthMm * scale), height: Math.round(heightMm * scale) });
      this.prepare(sewing, scale, widthMm, heightMm);
    });
    effect(() => {
      const row = this.row();
      this.fine = !this.moving();
      // Whatever makes the cloth bare again asks for what was sewn on it.
      this.sewing();
      this.size();
      this.field();
      this.want(row);
    });
    afterNextRender(() => {
      this.observer = new ResizeObserver(() =>
        this.size.set({ width: this.host.clientWidth, height: this.host.clientHeight }),
      );
      this.observer.observe(this.host);
    });
  }

  ngOnDestroy(): void {
    this.closed = true;
    this.observer?.disconnect();
    this.worker.terminate();
  }

  private prepare(sewing: Sewing | undefined, scale: number, widthMm: number, heightMm: number): void {
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const canvas = this.canvas().nativeElement;
    canvas.width = Math.round(widthMm * scale * ratio);
    canvas.height = Math.round(heightMm * scale * ratio);
    const pixels = scale * ratio;
    this.view = {
      width: canvas.width,
      height: canvas.height,
      scale: pixels,
      left: Math.round((-widthMm / 2) * pixels),
      top: Math.round((-heightMm / 2) * pixels),
    };
    this.busy = false;
    if (!sewing) {
      const context = canvas.getContext('2d');
      if (context) {
        context.fillStyle = '#f4f1ea';
        context.fillRect(0, 0, canvas.width, canvas.height);
      }
      return;
    }
    const stitches = copyStitches(sewing.stitches);
    const request: DrawRequest = {
      kind: 'scene',
      scene: ++this.scene,
      stitches,
      hexes: sewing.threads.map(({ hex }) => hex),
      clothHex: sewing.fabric.hex,
      patches: sewing.patches,
    };
    this.worker.postMessage(request, buffersOf(stitches));
  }

  private want(row: number): void {
    this.wanted = row;
    const { view } = this;
    if (this.busy || this.closed || !view || !this.sewing()) return;
    this.busy = true;
    const request: DrawRequest = { kind: 'moment', scene: this.scene, view, look: 'sewn', row, fine: this.fine };
    this.worker.postMessage(request);
  }

  private arrived(answer: DrawAnswer): void {
    if (this.closed || answer.kind !== 'moment') return;
    this.busy = false;
    if (answer.scene === this.scene && answer.view.width === this.view?.width) {
      const { part, pixels, row } = answer;
      const context = this.canvas().nativeElement.getContext('2d');
      if (context && part.width > 0 && part.height > 0) {
        const image = new ImageData(new Uint8ClampedArray(pixels.buffer), part.width, part.height);
        context.putImageData(image, part.left, part.top);
      }
      this.needle.set(this.placeOf(row));
      if (row === this.wanted) return;
    }
    this.want(this.wanted);
  }

  /** Where the needle is on the screen after some rows. */
  private placeOf(row: number): { x: number; y: number } | undefined {
    const sewing = this.sewing();
    const { widthMm, heightMm } = this.hoop();
    if (!sewing || row <= 0 || row >= sewing.stitches.count) return undefined;
    const scale = this.box().width / widthMm;
    const { x, y } = sewing.stitches;
    return { x: (x[row - 1] + widthMm / 2) * scale, y: (y[row - 1] + heightMm / 2) * scale };
  }
}
