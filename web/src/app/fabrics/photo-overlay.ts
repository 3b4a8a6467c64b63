import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { laidAt, overlayOf, type Measurement, type Overlay, type Point } from '@open-kite/core';
import type { SewnShape } from './sew-out-protocol';

/** Arrow keys move a place by so much of the picture's longer side; with shift ten times as far. */
const NUDGE = 0.0006;
/** Keys that move a place. */
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A photograph of a sewn design with the design laid over it: four places to take hold of, outlines, and what was measured. */
@Component({
  selector: 'kite-photo-overlay',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sheet" [style.aspect-ratio]="width() / height()" [style.--ratio]="width() / height()">
      <img [src]="address()" alt="Photograph of the sew-out" draggable="false" />
      <svg #area [attr.viewBox]="'0 0 ' + width() + ' ' + height()" aria-hidden="true">
        <path class="outline" [attr.d]="outlines()" />
        @for (line of lines(); track $index) {
          <path class="probe" [attr.d]="line" />
        }
      </svg>
      @for (corner of corners(); track $index) {
        <button
          type="button"
          class="place"
          [style.left.%]="(100 * corner.x) / width()"
          [style.top.%]="(100 * corner.y) / height()"
          [class.held]="held() === $index"
          [attr.aria-label]="'Place ' + ($index + 1) + ': arrow keys move it'"
          (pointerdown)="take($event, $index)"
          (pointermove)="drag($event)"
          (pointerup)="held.set(-1)"
          (pointercancel)="held.set(-1)"
          (keydown)="nudge($event, $index)"
        >
          <span aria-hidden="true">{{ $index + 1 }}</span>
        </button>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      place-items: center;
      min-width: 0;
      min-height: 0;
      container-type: size;
    }
    .sheet {
      position: relative;
      width: min(100cqw, 100cqh * var(--ratio));
    }
    img,
    svg {
      display: block;
      position: absolute;
      width: 100%;
      height: 100%;
    }
    img {
      border-radius: 6px;
    }
    path {
      fill: none;
      vector-effect: non-scaling-stroke;
    }
    .outline {
      stroke: var(--ember);
      stroke-width: 1;
      opacity: 0.75;
    }
    .probe {
      stroke: #ffffff;
      stroke-width: 2;
    }
    .place {
      position: absolute;
      width: 22px;
      height: 22px;
      margin: -11px;
      padding: 0;
      border: 2px solid #ffffff;
      background: #c8481f;
      color: #ffffff;
      box-shadow: 0 0 0 1px #1f2d2c;
      transform: rotate(45deg);
      cursor: grab;
      touch-action: none;
    }
    .place:hover {
      background: #9c3413;
    }
    .place.held {
      cursor: grabbing;
      opacity: 0.7;
    }
    .place:focus-visible {
      outline: 3px solid var(--glass);
      outline-offset: 3px;
    }
    .place span {
      display: block;
      transform: rotate(-45deg);
      font-size: 12px;
      font-weight: 600;
      line-height: 18px;
    }
  `,
})
export class PhotoOverlay {
  readonly address = input.required<string>();
  readonly width = input.required<number>();
  readonly height = input.required<number>();
  readonly shape = input.required<SewnShape>();
  readonly corners = input.required<readonly Point[]>();
  readonly measured = input.required<readonly Measurement[]>();
  readonly moved = output<readonly Point[]>();

  protected readonly held = signal(-1);
  private readonly area = viewChild.required<ElementRef<SVGSVGElement>>('area');

  private readonly overlay = computed((): Overlay | undefined => {
    try {
      return overlayOf(this.shape().places, this.corners());
    } catch {
      // Three of them on one line: nothing can be laid over it that way.
      return undefined;
    }
  });

  protected readonly outlines = computed(() => {
    const overlay = this.overlay();
    if (!overlay) return '';
    const ring = (points: readonly number[]): string => {
      const parts: string[] = [];
      for (let i = 0; i < points.length; i += 2) parts.push(at(overlay, points[i], points[i + 1]));
      return `M${parts.join('L')}Z`;
    };
    return this.shape().rings.map(ring).join('');
  });

  protected readonly lines = computed(() => {
    const overlay = this.overlay();
    if (!overlay) return [];
    return this.measured()
      .filter(({ kind }) => kind !== 'gap')
      .map(({ x, y, ux, uy, asSewnMm }) => {
        const half = asSewnMm / 2;
        return `M${at(overlay, x - ux * half, y - uy * half)}L${at(overlay, x + ux * half, y + uy * half)}`;
      });
  });

  protected take(event: PointerEvent, index: number): void {
    (event.target as HTMLElement).closest('button')?.setPointerCapture(event.pointerId);
    this.held.set(index);
  }

  protected drag(event: PointerEvent): void {
    if (this.held() < 0) return;
    const box = this.area().nativeElement.getBoundingClientRect();
    this.put(
      this.held(),
      ((event.clientX - box.left) / box.width) * this.width(),
      ((event.clientY - box.top) / box.height) * this.height(),
    );
  }

  protected nudge(event: KeyboardEvent, index: number): void {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const by = NUDGE * Math.max(this.width(), this.height()) * (event.shiftKey ? 10 : 1);
    const { x, y } = this.corners()[index];
    this.put(index, x + way[0] * by, y + way[1] * by);
  }

  private put(index: number, x: number, y: number): void {
    const place = { x: Math.min(this.width(), Math.max(0, x)), y: Math.min(this.height(), Math.max(0, y)) };
    this.moved.emit(this.corners().map((corner, k) => (k === index ? place : corner)));
  }
}

const at = (overlay: Overlay, x: number, y: number): string => {
  const place = laidAt(overlay, x, y);
  return `${place.x.toFixed(1)} ${place.y.toFixed(1)}`;
};
