import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

/** One of several things to choose from. */
export interface Choice {
  readonly id: string;
  readonly name: string;
  /** A colour that is shown beside it. */
  readonly hex?: string;
  /** Address of a small picture of it, where it is chosen by its look. */
  readonly picture?: string;
  /** What it stands under, where choices are many. */
  readonly group?: string;
}

/** One of several named things, in a list that opens. */
@Component({
  selector: 'kite-choice-field',
  imports: [MatFormFieldModule, MatSelectModule, NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #face let-choice>
      @if (choice.picture) {
        <img class="sewn" [src]="choice.picture" alt="" width="63" height="40" loading="lazy" />
      } @else if (choice.hex) {
        <span class="swatch" [style.background-color]="choice.hex" aria-hidden="true"></span>
      }
      {{ choice.name }}
    </ng-template>
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      @if (label(); as text) {
        <mat-label>{{ text }}</mat-label>
      }
      <mat-select
        [value]="value()"
        [placeholder]="none()"
        [disabled]="disabled()"
        [aria-label]="name() ?? label() ?? ''"
        (selectionChange)="choose($event.value)"
      >
        @if (current(); as now) {
          <mat-select-trigger>
            @if (now.hex) {
              <span class="swatch" [style.background-color]="now.hex" aria-hidden="true"></span>
            }
            {{ now.name }}
          </mat-select-trigger>
        }
        @for (group of groups(); track group.name) {
          @if (group.name) {
            <mat-optgroup [label]="group.name">
              @for (choice of group.choices; track choice.id) {
                <mat-option [value]="choice.id" [attr.data-value]="choice.id">
                  <ng-container [ngTemplateOutlet]="face" [ngTemplateOutletContext]="{ $implicit: choice }" />
                </mat-option>
              }
            </mat-optgroup>
          } @else {
            @for (choice of group.choices; track choice.id) {
              <mat-option [value]="choice.id" [attr.data-value]="choice.id">
                <ng-container [ngTemplateOutlet]="face" [ngTemplateOutletContext]="{ $implicit: choice }" />
              </mat-option>
            }
          }
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host,
    mat-form-field {
      display: block;
      width: 100%;
    }
    .sewn {
      border-radius: 6px;
      margin: 3px 10px 3px 0;
      vertical-align: middle;
    }
    .swatch {
      display: inline-block;
      width: 14px;
      height: 14px;
      margin-right: 4px;
      border: 1px solid var(--line);
      border-radius: 50%;
      vertical-align: -2px;
    }
  `,
})
export class ChoiceField {
  /** What is seen above the choice; without one it has only a name. */
  readonly label = input<string>();
  readonly name = input<string>();
  readonly choices = input.required<readonly Choice[]>();
  /** Id of what is chosen; none where several things differ in it. */
  readonly value = input<string>();
  /** What is said while nothing is chosen. */
  readonly none = input('');
  readonly disabled = input(false);
  readonly chosen = output<string>();

  protected readonly current = computed(() => this.choices().find(({ id }) => id === this.value()));
  protected readonly groups = computed(() => {
    const out: { readonly name: string | undefined; readonly choices: Choice[] }[] = [];
    for (const choice of this.choices()) {
      const last = out.at(-1);
      if (last?.name === choice.group && last) last.choices.push(choice);
      else out.push({ name: choice.group, choices: [choice] });
    }
    return out;
  });

  protected choose(id: unknown): void {
    if (typeof id === 'string') this.chosen.emit(id);
  }
}
