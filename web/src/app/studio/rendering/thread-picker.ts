import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { differenceWord, type NamedThread } from '@open-kite/core';
import { ColourActs } from '../colours/colour-acts';

/** A thread as a spool that opens a menu: the nearest threads of the charts, or any colour. */
@Component({
  selector: 'kite-thread-picker',
  imports: [MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #field
      type="color"
      [value]="hex()"
      [attr.aria-label]="'Colour of ' + name()"
      (input)="chosen.emit({ hex: field.value })"
    />
    <button type="button" class="link" [matMenuTriggerFor]="menu" [attr.aria-label]="'Threads near it: ' + name()">
      Threads near it
    </button>
    <mat-menu #menu="matMenu">
      <ng-template matMenuContent>
        @for (match of nearest(); track match.chart + match.thread.code) {
          <button mat-menu-item type="button" (click)="chosen.emit({ chart: match.chart, code: match.thread.code })">
            <span class="item">
              <span class="swatch" [style.background-color]="match.thread.hex"></span>
              <span>{{ match.thread.code }} {{ match.thread.name }}</span>
              <span class="far">{{ word(match.deltaE) }} {{ match.deltaE.toFixed(1) }}</span>
            </span>
          </button>
        }
      </ng-template>
    </mat-menu>
  `,
  styleUrls: ['../sheet/sheet-parts.scss', '../colours/thread-item.scss'],
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
    }
  `,
})
export class ThreadPicker {
  private readonly colours = inject(ColourActs);
  readonly hex = input.required<string>();
  readonly name = input.required<string>();
  readonly chosen = output<NamedThread>();
  protected readonly word = differenceWord;
  protected readonly nearest = computed(() => this.colours.nearest(this.hex(), 7));
}
