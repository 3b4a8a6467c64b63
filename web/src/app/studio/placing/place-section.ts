import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { LIMITS } from '@open-kite/core';
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceBetween,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceBetween,
  FlipHorizontal2,
  FlipVertical2,
  LucideAngularModule,
  RotateCcw,
  RotateCw,
  type LucideIconData,
} from 'lucide-angular';
import { Fold } from '../../shared/fold';
import { NumberField } from '../../shared/number-field';
import { CopyActs, type Alike } from './copy-acts';
import { middleOf } from './gesture';
import { ShapeActs } from './shape-acts';
import { PlaceActs, type Side } from './place-acts';

interface Act {
  readonly label: string;
  readonly icon: LucideIconData;
  readonly run: () => void;
}

/** Place and size of what is chosen by numbers, and what is done with it as a whole. */
@Component({
  selector: 'kite-place-section',
  imports: [
    Fold,
    LucideAngularModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatMenuModule,
    MatTooltipModule,
    NgTemplateOutlet,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #button let-act>
      <button
        type="button"
        class="quiet-button"
        [attr.aria-label]="act.label"
        [matTooltip]="act.label"
        (click)="act.run()"
      >
        <lucide-icon [img]="act.icon" [size]="17" aria-hidden="true" />
      </button>
    </ng-template>
    @if (place.box(); as box) {
      <kite-fold name="place" heading="Place and size" [said]="said()">
        <ng-template>
          <div class="numbers">
            <kite-number-field label="Across" [value]="middle().x" (changed)="place.moveTo('x', $event)" />
            <kite-number-field label="Down" [value]="middle().y" (changed)="place.moveTo('y', $event)" />
            <kite-number-field
              label="Width"
              [value]="box.right - box.left"
              [min]="0.5"
              [max]="most"
              (changed)="place.resize('width', $event, locked())"
            />
            <kite-number-field
              label="Height"
              [value]="box.bottom - box.top"
              [min]="0.5"
              [max]="most"
              (changed)="place.resize('height', $event, locked())"
            />
            <kite-number-field
              label="Turn by"
              unit="°"
              [value]="0"
              [min]="-360"
              [max]="360"
              (changed)="place.turn($event)"
            />
            @if (shapes.can()) {
              <kite-number-field
                label="Overlap"
                [digits]="2"
                [value]="shapes.overlapMm()"
                [min]="0.1"
                [max]="5"
                (changed)="shapes.overlapMm.set($event)"
              />
            }
            <mat-checkbox [checked]="locked()" (change)="locked.set($event.checked)">Keep proportion</mat-checkbox>
          </div>
          <div class="acts" role="toolbar" aria-label="Turn and mirror">
            @for (act of turns; track act.label) {
              <ng-container [ngTemplateOutlet]="button" [ngTemplateOutletContext]="{ $implicit: act }" />
            }
          </div>
          <div class="acts" role="toolbar" aria-label="Line up">
            @for (act of sides; track act.label) {
              <ng-container [ngTemplateOutlet]="button" [ngTemplateOutletContext]="{ $implicit: act }" />
            }
            @if (place.count() > 2) {
              @for (act of spreads; track act.label) {
                <ng-container [ngTemplateOutlet]="button" [ngTemplateOutletContext]="{ $implicit: act }" />
              }
            }
          </div>
          <div class="words">
            <button type="button" class="link" (click)="copies.duplicate()">Duplicate</button>
            <button type="button" class="link" (click)="copies.copy()">Copy</button>
            <button type="button" class="link" [matMenuTriggerFor]="alike">Choose alike</button>
            <mat-menu #alike="matMenu">
              @for (item of alikes; track item.what) {
                <button mat-menu-item type="button" (click)="copies.chooseAlike(item.what)">{{ item.label }}</button>
              }
            </mat-menu>
            @if (shapes.can()) {
              <button type="button" class="link" [matMenuTriggerFor]="sums">Make one of them</button>
              <mat-menu #sums="matMenu">
                <button mat-menu-item type="button" (click)="shapes.make('combine')">Combine</button>
                <button mat-menu-item type="button" (click)="shapes.make('subtract')">Subtract what lies above</button>
                <button mat-menu-item type="button" (click)="shapes.make('cut')">Cut to what lies below</button>
                <button mat-menu-item type="button" (click)="shapes.make('overlap')">
                  Overlap: the lowest reaches under by {{ shapes.overlapMm().toFixed(2) }} mm
                </button>
              </mat-menu>
            }
            @if (place.things().objects.length > 0) {
              <button type="button" class="link" (click)="copies.step(1)">Higher</button>
              <button type="button" class="link" (click)="copies.step(-1)">Lower</button>
            }
            @if (place.things().objects.length > 1 && !copies.isGrouped()) {
              <button type="button" class="link" (click)="copies.group()">Group</button>
            }
            @if (copies.isGrouped()) {
              <button type="button" class="link" (click)="copies.ungroup()">Ungroup</button>
            }
          </div>
        </ng-template>
      </kite-fold>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    .numbers {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
      align-items: center;
    }
    .acts,
    .words {
      display: flex;
      flex-wrap: wrap;
      gap: 2px;
      margin-top: 6px;
    }
    .acts {
      gap: 0;
    }
    .acts .quiet-button {
      min-width: 30px;
      padding: 6px;
    }
    .words .link {
      font-size: 13.5px;
    }
    .link {
      color: color-mix(in srgb, var(--glass) 72%, var(--ink));
    }
  `,
})
export class PlaceSection {
  protected readonly place = inject(PlaceActs);
  protected readonly copies = inject(CopyActs);
  protected readonly shapes = inject(ShapeActs);
  protected readonly locked = signal(true);
  protected readonly most = LIMITS.widthMm[1];
  protected readonly middle = computed(() => {
    const box = this.place.box();
    return box ? middleOf(box) : { x: 0, y: 0 };
  });
  protected readonly said = computed(() => {
    const { objects, pieces } = this.place.things();
    const parts = [count(objects.length, 'object'), count(pieces.length, 'piece')].filter((text) => text !== '');
    return parts.join(', ');
  });

  protected readonly turns: readonly Act[] = [
    { label: 'A quarter turn to the left', icon: RotateCcw, run: () => this.place.turn(-90) },
    { label: 'A quarter turn to the right', icon: RotateCw, run: () => this.place.turn(90) },
    { label: 'Mirror left and right', icon: FlipHorizontal2, run: () => this.place.mirror('x') },
    { label: 'Mirror top and bottom', icon: FlipVertical2, run: () => this.place.mirror('y') },
  ];
  protected readonly sides: readonly Act[] = [
    this.side('Line up left', AlignStartVertical, 'left'),
    this.side('Line up by the middle', AlignCenterVertical, 'middle'),
    this.side('Line up right', AlignEndVertical, 'right'),
    this.side('Line up at the top', AlignStartHorizontal, 'top'),
    this.side('Line up by the centre', AlignCenterHorizontal, 'centre'),
    this.side('Line up at the bottom', AlignEndHorizontal, 'bottom'),
  ];
  protected readonly spreads: readonly Act[] = [
    { label: 'Spread evenly across', icon: AlignHorizontalSpaceBetween, run: () => this.place.spread('x') },
    { label: 'Spread evenly down', icon: AlignVerticalSpaceBetween, run: () => this.place.spread('y') },
  ];
  protected readonly alikes: readonly { readonly what: Alike; readonly label: string }[] = [
    { what: 'thread', label: 'Same thread' },
    { what: 'kind', label: 'Same stitch kind' },
    { what: 'size', label: 'About this size' },
    { what: 'all', label: 'Like this one in all of these' },
  ];

  private side(label: string, icon: LucideIconData, side: Side): Act {
    return { label, icon, run: () => this.place.align(side) };
  }
}

const count = (n: number, word: string): string => (n === 0 ? '' : `${n} ${word}${n === 1 ? '' : 's'}`);
