import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type { CopiesLayout, CopiesObject } from '@open-kite/core';
import type { Draft } from '../../project/history';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { NumberField } from '../../shared/number-field';
import { MoreActs } from './more-acts';
import { ObjectActs } from './object-acts';

const LAYOUTS: readonly { readonly id: CopiesLayout['kind']; readonly name: string }[] = [
  { id: 'ring', name: 'In a ring' },
  { id: 'grid', name: 'In a grid' },
  { id: 'path', name: 'Along a line' },
  { id: 'mirror', name: 'Mirrored' },
];

/** Layouts to begin with; along a line needs one. */
const FIRST: Readonly<Record<Exclude<CopiesLayout['kind'], 'path'>, CopiesLayout>> = {
  ring: { kind: 'ring', count: 6, radiusMm: 30, turned: true },
  grid: { kind: 'grid', columns: 3, rows: 2, stepXMm: 30, stepYMm: 30 },
  mirror: { kind: 'mirror', axis: 'x', gapMm: 4 },
};

/** How copies stand. */
@Component({
  selector: 'kite-copies-settings',
  imports: [ChoiceField, MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './copies-settings.html',
  styleUrls: ['../sheet/sheet-parts.scss', './settings.scss'],
})
export class CopiesSettings {
  readonly copies = input.required<CopiesObject>();
  private readonly acts = inject(ObjectActs);
  protected readonly more = inject(MoreActs);
  /** Shapes that copies may stand along. */
  protected readonly lines = computed((): readonly Choice[] =>
    this.acts.lines().filter(({ id }) => !this.copies().of.includes(id)),
  );
  protected readonly layouts = LAYOUTS;
  protected readonly round = Math.round;

  protected setLayoutKind(kind: CopiesLayout['kind']): void {
    if (this.copies().layout.kind === kind) return;
    const line = this.lines().at(0);
    if (kind !== 'path') this.setLayout(FIRST[kind]);
    else if (line) this.setLayout({ kind, along: line.id, count: 6, turned: true });
  }

  protected setOneByOne(on: boolean): void {
    this.acts.change('order of copies', this.copies().id, 'copies', (own) => {
      if (on) own.oneByOne = true;
      else delete own.oneByOne;
    });
  }

  protected setLayout(change: object): void {
    const own = this.copies().layout;
    const changed = change as Partial<CopiesLayout>;
    // Another layout has nothing of the one before it.
    const layout = changed.kind && changed.kind !== own.kind ? change : { ...own, ...change };
    this.acts.change('copies', this.copies().id, 'copies', (own) => (own.layout = layout as Draft<CopiesLayout>));
  }
}
