import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { differenceWord, type ColourShare } from '@open-kite/core';
import { ColourActs } from './colour-acts';

/** The thread of one colour, and a menu of the nearest others: used wherever a thread is named. */
@Component({
  selector: 'kite-thread-menu',
  imports: [MatTooltipModule, MatMenuModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      class="trigger"
      type="button"
      [attr.aria-label]="'Choose the thread for ' + name()"
      [matTooltip]="'Choose another thread'"
      [matMenuTriggerFor]="menu"
      (click)="$event.stopPropagation()"
    >
      <ng-content />
    </button>
    <mat-menu #menu="matMenu">
      <ng-template matMenuContent>
        @for (match of nearest(); track match.chart + match.thread.code) {
          <button mat-menu-item type="button" (click)="acts.chooseThread(colour(), match.chart, match.thread.code)">
            <span class="item">
              <span class="swatch" [style.background-color]="match.thread.hex"></span>
              <span>{{ match.thread.code }} {{ match.thread.name }}</span>
              <span class="far">{{ word(match.deltaE) }} {{ match.deltaE.toFixed(1) }}</span>
            </span>
          </button>
        }
        <button mat-menu-item type="button" (click)="acts.chooseThread(colour(), 'own', '')">
          <span class="item">
            <span class="swatch" [style.background-color]="colour().hex"></span>
            <span>The picture's own colour</span>
          </span>
        </button>
        @if (acts.hasThread(colour())) {
          <button mat-menu-item type="button" (click)="acts.matchAgain(colour())">Match it like the others</button>
        }
        <a mat-menu-item routerLink="/threads" [queryParams]="{ near: colour().hex }">Look in the thread cupboard</a>
      </ng-template>
    </mat-menu>
  `,
  styleUrl: './thread-item.scss',
  styles: `
    .trigger {
      display: flex;
      padding: 0;
      border: 0;
      border-radius: 6px;
      background: none;
      cursor: pointer;
    }
  `,
})
export class ThreadMenu {
  protected readonly acts = inject(ColourActs);
  readonly colour = input.required<ColourShare>();
  readonly name = input.required<string>();
  protected readonly word = differenceWord;
  protected readonly nearest = computed(() => this.acts.nearest(this.colour().hex));
}
