import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { colourWord, type ThreadChoice } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ThreadLabel } from '../../shared/thread-label';
import { PieceActs } from '../pieces/piece-acts';

/** A thread, chosen from swatches: those of the design, or a colour of one's own. */
@Component({
  selector: 'kite-thread-field',
  imports: [MatMenuModule, ThreadLabel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" class="field" [matMenuTriggerFor]="menu">
      <span class="label">{{ label() }}</span>
      <span class="swatch" [style.background-color]="hex()" aria-hidden="true"></span>
      <span class="name">{{ name() }}</span>
    </button>
    <mat-menu #menu="matMenu" class="kite-threads">
      @for (thread of threads(); track $index) {
        <button mat-menu-item type="button" (click)="take($index)">
          <span class="menu-swatch" [style.background-color]="thread.hex" aria-hidden="true"></span>
          {{ thread | threadLabel }}
        </button>
      }
      <button mat-menu-item type="button" (click)="own.click()">
        <span class="menu-swatch none" aria-hidden="true"></span> Another colour …
      </button>
    </mat-menu>
    <input
      #own
      class="visually-hidden"
      type="color"
      tabindex="-1"
      aria-hidden="true"
      [value]="hex()"
      (input)="emit({ hex: own.value }, own.value)"
    />
  `,
  styles: `
    :host {
      display: block;
    }
    .field {
      display: flex;
      align-items: center;
      gap: 9px;
      width: 100%;
      min-height: 36px;
      padding: 4px 10px;
      border: 1px solid var(--mute);
      border-radius: 8px;
      background: none;
      cursor: pointer;
      text-align: left;
    }
    .field:hover {
      border-color: var(--ink);
    }
    .label {
      flex: 1;
      font-weight: 600;
    }
    .swatch,
    .menu-swatch {
      flex: none;
      display: inline-block;
      width: 18px;
      height: 18px;
      border: 1px solid var(--line);
      border-radius: 4px;
    }
    .menu-swatch {
      margin-right: 8px;
      vertical-align: -4px;
    }
    .none {
      background: linear-gradient(45deg, var(--ember), var(--glass));
    }
  `,
})
export class ThreadField {
  private readonly conversion = inject(Conversion);
  private readonly pieces = inject(PieceActs);
  readonly label = input.required<string>();
  readonly paint = input.required<ThreadChoice>();
  readonly chosen = output<ThreadChoice>();
  /** How what was chosen looks, for what is no thread. */
  readonly hexChosen = output<string>();

  protected readonly threads = computed(() => this.conversion.design()?.threads ?? []);
  protected readonly hex = computed(() => {
    const paint = this.paint();
    if ('hex' in paint) return paint.hex;
    if ('like' in paint) return paint.like.hex;
    return this.threads().find(({ chart, code }) => chart === paint.chart && code === paint.code)?.hex ?? '#888888';
  });
  protected readonly name = computed(() => {
    const paint = this.paint();
    if ('code' in paint) return paint.code;
    const word = colourWord(this.hex());
    return `${word[0].toUpperCase()}${word.slice(1)} ${this.hex()}`;
  });

  protected take(thread: number): void {
    const choice = this.pieces.choiceOf(thread);
    if (choice) this.emit(choice, this.threads()[thread].hex);
  }

  protected emit(choice: ThreadChoice, hex: string): void {
    this.chosen.emit(choice);
    this.hexChosen.emit(hex);
  }
}
