import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  type OnDestroy,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import type { CurvePoint } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';
import { colourOf } from '../chart-colours';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement);

const MOST_THREADS = 24;

/** What fewer threads would cost: difference against their number, the suggested one and the chosen one marked. */
@Component({
  selector: 'kite-thread-curve-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="box">
      <canvas
        #canvas
        role="img"
        aria-label="Difference from the picture against number of threads; the text below says the same"
        (click)="clicked($event)"
      ></canvas>
    </div>
    <p>{{ said() }}</p>
  `,
  styles: `
    :host {
      display: block;
    }
    .box {
      position: relative;
      height: 116px;
    }
    canvas {
      cursor: pointer;
    }
    p {
      margin: 2px 0 0;
      color: var(--mute);
      font-size: 12.5px;
    }
  `,
})
export class ThreadCurveChart implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly open = inject(OpenPicture);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart | undefined;
  private readonly points = signal<readonly CurvePoint[]>([]);
  /** A number of threads was pointed at. */
  readonly chosen = output<number>();

  private readonly suggested = computed(() => this.open.result()?.suggestedColours ?? 0);
  private readonly count = computed(() => {
    const count = this.store.view()?.colours.count;
    return count === 'auto' || count === undefined ? this.suggested() : count;
  });

  protected readonly said = computed(() => {
    const points = this.points();
    const at = points.find((p) => p.count === Math.min(this.count(), points.length));
    if (!at) return 'Difference against number of threads is being measured.';
    const fewer = points.find((p) => p.count === at.count - 2);
    const now = `${at.count} ${at.count === 1 ? 'thread' : 'threads'}: ${at.deltaE.toFixed(1)} away from the picture on average`;
    return fewer ? `${now}; two fewer: ${fewer.deltaE.toFixed(1)}.` : `${now}.`;
  });

  constructor() {
    let asked = '';
    effect(() => {
      const view = this.store.view();
      const recipe = this.store.recipe();
      if (!recipe || !view || this.conversion.state() !== 'done') return;
      const key = JSON.stringify([view.id, view.picture, view.light, view.colours.charts]);
      if (key === asked) return;
      asked = key;
      this.conversion.curve(recipe, view.id, MOST_THREADS).then(
        (points) => points && this.points.set(points),
        () => this.points.set([]),
      );
    });
    effect(() => {
      const points = this.points();
      const [suggested, count] = [this.suggested(), this.count()];
      if (!this.chart) return;
      const [ember, glass, mute] = [colourOf('--ember'), colourOf('--glass'), colourOf('--mute')];
      const mark = (n: number): string => (n === count ? ember : n === suggested ? glass : mute);
      this.chart.data.labels = points.map((p) => p.count);
      this.chart.data.datasets = [
        {
          data: points.map((p) => p.deltaE),
          borderColor: mute,
          borderWidth: 1.5,
          pointStyle: 'rectRot',
          pointRadius: points.map((p) => (p.count === count || p.count === suggested ? 6 : 2.5)),
          pointBackgroundColor: points.map((p) => mark(p.count)),
          pointBorderColor: points.map((p) => mark(p.count)),
          tension: 0.2,
        },
      ];
      this.chart.update('none');
    });
    afterNextRender(() => {
      const mute = colourOf('--mute');
      const line = colourOf('--line');
      this.chart = new Chart(this.canvas().nativeElement, {
        type: 'line',
        data: { labels: [], datasets: [] },
        options: {
          animation: false,
          maintainAspectRatio: false,
          events: [],
          font: { family: "'Instrument Sans Variable', sans-serif" },
          scales: {
            x: { grid: { display: false }, ticks: { color: mute, maxTicksLimit: 8, font: { size: 11 } } },
            y: {
              beginAtZero: true,
              grid: { color: line },
              ticks: { color: mute, maxTicksLimit: 4, font: { size: 11 } },
            },
          },
        },
        plugins: [{ id: 'suggested', afterDatasetsDraw: (chart) => this.labelSuggested(chart) }],
      });
      this.points.update((points) => [...points]);
    });
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }

  private labelSuggested(chart: Chart): void {
    const at = this.points().findIndex((p) => p.count === this.suggested());
    if (at < 0) return;
    const { x, y } = chart.getDatasetMeta(0).data[at];
    chart.ctx.save();
    chart.ctx.fillStyle = colourOf('--glass');
    chart.ctx.font = "600 11px 'Instrument Sans Variable', sans-serif";
    const room = x < chart.chartArea.right - 70;
    chart.ctx.textAlign = room ? 'left' : 'right';
    chart.ctx.fillText('suggested', x + (room ? 9 : -9), y - 8);
    chart.ctx.restore();
  }

  protected clicked(event: MouseEvent): void {
    if (!this.chart) return;
    const index = this.chart.scales['x'].getValueForPixel(event.offsetX);
    const point = index === undefined ? undefined : this.points()[Math.round(index)];
    if (point) this.chosen.emit(point.count);
  }
}
