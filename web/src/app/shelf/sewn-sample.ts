import { HttpClient } from '@angular/common/http';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, of } from 'rxjs';
import { formatCount } from '../shared/units';

/** Stitches of the sample, as the build makes them: places in hundredths of a millimetre around the picture's middle. */
export interface Sample {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly threads: readonly string[];
  readonly x: readonly number[];
  readonly y: readonly number[];
  readonly command: readonly number[];
  readonly thread: readonly number[];
}

const FOLDER = '/sample/kite';
/** Of a stitch list's row: the needle goes in. */
const STITCH = 0;
const SEWN_IN_MS = 4800;
const THREAD_MM = 0.42;
const LIGHT_SHARE = 0.4;

/** A picture beside the place where pictures are dropped: it is sewn while one looks. */
@Component({
  selector: 'kite-sewn-sample',
  template: `
    @if (sample(); as own) {
      <figure>
        <div class="cloth" [style.aspect-ratio]="own.widthMm / own.heightMm">
          <img [src]="picture" alt="" />
          <canvas #canvas role="img" aria-label="A kite, as its picture becomes stitches"></canvas>
        </div>
        <figcaption>
          <span>{{ count(laid()) }} stitches, {{ own.threads.length }} threads</span>
          @if (laid() === stitches()) {
            <button type="button" class="link" (click)="sew()">Sew it again</button>
          }
        </figcaption>
      </figure>
    }
  `,
  styles: `
    figure {
      margin: 0;
    }
    .cloth {
      position: relative;
      width: 100%;
    }
    img,
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    img {
      opacity: 0.28;
    }
    figcaption {
      display: flex;
      gap: 10px;
      align-items: center;
      min-height: 28px;
      color: var(--mute);
      font-size: 12.5px;
      font-variant-numeric: tabular-nums;
    }
    .link {
      padding: 2px 4px;
      white-space: nowrap;
      border: 0;
      background: none;
      color: var(--glass);
      font: inherit;
      font-weight: 600;
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SewnSample {
  protected readonly picture = `${FOLDER}.svg`;
  protected readonly count = formatCount;
  /** Nothing is shown where it cannot be had: the shelf does without. */
  protected readonly sample = toSignal(
    inject(HttpClient)
      .get<Sample>(`${FOLDER}.json`)
      .pipe(catchError(() => of(undefined))),
  );
  protected readonly stitches = computed(() => this.sample()?.command.filter((c) => c === STITCH).length ?? 0);
  /** How many stitches lie there. */
  protected readonly laid = signal(0);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');
  private frame = 0;

  constructor() {
    effect(() => {
      if (this.canvas()) this.sew();
    });
    inject(DestroyRef).onDestroy(() => cancelAnimationFrame(this.frame));
  }

  /** Sews it from the first stitch to the last; at once for those who want no motion. */
  protected sew(): void {
    const [sample, canvas] = [this.sample(), this.canvas()?.nativeElement];
    const context = canvas?.getContext('2d');
    if (!sample || !canvas || !context) return;
    cancelAnimationFrame(this.frame);
    const density = Math.min(2, window.devicePixelRatio || 1);
    canvas.width = Math.max(1, Math.round(canvas.clientWidth * density));
    canvas.height = Math.max(1, Math.round(canvas.clientHeight * density));
    const scale = canvas.width / sample.widthMm;
    context.setTransform(scale / 100, 0, 0, scale / 100, canvas.width / 2, canvas.height / 2);
    context.lineCap = 'round';
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    const rows = sample.command.length;
    let row = 1;
    let done = 0;
    let began: number | undefined;
    this.laid.set(0);
    const layTo = (to: number): void => {
      for (; row < to; row++) done += layStitch(context, sample, row);
      this.laid.set(to >= rows ? this.stitches() : done);
    };
    const step = (now: number): void => {
      began ??= now;
      const share = Math.min(1, (now - began) / SEWN_IN_MS);
      layTo(Math.max(row, Math.ceil(share * rows)));
      if (share < 1) this.frame = requestAnimationFrame(step);
    };
    if (still) layTo(rows);
    else this.frame = requestAnimationFrame(step);
  }
}

/** Draws a row of the list; says how many stitches that were. */
function layStitch(context: CanvasRenderingContext2D, sample: Sample, row: number): number {
  const { x, y, command, thread, threads } = sample;
  if (command[row] !== STITCH) return 0;
  // The first needle point after a jump stands where the needle is.
  if (command[row - 1] !== STITCH) return 1;
  const line = (width: number, colour: string): void => {
    context.beginPath();
    context.moveTo(x[row - 1], y[row - 1]);
    context.lineTo(x[row], y[row]);
    context.lineWidth = width * 100;
    context.strokeStyle = colour;
    context.stroke();
  };
  const hex = threads[thread[row]] ?? '#000000';
  line(THREAD_MM, `color-mix(in srgb, ${hex} 82%, black)`);
  line(THREAD_MM * LIGHT_SHARE, `color-mix(in srgb, ${hex} 84%, white)`);
  return 1;
}
