import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, contentChild, inject, input, TemplateRef } from '@angular/core';
import { MatExpansionModule } from '@angular/material/expansion';
import { Preferences } from './preferences';

/** Parts of a Sheet that are folded until somebody unfolds them; each is remembered in this browser by its name. */
export const FOLDS = [
  'place',
  'turn',
  'light',
  'charts',
  'widths',
  'shapes',
  'ways',
  'usual',
  'order',
  'outline',
  'several',
  'lengths',
  'spools',
  'costs',
  'paper',
] as const;
export type FoldName = (typeof FOLDS)[number];

/**
 * A part of a Sheet under a plain heading. What is in it stands in an `<ng-template>`, and is made when it is unfolded: what nobody
 * looks at costs nothing.
 */
@Component({
  selector: 'kite-fold',
  imports: [MatExpansionModule, NgTemplateOutlet],
  template: `
    <mat-expansion-panel
      class="mat-elevation-z0"
      [expanded]="isOpen()"
      (expandedChange)="preferences.unfold(name(), $event)"
    >
      <mat-expansion-panel-header collapsedHeight="38px" expandedHeight="38px">
        <mat-panel-title>{{ heading() }}</mat-panel-title>
        <mat-panel-description>{{ said() }}</mat-panel-description>
      </mat-expansion-panel-header>
      <ng-template matExpansionPanelContent><ng-container [ngTemplateOutlet]="content()" /></ng-template>
    </mat-expansion-panel>
  `,
  styles: `
    :host {
      display: block;
      margin: 0 -14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Fold {
  protected readonly preferences = inject(Preferences);

  readonly name = input.required<FoldName>();
  readonly heading = input.required<string>();
  /** What is chosen in it, in a few words: seen without unfolding it. */
  readonly said = input('');
  protected readonly content = contentChild.required(TemplateRef);
  protected readonly isOpen = computed(() => this.preferences.unfolded().has(this.name()));
}
