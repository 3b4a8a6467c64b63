import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Recipe } from '@open-kite/core';
import { produce } from 'immer';
import { draftView } from '../../project/draft-view';
import { ProjectStore } from '../../project/project-store';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { formatCount } from '../../shared/units';
import { OpenPicture } from '../open-picture';
import { StudioState } from '../studio-state';
import { axesOf, parseValues, valuesAround, type Axis } from './try-out-axes';
import { TryOutRunner, type TryOut } from './try-out-runner';

const MOST = 9;

/** A board of variants side by side, each with what a shop decides by. */
@Component({
  selector: 'kite-try-outs',
  imports: [A11yModule, ChoiceField],
  templateUrl: './try-outs.html',
  styleUrls: ['../sheet/sheet-parts.scss', './try-outs.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TryOuts {
  private readonly store = inject(ProjectStore);
  protected readonly state = inject(StudioState);
  protected readonly runner = inject(TryOutRunner);
  private readonly open = inject(OpenPicture);

  protected readonly count = formatCount;
  protected readonly large = signal<TryOut | undefined>(undefined);
  private readonly chosen = signal<readonly [string | undefined, string | undefined]>([undefined, undefined]);
  private readonly typed = signal<readonly [string | undefined, string | undefined]>([undefined, undefined]);

  protected readonly axes = computed(() => {
    const recipe = this.store.view();
    return recipe ? axesOf(recipe, this.open.result()?.suggestedColours ?? 12) : [];
  });

  protected readonly axisChoices = computed((): Choice[] => this.axes().map(({ id, label }) => ({ id, name: label })));
  protected readonly secondChoices = computed((): Choice[] => [
    { id: '', name: 'Nothing else' },
    ...this.axisChoices(),
  ]);

  /** The one or two settings that differ, their values as they are typed, and what they come to. */
  protected readonly rows = computed(() => {
    const recipe = this.store.view();
    const axes = this.axes();
    if (!recipe || axes.length === 0) return [];
    return [0, 1].map((k) => {
      const id = this.chosen()[k];
      const axis = k === 0 ? (axes.find((a) => a.id === id) ?? axes[0]) : axes.find((a) => a.id === id);
      const text = axis ? (this.typed()[k] ?? valuesAround(axis, recipe).join(', ')) : '';
      return { axis, text, values: axis ? parseValues(text, axis) : [] };
    });
  });

  protected readonly variants = computed(() => {
    const recipe = this.store.recipe();
    const picture = this.store.object()?.id;
    const [first, second] = this.rows();
    if (!recipe || !first?.axis || !first.values || !second?.values) return [];
    const out: { recipe: Recipe; label: string }[] = [];
    for (const a of first.values) {
      for (const b of second.axis ? second.values : [undefined]) {
        const parts = [said(first.axis, a), ...(second.axis && b !== undefined ? [said(second.axis, b)] : [])];
        const varied = produce(recipe, (draft) => {
          const view = draftView(draft, picture);
          first.axis?.write(view, a);
          if (b !== undefined) second.axis?.write(view, b);
        });
        out.push({ recipe: varied, label: parts.join(', ') });
      }
    }
    return out;
  });

  protected readonly fault = computed(() => {
    const [first, second] = this.rows();
    for (const row of [first, second]) {
      if (row?.axis && !row.values) {
        return `${row.axis.label}: numbers from ${row.axis.least} to ${row.axis.most}, with commas between.`;
      }
    }
    const n = this.variants().length;
    return n > MOST ? `${n} try-outs are too many for the board; it holds ${MOST}.` : '';
  });

  protected readonly working = computed(() =>
    this.runner.list().some(({ state }) => state === 'working' || state === 'waiting'),
  );

  /** The best of a figure among those that are done. */
  protected readonly best = computed(() => {
    const done = this.runner.list().filter(({ deltaE }) => deltaE !== undefined);
    return done.length > 1 ? Math.min(...done.map(({ deltaE }) => deltaE ?? Infinity)) : undefined;
  });

  protected setAxis(k: number, id: string): void {
    this.chosen.update(([a, b]) => (k === 0 ? [id, b] : [a, id === '' ? undefined : id]));
    this.typed.update(([a, b]) => (k === 0 ? [undefined, b] : [a, undefined]));
  }

  protected setText(k: number, text: string): void {
    this.typed.update(([a, b]) => (k === 0 ? [text, b] : [a, text]));
  }

  protected make(): void {
    this.large.set(undefined);
    void this.runner.start(this.variants());
  }

  /** The project goes on with a variant; one step of undo brings the old settings back. */
  protected keep({ recipe, label }: TryOut): void {
    this.store.changeWhole(`try-out: ${label}`, (draft) => {
      Object.assign(draft, recipe);
    });
    this.state.tryOuts.set(false);
  }
}

const said = (axis: Axis, value: number): string =>
  `${axis.label.toLowerCase()} ${value}${axis.unit === '' ? '' : ' ' + axis.unit}`;
