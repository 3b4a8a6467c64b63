import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { LettersSection } from '../letters/letters-section';
import { PlaceSection } from '../placing/place-section';
import { CopiesSettings } from './copies-settings';
import { MoreActs } from './more-acts';
import { OutlineSettings } from './outline-settings';

/** What is said of the chosen object as a whole: where it lies, and what its kind has to choose. */
@Component({
  selector: 'kite-object-section',
  imports: [CopiesSettings, LettersSection, OutlineSettings, PlaceSection],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kite-place-section />
    <kite-letters-section />
    @if (acts.outline(); as outline) {
      <kite-outline-settings [outline]="outline" />
    }
    @if (acts.copies(); as copies) {
      <kite-copies-settings [copies]="copies" />
    }
  `,
})
export class ObjectSection {
  protected readonly acts = inject(MoreActs);
}
