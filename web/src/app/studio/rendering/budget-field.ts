import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { LIMITS } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { formatCount } from '../../shared/units';
import { RenderingActs } from './rendering-acts';
import { MatCheckboxModule } from '@angular/material/checkbox';

const STEP = 500;
/** What a budget begins with, as a share of the stitches there are. */
const FIRST_SHARE = 0.75;

/** A limit on stitches: what it costs is said beside it. */
@Component({
  selector: 'kite-budget-field',
  imports: [MatCheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-checkbox class="bold" [checked]="budget() !== null" (change)="toggle($event.checked)">
      Stitch budget
    </mat-checkbox>
    @if (budget(); as most) {
      <label class="row"
        ><span>Stay below</span>
        <span
          ><input
            #mostField
            class="number"
            type="number"
            [min]="least"
            [max]="most_"
            [step]="step"
            [value]="most"
            aria-label="Stitches at most"
            (change)="set(mostField)"
          />
          stitches</span
        >
      </label>
      <p class="cost" role="status">{{ told() }}</p>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    .number {
      width: 92px;
      height: 28px;
      padding: 0 8px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--raised);
      color: inherit;
      font: inherit;
      text-align: right;
    }
  `,
})
export class BudgetField {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  private readonly acts = inject(RenderingActs);

  protected readonly least = LIMITS.budget[0];
  protected readonly most_ = LIMITS.budget[1];
  protected readonly step = STEP;
  protected readonly budget = computed(() => this.store.view()?.budget ?? null);

  protected readonly told = computed(() => {
    const figures = this.conversion.figures();
    const design = this.conversion.design();
    if (!figures || !design || this.conversion.state() !== 'done') return '';
    const now = `${formatCount(figures.stitches)} stitches`;
    return design.gaveUp === '' ? `${now}; nothing had to be given up.` : `${now}; given up: ${design.gaveUp}.`;
  });

  protected toggle(on: boolean): void {
    const now = this.conversion.figures()?.stitches ?? 20_000;
    this.acts.setBudget(on ? Math.max(STEP, Math.round((now * FIRST_SHARE) / STEP) * STEP) : null);
  }

  protected set(field: HTMLInputElement): void {
    const value = Math.round(Number(field.value));
    const within = Number.isFinite(value) && value >= this.least && value <= this.most_;
    if (within) this.acts.setBudget(value);
    else field.value = String(this.budget());
  }
}
