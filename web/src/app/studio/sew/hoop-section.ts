import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  BEGIN_PLACES,
  END_PLACES,
  fillOf,
  HOOPS,
  oneOf,
  placeChosen,
  stepOf,
  stitchBounds,
  type HoopField,
  type Recipe,
  type Several,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { ChoiceField } from '../../shared/choice-field';
import { Fold } from '../../shared/fold';
import { NumberField } from '../../shared/number-field';
import { moved } from '../placing/gesture';

const FIRST_OWN: HoopField = { widthMm: 120, heightMm: 120, round: false };
const ONCE: Several = { across: 1, down: 1, gapMm: 10 };
/** A design that lies so near to the middle was put there. */
const CENTRED_MM = 0.5;

/** The hoop, how often the design lies in it, and where the needle begins and ends. */
@Component({
  selector: 'kite-hoop-section',
  imports: [ChoiceField, Fold, MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField],
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label>Hoop</mat-label>
      <mat-select [value]="hoopId()" (valueChange)="chooseHoop($event)">
        <mat-option value="none">None chosen</mat-option>
        @for (each of hoops; track each.id) {
          <mat-option [value]="each.id">{{ each.name }}</mat-option>
        }
        <mat-option value="own">One of my own …</mat-option>
      </mat-select>
    </mat-form-field>
    <span class="words">
      @if (hoop(); as field) {
        @if (!field.round && field.widthMm !== field.heightMm) {
          <button type="button" class="link" (click)="turnHoop()">Turn it</button>
        }
      }
      <button type="button" class="link" (click)="centre()">Centre the design</button>
    </span>
    @if (hoopId() === 'own' && hoop(); as field) {
      <div class="row">
        <kite-number-field
          label="Field across"
          [value]="field.widthMm"
          [min]="20"
          [max]="600"
          (changed)="changeHoop(field.round ? { widthMm: $event, heightMm: $event } : { widthMm: $event })"
        />
        @if (!field.round) {
          <kite-number-field
            label="Field down"
            [value]="field.heightMm"
            [min]="20"
            [max]="600"
            (changed)="changeHoop({ heightMm: $event })"
          />
        }
      </div>
      <mat-checkbox
        [checked]="field.round"
        (change)="changeHoop({ round: $event.checked, heightMm: $event.checked ? field.widthMm : field.heightMm })"
        >Round</mat-checkbox
      >
    }
    <kite-fold
      name="several"
      heading="Several, begin and end"
      [said]="copies() > 1 ? several().across + ' × ' + several().down : ''"
    >
      <ng-template>
        <section aria-label="Several, begin and end">
          <div class="row three">
            @for (field of counts; track field.of) {
              <kite-number-field
                unit=""
                [label]="field.label"
                [digits]="0"
                [limit]="field.limit"
                [value]="several()[field.of]"
                (changed)="setCount(field.of, $event)"
              />
            }
            <kite-number-field
              label="Gap"
              limit="severalGapMm"
              [value]="several().gapMm"
              (changed)="setSeveral({ gapMm: $event })"
            />
          </div>
          <span class="words">
            @if (hoop() && fill(); as most) {
              <button type="button" class="link" (click)="setSeveral(most, true)">
                Fill the hoop: {{ most.across }} × {{ most.down }}
              </button>
            }
            @if (copies() > 1) {
              <button type="button" class="link" (click)="setSeveral({ across: 1, down: 1 })">Only one</button>
            }
          </span>
          @if (copies() > 1) {
            <p class="note">
              {{ copies() }} of them, sewn thread by thread. The first one is the one you change; all figures are of
              all.
            </p>
          }
          <kite-choice-field
            label="The needle begins"
            [choices]="begins"
            [value]="begin()"
            (chosen)="setBegin($event)"
          />
          <kite-choice-field label="The needle ends" [choices]="ends" [value]="end()" (chosen)="setEnd($event)" />
        </section>
      </ng-template>
    </kite-fold>
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    .row {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
      align-items: start;
    }
    .three {
      grid-template-columns: 1fr 1fr 1.5fr;
    }
    .words {
      display: flex;
      flex-wrap: wrap;
    }
    mat-form-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HoopSection {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);

  protected readonly hoops = HOOPS;
  protected readonly counts = [
    { of: 'across', label: 'Across', limit: 'severalAcross' },
    { of: 'down', label: 'Down', limit: 'severalDown' },
  ] as const;
  protected readonly begins = BEGIN_PLACES;
  protected readonly ends = END_PLACES;

  protected readonly hoop = computed(() => this.store.recipe()?.hoop);
  protected readonly hoopId = computed(() => {
    const hoop = this.hoop();
    if (!hoop) return 'none';
    const known = HOOPS.find(
      ({ widthMm, heightMm, round }) => widthMm === hoop.widthMm && heightMm === hoop.heightMm && round === hoop.round,
    );
    return known?.id ?? 'own';
  });

  protected readonly several = computed(() => this.store.recipe()?.several ?? ONCE);
  protected readonly copies = computed(() => this.several().across * this.several().down);
  protected readonly begin = computed(() => this.store.recipe()?.order.begin ?? BEGIN_PLACES[0].id);
  protected readonly end = computed(() => this.store.recipe()?.order.end ?? END_PLACES[0].id);

  /** Where one of the design lies; undefined where nothing is sewn. */
  private readonly box = computed(() => {
    const design = this.conversion.design();
    return design && stitchBounds(oneOf(design).stitches);
  });

  /** How many fit into the hoop, where that are others than there are now. */
  protected readonly fill = computed(() => {
    const [hoop, box, now] = [this.hoop(), this.box(), this.several()];
    if (!hoop || !box) return undefined;
    const most = fillOf(hoop, box, now.gapMm);
    return most.across === now.across && most.down === now.down ? undefined : most;
  });

  protected chooseHoop(id: string): void {
    const known = HOOPS.find((hoop) => hoop.id === id);
    const field = known ?? (id === 'own' ? (this.hoop() ?? FIRST_OWN) : undefined);
    this.setHoop(field && { widthMm: field.widthMm, heightMm: field.heightMm, round: field.round });
  }

  protected changeHoop(change: Partial<HoopField>): void {
    const hoop = this.hoop();
    if (hoop) this.setHoop({ ...hoop, ...change });
  }

  /** A quarter turn of the hoop. */
  protected turnHoop(): void {
    const hoop = this.hoop();
    if (hoop) this.setHoop({ ...hoop, widthMm: hoop.heightMm, heightMm: hoop.widthMm });
  }

  private setHoop(hoop: HoopField | undefined): void {
    this.store.changeWhole('hoop', (recipe) => {
      if (hoop) recipe.hoop = hoop;
      else delete recipe.hoop;
    });
  }

  /**
   * Changes how often it lies in the hoop. The first several are put around the middle; later what lay there does so again.
   * @param centred whether they are put there in any case
   */
  protected setSeveral(change: Partial<Several>, centred = this.copies() === 1 || this.isCentred()): void {
    const after = { ...this.several(), ...change };
    this.moveWhole('several in the hoop', centred ? after : undefined, (recipe) => {
      if (after.across * after.down > 1) recipe.several = after;
      else delete recipe.several;
    });
  }

  /** Moves the whole design so that what is sewn lies around the hoop's middle. */
  protected centre(): void {
    this.moveWhole('centred', this.several());
  }

  protected setCount(of: 'across' | 'down', count: number): void {
    this.setSeveral({ [of]: count });
  }

  private isCentred(): boolean {
    const [x, y] = this.middleOf(this.several());
    return Math.max(Math.abs(x), Math.abs(y)) < CENTRED_MM;
  }

  /** Middle of all that is sewn, where it lies so often. */
  private middleOf(several: Several): readonly [x: number, y: number] {
    const box = this.box();
    if (!box) return [0, 0];
    const [stepX, stepY] = stepOf(box, several.gapMm);
    return [
      (box.left + box.right + (several.across - 1) * stepX) / 2,
      (box.top + box.bottom + (several.down - 1) * stepY) / 2,
    ];
  }

  /**
   * Changes the recipe, and moves the whole design around the middle with it, in one step.
   * @param around how often it lies in the hoop then; undefined moves nothing
   */
  private moveWhole(label: string, around: Several | undefined, change?: (recipe: Draft<Recipe>) => void): void {
    const recipe = this.store.recipe();
    if (!recipe) return;
    const [x, y] = around ? this.middleOf(around) : [0, 0];
    const ids = recipe.objects.filter(({ locked }) => !locked).map(({ id }) => id);
    const placed = placeChosen(recipe, { objects: ids, pieces: [] }, moved(-x, -y));
    this.store.changeWhole(label, (draft) => {
      change?.(draft);
      placed?.objects.forEach((object, i) => {
        if (object !== recipe.objects[i]) draft.objects[i] = object as Draft<typeof object>;
      });
    });
  }

  protected setBegin(id: string): void {
    this.store.changeWhole('where the needle begins', ({ order }) => (order.begin = id));
  }

  protected setEnd(id: string): void {
    this.store.changeWhole('where the needle ends', ({ order }) => (order.end = id));
  }
}
