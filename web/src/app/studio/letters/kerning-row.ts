import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { kernable, type LettersObject } from '@open-kite/core';
import { NumberField } from '../../shared/number-field';
import { LetterActs } from './letter-acts';

/** Room by hand is no more than this, in mm. */
const MOST_MM = 20;
/** Arrow keys change it by so much, with shift ten times as much. */
const STEP_MM = 0.1;
const MARKED = { ' ': '␣' } as const;

/** Room between two letters, by hand: a gap of the text is chosen, and made wider or narrower. */
@Component({
  selector: 'kite-kerning-row',
  imports: [MatTooltipModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="text" role="group" aria-label="Room between two letters">
      @for (gap of gaps(); track gap.place; let first = $first) {
        @if (first || gap.before === ' ') {
          <span aria-hidden="true">{{ shown(gap.before) }}</span>
        }
        <button
          type="button"
          [class.own]="gap.mm !== 0"
          [attr.aria-pressed]="gap.place === place()"
          [attr.aria-label]="nameOf(gap)"
          [matTooltip]="gap.mm === 0 ? '' : gap.mm.toFixed(2) + ' mm by hand'"
          (click)="place.set(gap.place)"
          (keydown)="nudge($event, gap.place, gap.mm)"
        ></button>
        <span aria-hidden="true">{{ shown(gap.letter) }}</span>
      }
    </div>
    @if (chosen(); as gap) {
      <div class="gap">
        <kite-number-field
          [label]="nameOf(gap)"
          [digits]="2"
          [min]="-most"
          [max]="most"
          [value]="gap.mm"
          (changed)="acts.kern(gap.place, $event)"
        />
        @if (gap.mm !== 0) {
          <button type="button" class="link" (click)="acts.kern(gap.place, 0)">By itself</button>
        }
      </div>
    } @else {
      <p class="note">Choose a gap, then type or press the left and right arrow keys.</p>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    .text {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      padding: 6px 8px;
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--raised);
      font: 600 17px/24px var(--heading);
    }
    .text button {
      width: 11px;
      height: 26px;
      padding: 0;
      border: 0;
      border-radius: 3px;
      background: linear-gradient(var(--line), var(--line)) center / 1px 70% no-repeat;
      cursor: ew-resize;
    }
    .text button:hover {
      background-color: var(--ember-soft);
    }
    .text button.own {
      background-image: linear-gradient(var(--ember), var(--ember));
      background-size: 3px 80%;
    }
    .text button[aria-pressed='true'] {
      background-color: var(--ember-soft);
      box-shadow: inset 0 0 0 1px var(--ember);
    }
    .text button:focus-visible {
      outline: 2px solid var(--ember);
    }
    .gap {
      display: grid;
      margin-top: 10px;
      grid-template-columns: 1fr auto;
      align-items: center;
      gap: 8px;
    }
  `,
})
export class KerningRow {
  protected readonly acts = inject(LetterActs);
  readonly letters = input.required<LettersObject>();
  protected readonly most = MOST_MM;

  protected readonly gaps = computed(() => {
    const { text, pairs } = this.letters();
    return kernable(text).map((gap) => ({ ...gap, mm: pairs[String(gap.place)] ?? 0 }));
  });
  /** Place of the letter after the chosen gap. */
  protected readonly place = linkedSignal<string, number>({ source: () => this.letters().id, computation: () => -1 });
  protected readonly chosen = computed(() => this.gaps().find(({ place }) => place === this.place()));

  protected nameOf = ({ before, letter }: { readonly before: string; readonly letter: string }): string =>
    `Between ${before.trim() === '' ? 'a space' : before} and ${letter}`;
  protected shown = (letter: string): string => MARKED[letter as keyof typeof MARKED] ?? letter;

  protected nudge(event: KeyboardEvent, place: number, mm: number): void {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (way === 0) return;
    event.preventDefault();
    event.stopPropagation();
    this.place.set(place);
    const next = mm + way * STEP_MM * (event.shiftKey ? 10 : 1);
    this.acts.kern(place, Math.min(MOST_MM, Math.max(-MOST_MM, Number(next.toFixed(2)))));
  }
}
