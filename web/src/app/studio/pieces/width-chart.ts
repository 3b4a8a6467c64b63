import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  signal,
  type ElementRef,
  viewChild,
} from '@angular/core';
import { LIMITS } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { Preferences } from '../../shared/preferences';
import { formatLength } from '../../shared/units';

type Threshold = 'lineBelowMm' | 'satinBelowMm';

const WIDTH = 250;
const HEIGHT = 54;
const BINS = 25;
/** The chart ends here; wider pieces stand in its last column. */
const WIDEST = 10;
/** Widths are spread as their square root: most pieces are narrow. */
const toX = (mm: number): number => Math.sqrt(Math.min(WIDEST, mm) / WIDEST) * WIDTH;
const toMm = (x: number): number => (x / WIDTH) ** 2 * WIDEST;

/** How wide the pieces are, and up to which widths they are sewn as lines and as satin: both can be dragged. */
@Component({
  selector: 'kite-width-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg #chart viewBox="-8 0 266 82" role="group" aria-label="Widths of the pieces">
      @for (bar of bars(); track $index) {
        <rect
          [attr.x]="bar.x + 0.5"
          [attr.width]="bar.width - 1"
          [attr.y]="bar.y"
          [attr.height]="bar.height"
          [attr.class]="bar.kind"
        />
      }
      <line class="base" x1="0" [attr.x2]="width" y1="54" y2="54" />
      @for (tick of ticks; track tick.mm) {
        <text class="tick" [attr.x]="tick.x" y="76">{{ tick.mm }}</text>
      }
      @for (handle of handles(); track handle.key) {
        <g
          class="handle"
          tabindex="0"
          role="slider"
          [attr.aria-label]="handle.label"
          [attr.aria-valuemin]="0"
          [attr.aria-valuemax]="handle.most"
          [attr.aria-valuenow]="handle.mm"
          [attr.aria-valuetext]="handle.text"
          (pointerdown)="grab($event, handle.key)"
          (pointermove)="move($event, handle.key)"
          (pointerup)="held.set(undefined)"
          (keydown)="nudge($event, handle.key)"
        >
          <line [attr.x1]="handle.x" [attr.x2]="handle.x" y1="2" y2="54" />
          <path [attr.d]="'M' + handle.x + ' 46l8 9l-8 9l-8-9Z'" />
        </g>
      }
    </svg>
    <p>
      <span>{{ counts().line }} lines</span> to {{ length('lineBelowMm') }}, <span>{{ counts().column }} satin</span> to
      {{ length('satinBelowMm') }},
      <span>{{ counts().area }} fills</span>
    </p>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      touch-action: none;
    }
    rect.line {
      fill: var(--ink);
    }
    rect.column {
      fill: var(--ember);
    }
    rect.area {
      fill: var(--glass);
    }
    .base {
      stroke: var(--line);
    }
    .tick {
      fill: var(--mute);
      font-size: 10px;
      text-anchor: middle;
    }
    .handle {
      cursor: ew-resize;
      outline: none;
    }
    .handle line {
      stroke: var(--ink);
      stroke-dasharray: 2 3;
    }
    .handle path {
      fill: var(--paper);
      stroke: var(--ink);
      stroke-width: 2;
    }
    .handle:hover path,
    .handle:focus-visible path {
      fill: var(--ember);
    }
    p {
      margin: 2px 0 0;
      color: var(--mute);
      font-size: 12.5px;
    }
    p span {
      color: var(--ink);
      font-weight: 600;
    }
  `,
})
export class WidthChart {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);
  private readonly chart = viewChild.required<ElementRef<SVGSVGElement>>('chart');
  protected readonly held = signal<Threshold | undefined>(undefined);
  protected readonly width = WIDTH;
  protected readonly ticks = [0, 1, 2, 4, 6, 10].map((mm) => ({ mm: mm === WIDEST ? '10+' : `${mm}`, x: toX(mm) }));

  protected readonly counts = computed(() => {
    const counts = { line: 0, column: 0, area: 0 };
    for (const { family } of this.conversion.design()?.pieces ?? []) counts[family]++;
    return counts;
  });

  protected readonly bars = computed(() => {
    const pieces = this.conversion.design()?.pieces ?? [];
    const bins = Array.from({ length: BINS }, () => ({ line: 0, column: 0, area: 0 }));
    for (const { widthMm, family } of pieces) {
      bins[Math.min(BINS - 1, Math.floor((toX(widthMm) / WIDTH) * BINS))][family]++;
    }
    const most = Math.max(1, ...bins.map((b) => b.line + b.column + b.area));
    return bins.flatMap((bin, i) => {
      let top = HEIGHT;
      return (['line', 'column', 'area'] as const).flatMap((kind) => {
        // One piece is always seen.
        const height = bin[kind] === 0 ? 0 : Math.max(2, (bin[kind] / most) * (HEIGHT - 4));
        top -= height;
        return height === 0 ? [] : [{ kind, x: (i * WIDTH) / BINS, width: WIDTH / BINS, y: top, height }];
      });
    });
  });

  protected readonly handles = computed(() => {
    const pieces = this.store.view()?.pieces;
    return (['lineBelowMm', 'satinBelowMm'] as const).map((key) => {
      const mm = pieces?.[key] ?? 0;
      const what = key === 'lineBelowMm' ? 'a line' : 'satin';
      return {
        key,
        mm,
        x: toX(mm),
        most: LIMITS[key][1],
        label: `Sewn as ${what} up to this width`,
        text: formatLength(mm, this.preferences.unit(), 2),
      };
    });
  });

  protected length(key: Threshold): string {
    return formatLength(this.store.view()?.pieces[key] ?? 0, this.preferences.unit(), 2);
  }

  protected grab(event: PointerEvent, key: Threshold): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.held.set(key);
  }

  protected move(event: PointerEvent, key: Threshold): void {
    if (this.held() !== key) return;
    const box = this.chart().nativeElement.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * 266 - 8;
    this.set(key, toMm(Math.max(0, Math.min(WIDTH, x))));
  }

  protected nudge(event: KeyboardEvent, key: Threshold): void {
    const step = { ArrowRight: 0.05, ArrowUp: 0.05, ArrowLeft: -0.05, ArrowDown: -0.05 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.set(key, (this.store.view()?.pieces[key] ?? 0) + step);
  }

  private set(key: Threshold, mm: number): void {
    const [least, most] = LIMITS[key];
    const value = Number(Math.max(least, Math.min(most, mm)).toFixed(2));
    this.store.change(key === 'lineBelowMm' ? 'width of lines' : 'width of satin', ({ pieces }) => {
      pieces[key] = value;
      // A line is never wider than satin may be.
      if (key === 'lineBelowMm') pieces.satinBelowMm = Math.max(pieces.satinBelowMm, value);
      else pieces.lineBelowMm = Math.min(pieces.lineBelowMm, value);
    });
  }
}
