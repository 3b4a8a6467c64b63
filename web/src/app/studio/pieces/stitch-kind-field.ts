import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { STITCH_KINDS, stitchKindOf, type KindFamily } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { SWATCH } from '../../shared/swatches';
import { StudioState } from '../studio-state';
import { PieceActs } from './piece-acts';

const BY_WIDTH = 'auto';
const FAMILIES: readonly { readonly family: KindFamily; readonly name: string }[] = [
  { family: 'area', name: 'Fills' },
  { family: 'column', name: 'Columns' },
  { family: 'line', name: 'Lines' },
];
/** A running line is sewn as often as its width asks for, or so many times. */
const PASSES = ['as wide as drawn', 'single', 'double', 'triple'];

/** Everything a piece can be sewn as; a kind and the passes of a line make the id. */
const KINDS: readonly Choice[] = FAMILIES.flatMap(({ family, name: group }) =>
  STITCH_KINDS.filter((kind) => kind.family === family)
    .flatMap(({ id, name }): Choice[] =>
      id === 'running'
        ? PASSES.map((passes, n) => ({ id: `${id} ${n}`, name: `${name}, ${passes}`, group }))
        : [{ id: `${id} 0`, name, group }],
    )
    .map((choice) => ({ ...choice, picture: SWATCH.kind(choice.id) })),
);

/** How some pieces are sewn: the same list wherever it is asked for. */
@Component({
  selector: 'kite-stitch-kind-field',
  imports: [ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kite-choice-field
      label="Stitch kind"
      none="Several kinds"
      [choices]="choices()"
      [value]="now()"
      (chosen)="sewAs($event)"
    />
  `,
})
export class StitchKindField {
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  private readonly acts = inject(PieceActs);

  /** Pieces by their index. */
  readonly pieces = input.required<readonly number[]>();

  private readonly chosen = computed(() => {
    const all = this.conversion.design()?.pieces ?? [];
    return this.pieces().flatMap((i) => (i < all.length ? [all[i]] : []));
  });

  /** What is said of all of them; undefined where they differ. */
  protected readonly now = computed(() => {
    const said = new Set(
      this.chosen().map(({ chosen, kind, passes }) =>
        chosen ? `${kind} ${kind === 'running' ? passes : 0}` : BY_WIDTH,
      ),
    );
    return said.size === 1 ? [...said][0] : undefined;
  });

  /** By its width comes first, with what that comes to. */
  protected readonly choices = computed((): readonly Choice[] => {
    const found = new Set(this.chosen().map(({ chosen, kind }) => (chosen ? undefined : kind)));
    const [kind] = found;
    const comesTo = found.size === 1 && kind ? `: ${stitchKindOf(kind).name.toLowerCase()}` : '';
    return [{ id: BY_WIDTH, name: `By its width${comesTo}` }, ...KINDS];
  });

  protected sewAs(id: string): void {
    const [kind, passes = '0'] = id.split(' ');
    this.acts.sewAs(this.state.selected(), kind, Number(passes));
  }
}
