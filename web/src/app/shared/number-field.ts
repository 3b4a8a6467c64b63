import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { LIMITS, type LimitName } from '@open-kite/core';
import { Preferences } from './preferences';
import { formatLength, parseLength, parseSum } from './units';

/** A labelled number that is typed: lengths take units and sums, such as “4in - 6mm”. */
@Component({
  selector: 'kite-number-field',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label>{{ label() }}</mat-label>
      <input
        #field
        matInput
        type="text"
        inputmode="text"
        autocomplete="off"
        [value]="shown()"
        [attr.aria-invalid]="refused() ? 'true' : null"
        [attr.aria-label]="label()"
        (focus)="field.select()"
        (change)="typed(field)"
        (keydown.enter)="field.blur()"
      />
    </mat-form-field>
    @if (refused(); as why) {
      <p role="alert">{{ why }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    mat-form-field {
      width: 100%;
    }
    p {
      margin: 2px 0 0;
      color: var(--ember);
      font-size: 12px;
    }
  `,
})
export class NumberField {
  private readonly preferences = inject(Preferences);
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  /** `length` is in mm inside and follows the unit chosen; else what stands behind the number. */
  readonly unit = input('length');
  readonly digits = input(1);
  /** What it may be, as recipes have it; else between `min` and `max`. */
  readonly limit = input<LimitName>();
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  readonly changed = output<number>();

  protected readonly refused = signal('');
  protected readonly shown = computed(() => this.format(this.value()));

  private format(value: number): string {
    if (this.unit() === 'length') return formatLength(value, this.preferences.unit(), this.digits());
    return `${Number(value.toFixed(this.digits())) + 0}${this.unit()}`;
  }

  protected typed(field: HTMLInputElement): void {
    const isLength = this.unit() === 'length';
    const text = isLength ? field.value : field.value.replace(this.unit(), '');
    const typed = isLength ? parseLength(text, this.preferences.unit()) : parseSum(text);
    // A count stays a whole number, however it is typed.
    const value = isLength || typed === undefined ? typed : Number(typed.toFixed(this.digits()));
    const limit = this.limit();
    const [least, most] = limit ? LIMITS[limit] : [this.min(), this.max()];
    if (value === undefined || value < least || value > most) {
      const within = Number.isFinite(least) && Number.isFinite(most);
      const range = within ? ` from ${this.format(least)} to ${this.format(most)}` : '';
      this.refused.set(`“${field.value.slice(0, 30)}” is no number${range}.`);
      return;
    }
    this.refused.set('');
    field.value = this.format(value);
    if (Math.abs(value - this.value()) > 1e-9) this.changed.emit(value);
  }
}
