import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  type OnDestroy,
  viewChild,
} from '@angular/core';
import { BarController, BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { Conversion } from '../../convert/conversion';
import { colourOf } from '../chart-colours';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

/** How many stitches have each length. */
@Component({
  selector: 'kite-stitch-lengths-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas role="img" aria-label="Stitch lengths" [attr.aria-label]="said()"></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
      height: 110px;
    }
  `,
})
export class StitchLengthsChart implements OnDestroy {
  private readonly conversion = inject(Conversion);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart | undefined;

  /** Length most stitches have, for those who do not see the bars. */
  protected readonly said = computed(() => {
    const lengths = this.conversion.lengths();
    if (!lengths) return 'Stitch lengths';
    const { counts, binMm } = lengths;
    const at = counts.indexOf(Math.max(...counts));
    return `Stitch lengths: most are ${at * binMm} to ${(at + 1) * binMm} mm long`;
  });

  constructor() {
    effect(() => this.show());
    afterNextRender(() => {
      this.chart = new Chart(this.canvas().nativeElement, {
        type: 'bar',
        data: {
          labels: [],
          datasets: [{ data: [], backgroundColor: colourOf('--glass'), barPercentage: 1, categoryPercentage: 0.86 }],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          events: [],
          scales: {
            x: {
              grid: { display: false },
              ticks: { color: colourOf('--mute'), maxRotation: 0, autoSkip: false, font: { size: 11 } },
            },
            y: { display: false, beginAtZero: true },
          },
        },
      });
      this.show();
    });
  }

  private show(): void {
    const lengths = this.conversion.lengths();
    if (!this.chart || !lengths) return;
    const { counts, binMm } = lengths;
    const whole = (i: number): boolean => Number.isInteger(i * binMm);
    this.chart.data.labels = counts.map((_, i) => (whole(i) ? `${i * binMm}${i * binMm === 0 ? ' mm' : ''}` : ''));
    this.chart.data.datasets[0].data = [...counts];
    this.chart.update('none');
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }
}
