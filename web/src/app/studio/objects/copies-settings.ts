import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type { CopiesLayout, CopiesObject } from '@open-kite/core';
import type { Draft } from '../../project/history';
import { NumberField } from '../../shared/number-field';
import { ObjectActs } from './object-acts';

const LAYOUTS: readonly { readonly id: CopiesLayout['kind']; readonly name: string }[] = [
  { id: 'ring', name: 'In a ring' },
  { id: 'grid', name: 'In a grid' },
  { id: 'mirror', name: 'Mirrored' },
];

/** Layouts to begin with. */
const FIRST: Readonly<Record<CopiesLayout['kind'], CopiesLayout>> = {
  ring: { kind: 'ring', count: 6, radiusMm: 30, turned: true },
  grid: { kind: 'grid', columns: 3, rows: 2, stepXMm: 30, stepYMm: 30 },
  mirror: { kind: 'mirror', axis: 'x', gapMm: 4 },
};

/** How copies stand. */
@Component({
  selector: 'kite-copies-settings',
  imports: [MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './copies-settings.html',
  styleUrls: ['../sheet/sheet-parts.scss', './settings.scss'],
})
export class CopiesSettings {
  readonly copies = input.required<CopiesObject>();
  private readonly acts = inject(ObjectActs);
  protected readonly layouts = LAYOUTS;
  protected readonly round = Math.round;

  protected setLayoutKind(kind: CopiesLayout['kind']): void {
    if (this.copies().layout.kind !== kind) this.setLayout(FIRST[kind]);
  }

  protected setLayout(change: object): void {
    const layout = { ...this.copies().layout, ...change };
    this.acts.change('copies', this.copies().id, 'copies', (own) => (own.layout = layout as Draft<CopiesLayout>));
  }
}
