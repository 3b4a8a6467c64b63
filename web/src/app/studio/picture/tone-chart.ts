import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  inject,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import { BarController, BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { autoLevels } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { colourOf } from '../chart-colours';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

const BINS = 64;

/** How light the picture's pixels are, with the black and the white point to drag. */
@Component({
  selector: 'kite-tone-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box">
      <canvas
        #canvas
        role="img"
        aria-label="How many pixels have each lightness, from dark to light"
        (pointerdown)="pressed($event)"
        (pointermove)="moved($event)"
        (pointerup)="dragged = undefined"
      ></canvas>
    </div>
    <button class="solid-button second" type="button" [disabled]="!counts()" (click)="auto()">
      Use the whole range of light
    </button>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 8px;
    }
    .box {
      position: relative;
      height: 84px;
    }
    canvas {
      cursor: ew-resize;
      touch-action: none;
    }
    button {
      min-height: 30px;
    }
  `,
})
export class ToneChart implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly counts = signal<Uint32Array | undefined>(undefined);
  private chart: Chart | undefined;
  protected dragged: 'black' | 'white' | undefined;

  constructor() {
    let asked = '';
    effect(() => {
      const recipe = this.store.view();
      // The histogram is of the picture before its light is changed: only the placement matters.
      const key = recipe && JSON.stringify(recipe.picture);
      if (!recipe || key === asked || this.conversion.state() === 'opening') return;
      asked = key ?? '';
      void this.conversion.tones(recipe).then(
        (counts) => this.counts.set(counts),
        () => this.counts.set(undefined),
      );
    });
    effect(() => {
      const counts = this.counts();
      const light = this.store.view()?.light;
      if (!this.chart || !counts || !light) return;
      const bins = Array.from({ length: BINS }, (_, i) => counts.slice(i * 4, i * 4 + 4).reduce((a, b) => a + b, 0));
      // Roots, so that a picture of mostly one tone shows the rest as well.
      this.chart.data.datasets[0].data = bins.map(Math.sqrt);
      this.chart.update('none');
    });
    afterNextRender(() => {
      this.chart = new Chart(this.canvas().nativeElement, {
        type: 'bar',
        data: {
          labels: Array.from({ length: BINS }, (_, i) => i * 4),
          datasets: [{ data: [], backgroundColor: colourOf('--mute'), barPercentage: 1, categoryPercentage: 1 }],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          events: [],
          layout: { padding: { left: 8, right: 8, bottom: 14 } },
          scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
        },
        plugins: [{ id: 'points', afterDraw: (chart) => this.drawPoints(chart) }],
      });
      this.counts.update((counts) => counts && counts.slice());
    });
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }

  protected auto(): void {
    const counts = this.counts();
    if (!counts) return;
    const { black, white } = autoLevels(counts);
    this.store.change('automatic levels', ({ light }) => {
      light.black = black;
      light.white = white;
    });
  }

  private drawPoints(chart: Chart): void {
    const light = this.store.view()?.light;
    if (!light) return;
    const { ctx, chartArea } = chart;
    for (const [name, level] of [
      ['black', light.black],
      ['white', light.white],
    ] as const) {
      const x = chartArea.left + (level / 255) * chartArea.width;
      ctx.save();
      ctx.strokeStyle = colourOf('--ember');
      ctx.lineWidth = 1.5;
      ctx.beginPath();
      ctx.moveTo(x, chartArea.top);
      ctx.lineTo(x, chartArea.bottom);
      ctx.stroke();
      ctx.translate(x, chartArea.bottom + 7);
      ctx.rotate(Math.PI / 4);
      ctx.fillStyle = name === 'black' ? '#111' : '#fff';
      ctx.strokeStyle = colourOf('--ink');
      ctx.fillRect(-4.5, -4.5, 9, 9);
      ctx.strokeRect(-4.5, -4.5, 9, 9);
      ctx.restore();
    }
  }

  private levelAt(event: PointerEvent): number {
    if (!this.chart) return 0;
    const { left, width } = this.chart.chartArea;
    return Math.round(Math.min(1, Math.max(0, (event.offsetX - left) / width)) * 255);
  }

  protected pressed(event: PointerEvent): void {
    const light = this.store.view()?.light;
    if (!light) return;
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    const level = this.levelAt(event);
    this.dragged = Math.abs(level - light.black) < Math.abs(level - light.white) ? 'black' : 'white';
    this.moved(event);
  }

  protected moved(event: PointerEvent): void {
    if (!this.dragged) return;
    const level = this.levelAt(event);
    const black = this.dragged === 'black';
    this.store.change(black ? 'black point' : 'white point', ({ light }) => {
      if (black) light.black = Math.min(level, light.white - 1);
      else light.white = Math.max(level, light.black + 1);
    });
  }
}
