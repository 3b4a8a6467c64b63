import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { CardFigure } from '@open-kite/core';
import { Preferences } from '../shared/preferences';
import { formatLength, parseLength } from '../shared/units';

const WAYS = ['across', 'down', 'slant'] as const;
/** Wider than this no gauge reads on a card. */
const MOST_MM = 30;

/** Widths of a sewn card as a gauge shows them: one row a width, one column for each way its rows run. */
@Component({
  selector: 'kite-gauge-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table>
      <thead>
        <tr>
          <th scope="col">As drawn</th>
          @for (way of ways; track way) {
            <th scope="col">rows {{ way === 'slant' ? 'on the slant' : way }}</th>
          }
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.label) {
          <tr>
            <th scope="row">{{ row.label }}</th>
            @for (figure of row.figures; track $index) {
              <td>
                @if (figure) {
                  <input
                    #field
                    type="text"
                    inputmode="decimal"
                    autocomplete="off"
                    [value]="shown(figure)"
                    [attr.aria-label]="row.label + ', ' + figure.way + ', as sewn'"
                    [attr.aria-invalid]="refused() === figure.id ? 'true' : null"
                    (change)="type(figure, field)"
                    (keydown.enter)="field.blur()"
                  />
                }
              </td>
            }
          </tr>
        }
      </tbody>
    </table>
    @if (refused()) {
      <p role="alert">A width is a length from 0 to {{ most() }}.</p>
    }
  `,
  styles: `
    table {
      border-collapse: collapse;
    }
    th {
      padding: 4px 14px 4px 0;
      color: var(--mute);
      font-weight: 500;
      text-align: left;
    }
    tbody th {
      color: var(--ink);
    }
    td {
      padding: 3px 10px 3px 0;
    }
    input {
      width: 92px;
      padding: 6px 9px;
      border: 1px solid var(--mute);
      border-radius: 8px;
      background: var(--raised);
      color: var(--ink);
      font: inherit;
      font-variant-numeric: tabular-nums;
    }
    input:focus-visible {
      outline: 2px solid var(--ember);
    }
    p {
      color: var(--ember);
    }
  `,
})
export class GaugeTable {
  private readonly preferences = inject(Preferences);
  readonly figures = input.required<readonly CardFigure[]>();
  readonly values = input.required<ReadonlyMap<string, number>>();
  /** A width that was typed, or taken away. */
  readonly typed = output<{ readonly id: string; readonly mm: number | undefined }>();

  protected readonly ways = WAYS;
  protected readonly refused = signal('');
  protected readonly most = computed(() => formatLength(MOST_MM, this.preferences.unit(), 0));
  protected readonly rows = computed(() => {
    const labels = new Map<string, CardFigure[]>();
    for (const figure of this.figures()) {
      const label = this.labelOf(figure);
      labels.set(label, [...(labels.get(label) ?? []), figure]);
    }
    return [...labels].map(([label, figures]) => ({
      label,
      figures: WAYS.map((way) => figures.find((figure) => figure.way === way)),
    }));
  });

  private labelOf({ kind, drawnMm, id }: CardFigure): string {
    const length = formatLength(drawnMm, this.preferences.unit(), 0);
    if (kind === 'gap') return 'Gap between the two fields';
    if (kind === 'length') return `Length of a column, ${length}`;
    return `${id.startsWith('field') ? 'Field' : 'Column'} of ${length}`;
  }

  protected shown(figure: CardFigure): string {
    const mm = this.values().get(figure.id);
    return mm === undefined ? '' : formatLength(mm, this.preferences.unit(), 2);
  }

  protected type(figure: CardFigure, field: HTMLInputElement): void {
    const text = field.value.trim();
    const mm = text === '' ? undefined : parseLength(text, this.preferences.unit());
    if (text !== '' && (mm === undefined || mm < 0 || mm > MOST_MM)) {
      this.refused.set(figure.id);
      return;
    }
    this.refused.set('');
    this.typed.emit({ id: figure.id, mm });
  }
}
