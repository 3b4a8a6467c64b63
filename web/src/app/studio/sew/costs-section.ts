import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { costOf, type Prices } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { Fold } from '../../shared/fold';
import { MOST_PRICE, Preferences } from '../../shared/preferences';

const FIELDS: readonly { readonly id: keyof Prices; readonly label: string }[] = [
  { id: 'threadKm', label: 'Thread, per km' },
  { id: 'bobbinKm', label: 'Bobbin, per km' },
  { id: 'hour', label: 'Machine, per h' },
  { id: 'piece', label: 'Per piece' },
];

/** What one piece costs, by the user's own prices; they stay in this browser. */
@Component({
  selector: 'kite-costs-section',
  imports: [Fold, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    @if (cost(); as one) {
      <kite-fold name="costs" heading="Cost of one" [said]="priced() ? money(one.total) : ''">
        <ng-template>
          <form class="prices" [formGroup]="form">
            @for (field of fields; track field.id) {
              <mat-form-field appearance="outline" subscriptSizing="dynamic" hideRequiredMarker>
                <mat-label>{{ field.label }}</mat-label>
                <input matInput type="number" min="0" step="any" [max]="most" [formControlName]="field.id" />
                @if (form.controls[field.id].invalid) {
                  <mat-error>From 0 to {{ most }}</mat-error>
                }
              </mat-form-field>
            }
          </form>
          <dl class="facts" [class.under-way]="underWay()">
            <dt>Thread, {{ one.metres.toFixed(1) }} m</dt>
            <dd>{{ money(one.thread) }}</dd>
            <dt>Bobbin, {{ one.bobbinMetres.toFixed(1) }} m</dt>
            <dd>{{ money(one.bobbin) }}</dd>
            <dt>Machine, {{ one.minutes }} min</dt>
            <dd>{{ money(one.machine) }}</dd>
            <dt>Cloth and backing</dt>
            <dd>{{ money(one.piece) }}</dd>
            <dt><strong>One piece</strong></dt>
            <dd>
              <strong>{{ money(one.total) }}</strong>
            </dd>
          </dl>
          <p class="note">
            In your own money; per piece: cloth, backing and the like. Bobbin thread is reckoned as 0.55 of the top
            thread.
          </p>
        </ng-template>
      </kite-fold>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss', './costs-section.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CostsSection {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly preferences = inject(Preferences);

  protected readonly fields = FIELDS;
  protected readonly most = MOST_PRICE;
  protected readonly underWay = this.conversion.stale;
  protected readonly form = (() => {
    const { threadKm, bobbinKm, hour, piece } = this.preferences.prices();
    const price = [Validators.required, Validators.min(0), Validators.max(MOST_PRICE)];
    return inject(FormBuilder).nonNullable.group({
      threadKm: [threadKm, price],
      bobbinKm: [bobbinKm, price],
      hour: [hour, price],
      piece: [piece, price],
    });
  })();

  protected readonly priced = computed(() => Object.values(this.preferences.prices()).some((price) => price > 0));
  protected readonly cost = computed(() => {
    const figures = this.conversion.figures();
    return figures && costOf(figures, this.preferences.prices(), this.store.recipe()?.order.needles ?? 1);
  });

  constructor() {
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      // A price that is none yet leaves the last one.
      if (this.form.valid) this.preferences.prices.set(this.form.getRawValue());
    });
  }

  protected money(amount: number): string {
    return amount.toFixed(2);
  }
}
