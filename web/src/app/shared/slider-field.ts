import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import { MatTooltipModule } from '@angular/material/tooltip';
import { Preferences } from './preferences';
import { formatLength, parseLength } from './units';

let count = 0;

/** A labelled number: a slider whose handle is the kite's diamond, and a field that takes typed units. */
@Component({
  selector: 'kite-slider-field',
  imports: [MatSliderModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <label [for]="id" [matTooltip]="backText()" (dblclick)="reset()">{{ label() }}</label>
      @if (moved()) {
        <button
          class="back"
          type="button"
          [attr.aria-label]="'Reset ' + label()"
          [matTooltip]="backText()"
          (click)="reset()"
        >
          ↺
        </button>
      }
      <input
        class="value"
        type="text"
        inputmode="decimal"
        [attr.aria-label]="label() + ', typed'"
        [attr.aria-invalid]="refused() ? 'true' : null"
        [attr.aria-describedby]="refused() ? id + '-why' : null"
        [value]="shown()"
        (change)="typed($event)"
        (focus)="select($event)"
      />
    </div>
    <mat-slider [min]="min()" [max]="max()" [step]="step()" [displayWith]="display" (dblclick)="reset()">
      <input matSliderThumb [id]="id" [value]="value()" (input)="slid($event)" />
    </mat-slider>
    @if (refused(); as why) {
      <p class="refused" role="alert" [id]="id + '-why'">{{ why }}</p>
    }
    <ng-content />
  `,
  styles: `
    :host {
      display: block;
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      gap: 8px;
    }
    label {
      flex: 1;
      font-weight: 600;
    }
    .back {
      width: 24px;
      height: 24px;
      padding: 0;
      border: 0;
      border-radius: 6px;
      background: none;
      color: var(--mute);
      cursor: pointer;
    }
    .back:hover {
      background: var(--sailcloth);
      color: var(--ink);
    }
    .value {
      width: 84px;
      padding: 2px 6px;
      border: 1px solid transparent;
      border-radius: 6px;
      background: none;
      color: inherit;
      font: inherit;
      text-align: right;
    }
    .value:hover,
    .value:focus {
      border-color: var(--line);
      background: var(--raised);
    }
    mat-slider {
      width: calc(100% - 16px);
      height: 24px;
      margin: 0 8px;
    }
    .refused {
      margin: 2px 0 4px;
      color: var(--ember);
    }
  `,
})
export class SliderField {
  private readonly preferences = inject(Preferences);
  protected readonly id = `slider-${count++}`;

  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly min = input.required<number>();
  readonly max = input.required<number>();
  /** Most that may be typed, where the slider ends before it. */
  readonly limit = input<number>();
  /** Most that is passed on all the same: whoever listens makes it fit, and says so. */
  readonly fitted = input<number>();
  readonly step = input(0.01);
  readonly digits = input(1);
  /** `length` follows the chosen unit; anything else is shown behind the number. */
  readonly unit = input<string>('length');
  /** Value a double click goes back to. */
  readonly resting = input<number>();
  readonly changed = output<number>();

  protected readonly refused = signal('');
  private readonly most = computed(() => this.limit() ?? this.max());
  protected readonly shown = computed(() => this.format(this.value()));

  protected readonly moved = computed(() => this.resting() !== undefined && this.value() !== this.resting());
  protected readonly backText = computed(() => {
    const resting = this.resting();
    return resting === undefined ? null : `Double click: back to ${this.format(resting)}`;
  });

  /** What somebody hears who cannot see the handle. */
  protected readonly display = (value: number): string => this.format(value);

  protected reset(): void {
    const resting = this.resting();
    if (resting === undefined) return;
    this.refused.set('');
    this.changed.emit(resting);
  }

  private format(value: number): string {
    if (this.unit() === 'length') return formatLength(value, this.preferences.unit(), this.digits());
    return `${value.toFixed(this.digits())}${this.unit()}`;
  }

  protected slid(event: Event): void {
    this.refused.set('');
    this.changed.emit(Number((event.target as HTMLInputElement).value));
  }

  protected typed(event: Event): void {
    const field = event.target as HTMLInputElement;
    const bare = field.value.replace(this.unit(), '').trim();
    const value =
      this.unit() === 'length' ? parseLength(field.value, this.preferences.unit()) : Number(bare.replace(',', '.'));
    if (value === undefined || bare === '' || !Number.isFinite(value)) {
      this.refused.set(`"${field.value}" is not a number`);
    } else if (value < this.min() || value > (this.fitted() ?? this.most())) {
      this.refused.set(`From ${this.format(this.min())} to ${this.format(this.most())}`);
    } else {
      this.refused.set('');
      this.changed.emit(value);
      return;
    }
    field.value = this.shown();
  }

  protected select(event: Event): void {
    (event.target as HTMLInputElement).select();
  }
}
