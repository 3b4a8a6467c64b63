import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Conversion } from '../../convert/conversion';
import { formatCount } from '../../shared/units';
import { BETWEEN, type Between } from './hand-rows';
import { MOST_POINTS, NeedleActs } from './needle-acts';

/** Needle points of one piece by hand. */
@Component({
  selector: 'kite-needle-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <span>{{ byHand() ? 'Stitches by hand' : 'Single stitches' }}</span>
      <button
        type="button"
        class="link"
        [attr.aria-pressed]="acts.on()"
        [disabled]="!acts.on() && tooMany()"
        (click)="acts.toggle()"
      >
        {{ acts.on() ? 'Done' : 'Move needle points' }}
      </button>
    </div>
    @if (acts.on()) {
      <p class="note">
        {{
          acts.chosen().size === 0
            ? 'Choose needle points on the cloth, or pull a frame around them.'
            : count(acts.chosen().size) + (acts.chosen().size === 1 ? ' point chosen.' : ' points chosen.')
        }}
      </p>
      @if (acts.chosen().size > 0) {
        <div class="acts">
          <button type="button" class="link" (click)="acts.add()">Add one after</button>
          <button type="button" class="link" (click)="acts.remove()">Delete</button>
          @for (what of betweens; track what) {
            <button type="button" class="link" (click)="acts.toggleBetween(what)">
              {{ what[0].toUpperCase() + what.slice(1) }} after
            </button>
          }
        </div>
      }
    }
    @if (tooMany()) {
      <p class="note">More than {{ count(most) }} needle points are not moved one by one.</p>
    }
    @if (byHand()) {
      <p class="note">
        Density, length and underlay no longer change this piece.
        <button type="button" class="link" (click)="acts.giveBack()">Let it sew itself again</button>
      </p>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    .link:disabled {
      color: var(--mute);
      cursor: default;
      text-decoration: none;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
    }
  `,
})
export class NeedleSection {
  protected readonly acts = inject(NeedleActs);
  private readonly conversion = inject(Conversion);
  readonly piece = input.required<number>();
  readonly stitches = input.required<number>();
  protected readonly betweens = Object.keys(BETWEEN) as Between[];
  protected readonly most = MOST_POINTS;
  protected readonly count = formatCount;
  protected readonly tooMany = computed(() => this.stitches() > MOST_POINTS);
  protected readonly byHand = computed(
    () => this.conversion.design()?.pieces.at(this.piece())?.choices.rows !== undefined,
  );
}
