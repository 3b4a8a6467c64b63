import { A11yModule } from '@angular/cdk/a11y';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import type { Recipe } from '@open-kite/core';
import { produce } from 'immer';
import { firstValueFrom } from 'rxjs';
import { Api } from '../../api/api';
import { Cupboard } from '../../cupboard/cupboard';
import { draftView } from '../../project/draft-view';
import { ProjectStore } from '../../project/project-store';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { formatCount } from '../../shared/units';
import { OpenPicture } from '../open-picture';
import { StudioState } from '../studio-state';
import { axesOf, firstChoices, parseValues, valuesAround, type Axis } from './try-out-axes';
import { TryOutRunner, type TryOut } from './try-out-runner';

const MOST = 9;

/** What the try-outs that are done can be sorted by, the best first. */
const ORDERS: readonly (Choice & { readonly by: (item: TryOut) => number })[] = [
  { id: 'made', name: 'As they were made', by: ({ id }) => id },
  { id: 'difference', name: 'Least difference', by: ({ deltaE = Infinity }) => deltaE },
  { id: 'stitches', name: 'Fewest stitches', by: ({ stitches = Infinity }) => stitches },
  { id: 'minutes', name: 'Soonest sewn', by: ({ minutes = Infinity }) => minutes },
  { id: 'changes', name: 'Fewest changes', by: ({ threadChanges = Infinity }) => threadChanges },
];

/** What was said of one of the settings that vary: which it is, and its values, as text or picked from a list. */
interface Given {
  readonly id?: string;
  readonly text?: string;
  readonly picked?: readonly string[];
}

/** A board of variants side by side, each with what a shop decides by. */
@Component({
  selector: 'kite-try-outs',
  imports: [A11yModule, ChoiceField, MatFormFieldModule, MatSelectModule],
  templateUrl: './try-outs.html',
  styleUrls: ['../sheet/sheet-parts.scss', './try-outs.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TryOuts {
  private readonly store = inject(ProjectStore);
  protected readonly state = inject(StudioState);
  protected readonly runner = inject(TryOutRunner);
  private readonly open = inject(OpenPicture);
  private readonly cupboard = inject(Cupboard);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);

  protected readonly count = formatCount;
  protected readonly large = signal<TryOut | undefined>(undefined);
  private readonly given = signal<readonly Given[]>([{}, {}]);

  protected readonly axes = computed(() => {
    const recipe = this.store.view();
    const suggestedColours = this.open.result()?.suggestedColours ?? 12;
    return recipe ? axesOf(recipe, { suggestedColours, charts: this.cupboard.charts() }) : [];
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
      const { id, text: typed, picked } = this.given()[k];
      const axis = k === 0 ? (axes.find((a) => a.id === id) ?? axes[0]) : axes.find((a) => a.id === id);
      if (!axis) return { axis, text: '', values: [] };
      if (axis.kind === 'choice') return { axis, text: '', values: picked ?? firstChoices(axis, recipe) };
      const text = typed ?? valuesAround(axis, recipe).join(', ');
      return { axis, text, values: parseValues(text, axis) };
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
          if (first.axis) write(first.axis, view, a);
          if (second.axis && b !== undefined) write(second.axis, view, b);
        });
        out.push({ recipe: varied, label: parts.join(', ') });
      }
    }
    return out;
  });

  protected readonly fault = computed(() => {
    const [first, second] = this.rows();
    for (const row of [first, second]) {
      if (row?.axis?.kind === 'choice' && row.values?.length === 0) return `${row.axis.label}: pick at least one.`;
      if (row?.axis?.kind === 'number' && !row.values) {
        return `${row.axis.label}: numbers from ${row.axis.least} to ${row.axis.most}, with commas between.`;
      }
    }
    const n = this.variants().length;
    return n > MOST ? `${n} try-outs are too many for the board; it holds ${MOST}.` : '';
  });

  protected readonly working = computed(() =>
    this.runner.list().some(({ state }) => state === 'working' || state === 'waiting'),
  );

  protected readonly orders = ORDERS;
  protected readonly order = signal('made');
  protected readonly sorted = computed(() => {
    const by = ORDERS.find(({ id }) => id === this.order())?.by ?? (({ id }: TryOut) => id);
    return [...this.runner.list()].sort((a, b) => by(a) - by(b) || a.id - b.id);
  });

  /** The best of a figure among those that are done. */
  protected readonly best = computed(() => {
    const done = this.runner.list().filter(({ deltaE }) => deltaE !== undefined);
    return done.length > 1 ? Math.min(...done.map(({ deltaE }) => deltaE ?? Infinity)) : undefined;
  });

  protected setAxis(k: number, id: string): void {
    this.give(k, { id });
  }

  protected choicesOf(axis: Axis | undefined): readonly Choice[] {
    return axis?.kind === 'choice' ? axis.choices : [];
  }

  protected setPicked(k: number, picked: readonly string[]): void {
    this.give(k, { ...this.given()[k], picked });
  }

  protected setText(k: number, text: string): void {
    this.give(k, { ...this.given()[k], text });
  }

  private give(k: number, said: Given): void {
    this.given.update((rows) => rows.with(k, said));
  }

  protected make(): void {
    this.large.set(undefined);
    void this.runner.start(this.variants());
  }

  constructor() {
    // The board is not empty: what is most asked first is made at once.
    if (this.runner.list().length === 0 && this.variants().length > 0) this.make();
  }

  /** A variant becomes a project beside this one, which stays as it is. */
  protected async part({ recipe, label }: TryOut): Promise<void> {
    const name = `${this.store.name()}, ${label}`.slice(0, 120);
    const pictures = Object.fromEntries(
      Object.entries(this.store.pictures()).map(([source, { hash }]) => [source, hash]),
    );
    try {
      const { id } = await firstValueFrom(this.api.createVariant(name, recipe, pictures));
      const bar = this.snack.open(`${name} lies on the shelf.`, 'Open it', { duration: 12000 });
      bar.onAction().subscribe(() => void this.router.navigate(['/project', id]));
    } catch (error) {
      this.snack.open(`No project was made: ${(error as Error).message}.`, 'OK', { duration: 12000 });
    }
  }

  /** The project goes on with a variant; one step of undo brings the old settings back. */
  protected keep({ recipe, label }: TryOut): void {
    this.store.changeWhole(`try-out: ${label}`, (draft) => {
      Object.assign(draft, recipe);
    });
    this.state.tryOuts.set(false);
  }
}

/** Writes a value of an axis into a recipe: numbers and choices each have theirs. */
function write(axis: Axis, view: Parameters<Axis['write']>[0], value: string | number): void {
  if (axis.kind === 'number') axis.write(view, Number(value));
  else axis.write(view, String(value));
}

function said(axis: Axis, value: string | number): string {
  if (axis.kind === 'number') return `${axis.label.toLowerCase()} ${value}${axis.unit === '' ? '' : ' ' + axis.unit}`;
  return axis.choices.find(({ id }) => id === value)?.name ?? String(value);
}
