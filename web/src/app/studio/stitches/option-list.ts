import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  FABRICS,
  fabricOn,
  clothOf,
  LIMITS,
  stitchKindOf,
  UNDERLAY_NAMES,
  underlayOf,
  compensationOf,
  NO_CHOICES,
  overlapUnder,
  type Piece,
  type SharedSettings,
  type StitchOption,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { SliderField } from '../../shared/slider-field';
import { PieceActs } from '../pieces/piece-acts';
import { ChoiceField } from '../../shared/choice-field';
import { SWATCH } from '../../shared/swatches';

interface Item {
  readonly name: string;
  readonly option: StitchOption;
  readonly value: number | string;
  /** Whether it was set for these pieces. */
  readonly own: boolean;
  /** What else is to be known of the value. */
  readonly note?: string;
}

/** Choices that leave something to the design, or to the fabric. */
const LEAVES = new Set<number | string>(['design', 'fabric']);

/** Patterns and motifs are chosen by their look. */
function pictured(name: string, option: StitchOption): StitchOption {
  if (option.type !== 'choice' || (name !== 'pattern' && name !== 'motif')) return option;
  const pictureOf = SWATCH[name];
  return { ...option, choices: option.choices.map((choice) => ({ ...choice, picture: pictureOf(choice.id) })) };
}

/** Options of the stitch kind of some pieces, as the kind itself lists them. */
@Component({
  selector: 'kite-option-list',
  imports: [ChoiceField, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (item of items(); track item.name) {
      <div class="option" [class.own]="item.own">
        @if (item.option.type === 'number') {
          <kite-slider-field
            [label]="item.option.label"
            [unit]="item.option.unit === 'mm' ? 'length' : item.option.unit"
            [digits]="item.option.unit === 'mm' ? 2 : 0"
            [step]="item.option.step"
            [min]="item.option.least"
            [max]="item.option.most"
            [limit]="item.option.most"
            [value]="+item.value"
            (changed)="set(item.name, $event)"
          />
        } @else {
          <kite-choice-field
            [label]="item.option.label"
            [choices]="item.option.choices"
            [value]="'' + item.value"
            (chosen)="set(item.name, $event)"
          />
        }
        @if (item.note) {
          <p class="note">{{ item.note }}</p>
        }
        @if (item.own) {
          <button type="button" class="link" (click)="set(item.name, undefined)">As the design has it</button>
        }
      </div>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    .own {
      padding-left: 8px;
      border-left: 2px solid var(--glass);
    }
    .link {
      font-size: 12.5px;
    }
  `,
})
export class OptionList {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly acts = inject(PieceActs);

  /** Pieces of one kind, by their index. */
  readonly pieces = input.required<readonly number[]>();

  protected readonly items = computed((): Item[] => {
    const design = this.conversion.design();
    const recipe = this.store.view();
    const first = this.pieces()[0];
    const piece = design?.pieces[first];
    if (!design || !recipe || !piece) return [];
    const kind = stitchKindOf(piece.kind);
    const { stitches } = recipe;
    const shared: SharedSettings = { ...stitches, angle: Math.round(design.rowAngles[first] ?? stitches.angle) };
    const chosen = piece.choices.values;
    const items = Object.entries(kind.options).map(([name, option]): Item => {
      const follows = option.follows ? shared[option.follows] : option.usual;
      return { name, option: pictured(name, option), value: chosen[name] ?? follows, own: name in chosen };
    });
    return [...items, ...this.below(piece)];
  });

  /** Fabric, underlay, compensation and overlap, which every kind but lines has. */
  private below(piece: Piece): Item[] {
    const { values } = piece.choices;
    const recipe = this.store.view();
    if (piece.family === 'line' || !recipe) return [];
    const ofDesign = { fabric: fabricOn(recipe.cloth), compensationMm: recipe.stitches.compensationMm };
    const cloth = clothOf(piece, ofDesign);
    const { fabric } = cloth;
    const lies = 'fabric' in values;
    // As it would be if nothing were said of the piece.
    const plain = { ...piece, choices: NO_CHOICES };
    const auto = underlayOf(plain, fabric);
    const names = UNDERLAY_NAMES[piece.family];
    const now = names.find(({ id }) => id === auto)?.name ?? 'None';
    const choices = [{ id: 'fabric', name: `By fabric and width: ${now.toLowerCase()}` }, ...names];
    const usual = compensationOf(plain, cloth);
    const { overlapMm: said, ...others } = values;
    const unsaid = { ...piece, choices: { ...piece.choices, values: others } };
    const under = overlapUnder(unsaid, { stitches: ofDesign, overlapMm: recipe.stitches.overlapMm });
    const reached = compensationOf(piece, cloth);
    const ofDesignName = `As the design: ${ofDesign.fabric.name.toLowerCase()}`;
    return [
      {
        name: 'fabric',
        option: {
          type: 'choice',
          label: 'Fabric under it',
          choices: [{ id: 'design', name: ofDesignName }, ...FABRICS],
          usual: 'design',
        },
        value: values['fabric'] ?? 'design',
        own: lies,
        note: lies ? `Needle ${fabric.needle}, stabiliser ${fabric.stabiliser}, topping ${fabric.topping}.` : undefined,
      },
      {
        name: 'underlay',
        option: { type: 'choice', label: 'Underlay', choices, usual: 'fabric' },
        value: values['underlay'] ?? 'fabric',
        own: 'underlay' in values && values['underlay'] !== 'fabric',
      },
      {
        name: 'compensationMm',
        option: {
          type: 'number',
          label: 'Pull compensation',
          least: 0,
          most: 1,
          step: 0.01,
          unit: 'mm',
          usual,
        },
        value: values['compensationMm'] ?? usual,
        own: 'compensationMm' in values,
      },
      {
        name: 'overlapMm',
        option: {
          type: 'number',
          label: 'Overlap',
          least: LIMITS.overlapMm[0],
          most: LIMITS.overlapMm[1],
          step: 0.05,
          unit: 'mm',
          usual: under,
        },
        value: said ?? under,
        own: said !== undefined,
        note:
          piece.family === 'column' && Number(said ?? under) < reached
            ? `Its stitches reach ${reached.toFixed(2)} mm over the edge against the pull as it is.`
            : undefined,
      },
    ];
  }

  protected set(name: string, value: number | string | undefined): void {
    this.acts.setOption(this.pieces(), name, value !== undefined && LEAVES.has(value) ? undefined : value);
  }
}
