import { ChangeDetectionStrategy, Component } from '@angular/core';
import { LettersSection } from '../letters/letters-section';
import { OutlineSettings } from './outline-settings';
import { PlaceSection } from '../placing/place-section';

/** What is said of the chosen object as a whole: where it lies, and what its kind has to choose. */
@Component({
  selector: 'kite-object-section',
  imports: [LettersSection, OutlineSettings, PlaceSection],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kite-place-section />
    <kite-letters-section />
    <kite-outline-settings />
  `,
})
export class ObjectSection {}
