import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { SliderField } from '../../shared/slider-field';
import { endsOf, type Setting } from './settings';

/** Sliders of some settings, each with the figures it changes. */
@Component({
  selector: 'kite-settings-list',
  imports: [SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (item of items(); track item.setting.name) {
      <kite-slider-field
        [label]="item.setting.label"
        [unit]="item.setting.unit ?? 'length'"
        [digits]="item.setting.digits ?? 1"
        [step]="item.setting.step ?? 0.01"
        [min]="item.min"
        [max]="item.max"
        [limit]="item.limit"
        [value]="item.value"
        [resting]="item.setting.resting"
        (changed)="set(item.setting, $event)"
      >
        @if (item.cost) {
          <p>{{ item.cost }}</p>
        }
      </kite-slider-field>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    p {
      margin: 0;
      color: var(--glass);
      font-size: 12.5px;
    }
  `,
})
export class SettingsList {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);

  readonly settings = input.required<readonly Setting[]>();

  private readonly costs = computed(() => {
    const design = this.conversion.design();
    if (!design) return undefined;
    return {
      outline: `${design.outlinePoints} points, ${design.pieces.length} pieces`,
      trims: `${this.conversion.figures()?.trims ?? 0} trims`,
    };
  });

  protected readonly items = computed(() => {
    const recipe = this.store.view();
    if (!recipe) return [];
    return this.settings().map((setting) => ({
      setting,
      ...endsOf(setting),
      limit: endsOf({ ...setting, slidesTo: undefined }).max,
      value: setting.read(recipe),
      cost: setting.cost ? this.costs()?.[setting.cost] : undefined,
    }));
  });

  protected set(setting: Setting, value: number): void {
    this.store.change(setting.name, (recipe) => setting.write(recipe, value));
  }
}
