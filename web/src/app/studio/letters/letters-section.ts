import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import {
  kernable,
  LIMITS,
  SATIN_FROM_MM,
  STITCH_KINDS,
  type Align,
  type Baseline,
  type ThreadChoice,
} from '@open-kite/core';
import { NumberField } from '../../shared/number-field';
import { SliderField } from '../../shared/slider-field';
import { ThreadField } from '../objects/thread-field';
import { KerningRow } from './kerning-row';
import { LetterActs } from './letter-acts';

const LINES: readonly { readonly id: Baseline; readonly name: string }[] = [
  { id: 'straight', name: 'Straight' },
  { id: 'arc-up', name: 'Arc, tops outwards' },
  { id: 'arc-down', name: 'Arc, tops inwards' },
  { id: 'circle', name: 'All around a circle' },
];
const ALIGNS: readonly { readonly id: Align; readonly name: string }[] = [
  { id: 'left', name: 'Left' },
  { id: 'middle', name: 'Middle' },
  { id: 'right', name: 'Right' },
];

/** What the choice of a drawn line begins with. */
const ON_LINE = 'on:';

/** The chosen text: what it says, its font, its line, its spacing. */
@Component({
  selector: 'kite-letters-section',
  imports: [
    KerningRow,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NumberField,
    SliderField,
    ThreadField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (acts.chosen(); as own) {
      <section class="chosen" aria-label="Letters">
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>Text</mat-label>
          <textarea
            #words
            matInput
            rows="2"
            maxlength="400"
            [value]="own.text"
            (input)="acts.type(words.value)"
          ></textarea>
        </mat-form-field>
        @if (acts.missing().length > 0) {
          <p class="note" role="alert">This font has no {{ acts.missing().join(', ') }}: left out.</p>
        }
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>Font</mat-label>
          <mat-select [value]="own.font" (valueChange)="acts.setFont($event)" panelClass="kite-fonts">
            @for (font of acts.fonts(); track font.id) {
              <mat-option [value]="font.id">
                <img [src]="'/api/fonts/' + font.id + '/sample'" alt="" loading="lazy" height="30" />
                <span class="font-name">{{ font.name }}</span>
              </mat-option>
            }
          </mat-select>
        </mat-form-field>
        @if (advice(); as text) {
          <p class="note">{{ text }}</p>
        }
        <div class="numbers">
          <kite-number-field
            label="Height of capitals"
            [value]="own.heightMm"
            limit="lettersMm"
            (changed)="set('height of letters', 'heightMm', $event)"
          />
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label>Stands on</mat-label>
            <mat-select [value]="own.line" (valueChange)="stand($event)">
              @for (line of lines; track line.id) {
                <mat-option [value]="line.id">{{ line.name }}</mat-option>
              }
              @if (own.line === 'path') {
                <mat-option value="path">A drawn line</mat-option>
              }
              @if (acts.drawnLines().length > 0) {
                <mat-optgroup label="On a line of the design">
                  @for (line of acts.drawnLines(); track line.id) {
                    <mat-option [value]="onLine + line.id">{{ line.name }}</mat-option>
                  }
                </mat-optgroup>
              }
            </mat-select>
          </mat-form-field>
          @if (own.line !== 'straight' && own.line !== 'path') {
            <kite-number-field
              label="Radius"
              [value]="own.radiusMm"
              limit="textRadiusMm"
              (changed)="set('radius of a text', 'radiusMm', $event)"
            />
          }
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label>Aligned</mat-label>
            <mat-select [value]="own.align" (valueChange)="set('alignment', 'align', $event)">
              @for (align of aligns; track align.id) {
                <mat-option [value]="align.id">{{ align.name }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
        </div>
        <kite-slider-field
          label="Letter spacing"
          unit="length"
          [digits]="1"
          [step]="0.1"
          [min]="-2"
          [max]="8"
          [limit]="limits.letterSpacingMm[1]"
          [value]="own.letterSpacingMm"
          [resting]="0"
          (changed)="set('letter spacing', 'letterSpacingMm', $event)"
        />
        <kite-slider-field
          label="Slant"
          unit="°"
          [digits]="0"
          [step]="1"
          [min]="-25"
          [max]="25"
          [limit]="limits.slant[1]"
          [value]="own.slant"
          [resting]="0"
          (changed)="set('slant', 'slant', $event)"
        />
        @if (isStrokes()) {
          <kite-slider-field
            label="Stroke width"
            unit="%"
            [digits]="0"
            [step]="1"
            [min]="8"
            [max]="24"
            [limit]="40"
            [value]="(own.weight ?? 0.16) * 100"
            (changed)="set('stroke width', 'weight', $event / 100)"
          />
        }
        @if (own.text.includes('\\n')) {
          <kite-slider-field
            label="Line spacing"
            unit=""
            [digits]="2"
            [step]="0.05"
            [min]="0.6"
            [max]="2.5"
            [limit]="limits.lineSpacing[1]"
            [value]="own.lineSpacing"
            [resting]="1"
            (changed)="set('line spacing', 'lineSpacing', $event)"
          />
        }
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>Stitch kind</mat-label>
          <mat-select [value]="own.as" (valueChange)="set('stitch kind', 'as', $event)">
            <mat-option value="auto">By its size</mat-option>
            @for (kind of kinds; track kind.id) {
              <mat-option [value]="kind.id">{{ kind.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-checkbox [checked]="own.kerning" (change)="set('kerning', 'kerning', $event.checked)"
          >Kerning</mat-checkbox
        >
        @if (hasGaps()) {
          <kite-kerning-row [letters]="own" />
        }
        <kite-thread-field label="Thread" [paint]="own.paint" (chosen)="setThread($event)" />
      </section>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    .numbers {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    mat-form-field {
      width: 100%;
    }
    .chosen {
      gap: 10px;
    }
  `,
})
export class LettersSection {
  protected readonly acts = inject(LetterActs);
  protected readonly limits = LIMITS;
  protected readonly lines = LINES;
  protected readonly aligns = ALIGNS;
  protected readonly kinds = STITCH_KINDS;

  protected readonly onLine = ON_LINE;
  protected readonly hasGaps = computed(() => kernable(this.acts.chosen()?.text ?? '').length > 0);
  protected readonly isStrokes = computed(() => this.acts.chosen()?.outlines === null);

  /** What a practitioner would say to this size. */
  protected readonly advice = computed(() => {
    const own = this.acts.chosen();
    const font = this.acts.fonts().find(({ id }) => id === own?.font);
    if (!own) return '';
    if (own.heightMm < SATIN_FROM_MM) return 'Under 4 mm satin closes up: it is sewn as a bean stitch.';
    if (!font) return '';
    if (own.heightMm < font.leastMm) return `This font is made for ${font.leastMm} mm and more: strokes get too thin.`;
    return '';
  });

  constructor() {
    void this.acts.load();
  }

  protected set(label: string, field: string, value: unknown): void {
    this.acts.change(label, (letters) => void Reflect.set(letters, field, value));
  }

  protected stand(on: string): void {
    if (on.startsWith(ON_LINE)) this.acts.standOn(on.slice(ON_LINE.length));
    else this.acts.setLine(on as Baseline);
  }

  protected setThread(paint: ThreadChoice): void {
    this.acts.change('thread of letters', (letters) => void Reflect.set(letters, 'paint', paint));
  }
}
