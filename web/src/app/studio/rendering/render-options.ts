import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { StitchOption } from '@open-kite/core';
import { OpenPicture } from '../open-picture';
import { SliderField } from '../../shared/slider-field';
import { RenderingActs } from './rendering-acts';
import { ChoiceField } from '../../shared/choice-field';

/** Options of the rendering, as the method itself lists them; those that do nothing now are left out. */
@Component({
  selector: 'kite-render-options',
  imports: [ChoiceField, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (item of items(); track item.name) {
      @if (item.option.type === 'number') {
        <kite-slider-field
          [label]="item.option.label"
          [unit]="item.option.unit === 'mm' ? 'length' : item.option.unit"
          [digits]="item.option.step < 1 ? 2 : 0"
          [step]="item.option.step"
          [min]="item.option.least"
          [max]="item.option.most"
          [limit]="item.option.most"
          [value]="+item.value"
          [resting]="item.option.usual"
          (changed)="acts.setOption(item.name, item.option.label, $event)"
        />
      } @else {
        <kite-choice-field
          [label]="item.option.label"
          [choices]="item.option.choices"
          [value]="'' + item.value"
          (chosen)="acts.setOption(item.name, item.option.label, $event)"
        />
      }
      @if (item.option.note) {
        <p class="note">{{ item.option.note }}</p>
      }
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 9px;
    }
  `,
})
export class RenderOptions {
  private readonly open = inject(OpenPicture);
  protected readonly acts = inject(RenderingActs);

  /** Names of options that are shown elsewhere. */
  readonly without = input<readonly string[]>([]);

  protected readonly items = computed(() => {
    const method = this.acts.method();
    const values = this.acts.values();
    if (!method) return [];
    return Object.entries(method.options)
      .filter(([name, option]) => !this.without().includes(name) && this.matters(name, option))
      .map(([name, option]) => ({ name, option, value: values[name] }));
  });

  /** Whether an option changes anything as the others, and the picture, stand. */
  private matters(name: string, { when }: StitchOption): boolean {
    if (name === 'blend') return this.open.result()?.flat !== true;
    return !when || this.acts.values()[when[0]] === when[1];
  }
}
