import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  input,
  type OnDestroy,
  viewChild,
} from '@angular/core';
import { fabricOf, measuredPull, pullOf, type MeasuredCloth } from '@open-kite/core';
import { Chart, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import { colourOf } from '../studio/chart-colours';

Chart.register(LinearScale, LineController, LineElement, PointElement);

const LONGEST_MM = 12;
const WAYS = [
  { name: 'across', ux: 1, uy: 0, colour: '--ember', dash: [] },
  { name: 'down', ux: 0, uy: 1, colour: '--glass', dash: [] },
  { name: 'slant', ux: Math.SQRT1_2, uy: Math.SQRT1_2, colour: '--ink', dash: [2, 3] },
] as const;

/** Pull by length of row: as it was measured in each direction, and as it is assumed of the fabric. */
@Component({
  selector: 'kite-pull-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas role="img" [attr.aria-label]="said()"></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
      height: 150px;
    }
  `,
})
export class PullChart implements OnDestroy {
  readonly cloth = input.required<MeasuredCloth>();
  readonly fabric = input.required<string>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private chart: Chart | undefined;

  protected readonly said = computed(() => {
    const at = (ux: number, uy: number): string => measuredPull(this.cloth().pull, 5, ux, uy).toFixed(2);
    return `Pull at either end of a row of 5 mm: ${at(1, 0)} mm across, ${at(0, 1)} mm down; ${pullOf(fabricOf(this.fabric()), 5).toFixed(2)} mm assumed`;
  });

  constructor() {
    effect(() => this.show());
    afterNextRender(() => {
      const line = { borderWidth: 2, pointRadius: 0, tension: 0 };
      this.chart = new Chart(this.canvas().nativeElement, {
        type: 'line',
        data: {
          datasets: [
            ...WAYS.map(({ colour, dash }) => ({
              ...line,
              data: [],
              borderColor: colourOf(colour),
              borderDash: [...dash],
            })),
            { ...line, data: [], borderColor: colourOf('--mute'), borderDash: [6, 4], borderWidth: 1.5 },
          ],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          events: [],
          parsing: false,
          scales: {
            x: {
              type: 'linear',
              min: 0,
              max: LONGEST_MM,
              grid: { display: false },
              ticks: {
                color: colourOf('--mute'),
                stepSize: 2,
                maxRotation: 0,
                callback: (v) => (v === 0 ? '0 mm' : String(v)),
              },
            },
            y: {
              beginAtZero: true,
              grid: { color: colourOf('--line') },
              ticks: { color: colourOf('--mute'), maxTicksLimit: 5 },
            },
          },
        },
      });
      this.show();
    });
  }

  private show(): void {
    const { pull } = this.cloth();
    const assumed = fabricOf(this.fabric());
    if (!this.chart) return;
    const lengths = Array.from({ length: LONGEST_MM * 2 - 1 }, (_, i) => 1 + i / 2);
    const { datasets } = this.chart.data;
    WAYS.forEach(({ ux, uy }, k) => {
      datasets[k].data = lengths.map((x) => ({ x, y: measuredPull(pull, x, ux, uy) }));
    });
    datasets[WAYS.length].data = lengths.map((x) => ({ x, y: pullOf(assumed, x) }));
    this.chart.update('none');
  }

  ngOnDestroy(): void {
    this.chart?.destroy();
  }
}
