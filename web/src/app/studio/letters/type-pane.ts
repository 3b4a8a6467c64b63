import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { PlaceActs } from '../placing/place-acts';
import { StageView } from '../stage/stage-view';
import { toStage } from '../stage/camera';
import { LetterActs } from './letter-acts';

/** Least width of the field, in CSS pixels. */
const LEAST = 160;
/** It stands so far above the letters. */
const ABOVE = 46;

/** A field over the cloth, beside the letters that are typed in it: they are sewn with every key. */
@Component({
  selector: 'kite-type-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (acts.chosen(); as own) {
      <textarea
        #field
        rows="1"
        aria-label="Text on the cloth"
        [style.left.px]="place().x"
        [style.top.px]="place().y"
        [style.width.px]="place().width"
        [value]="own.text"
        (input)="acts.type(field.value)"
        (keydown)="keyed($event)"
        (pointerdown)="$event.stopPropagation()"
      ></textarea>
    }
  `,
  styles: `
    textarea {
      position: absolute;
      z-index: 3;
      min-height: 34px;
      padding: 5px 12px;
      border: 2px solid var(--ember);
      border-radius: 10px 10px 10px 2px;
      background: color-mix(in srgb, var(--paper) 92%, transparent);
      color: var(--ink);
      font: 600 15px/22px var(--text);
      resize: none;
      field-sizing: content;
    }
  `,
})
export class TypePane {
  protected readonly acts = inject(LetterActs);
  private readonly view = inject(StageView);
  private readonly placing = inject(PlaceActs);
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');

  protected readonly place = computed(() => {
    const box = this.placing.box() ?? { left: -20, top: 0, right: 20, bottom: 0 };
    const camera = this.view.camera();
    const size = this.view.size();
    const from = toStage(camera, size, box.left, box.top);
    const to = toStage(camera, size, box.right, box.top);
    const width = Math.min(size.width - 60, Math.max(LEAST, to.x - from.x));
    const x = Math.min(size.width - width - 20, Math.max(30, (from.x + to.x - width) / 2));
    // The string and its handle keep their room.
    return { x, y: Math.min(size.height - 90, Math.max(28, from.y - ABOVE - 34)), width };
  });

  constructor() {
    afterNextRender(() => {
      const field = this.field()?.nativeElement;
      field?.focus();
      field?.select();
    });
  }

  protected keyed(event: KeyboardEvent): void {
    // Keys of the studio are letters here.
    event.stopPropagation();
    if (event.key === 'Escape') this.acts.typing.set(false);
  }
}
