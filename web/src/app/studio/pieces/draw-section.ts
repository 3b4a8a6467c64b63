import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MASK_SHAPES, type MaskShape } from '@open-kite/core';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  BoxSelect,
  Brush,
  CircleDashed,
  LucideAngularModule,
  type LucideIconData,
  PipetteIcon,
  Shapes,
  Spline,
} from 'lucide-angular';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { SliderField } from '../../shared/slider-field';
import { DrawActs, type DrawTool } from '../draw/draw-acts';
import { ThreadField } from '../objects/thread-field';
import { OpenPicture } from '../open-picture';

/** Draws with what the picture has where a drawing begins. */
const HERE = 'As the picture where it begins';

/** Tools to draw over the picture, and what they draw with. */
@Component({
  selector: 'kite-draw-section',
  imports: [LucideAngularModule, MatMenuModule, MatTooltipModule, SliderField, ThreadField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Draw">
      <div class="row">
        <strong>{{ picture() ? 'Draw over the picture' : 'Draw' }}</strong>
      </div>
      <div class="tools" role="toolbar" aria-label="Drawing tools">
        @for (item of tools; track item.label) {
          <button
            type="button"
            class="quiet-button"
            [matTooltip]="item.hint"
            [attr.aria-label]="item.label"
            [attr.aria-pressed]="isOn(item.tool)"
            (click)="acts.take(item.tool)"
          >
            <lucide-icon [img]="item.icon" [size]="18" aria-hidden="true" />
          </button>
        }
        <button
          type="button"
          class="quiet-button"
          matTooltip="A standard shape"
          aria-label="A standard shape"
          [attr.aria-pressed]="acts.tool()?.kind === 'shape'"
          [matMenuTriggerFor]="shapeMenu"
        >
          <lucide-icon [img]="icons.Shapes" [size]="18" aria-hidden="true" />
        </button>
        <mat-menu #shapeMenu="matMenu">
          @for (shape of shapes; track shape) {
            <button mat-menu-item type="button" (click)="acts.take({ kind: 'shape', role: 'piece', shape })">
              {{ shape }}
            </button>
          }
        </mat-menu>
      </div>
      <kite-thread-field
        label="Thread"
        [paint]="thread()"
        [here]="picture() ? here : undefined"
        (chosen)="acts.thread.set($event)"
        (hereChosen)="acts.thread.set('here')"
      />
      @if (takesAreas()) {
        <kite-slider-field
          label="Tolerance of the colour"
          unit=""
          [digits]="0"
          [step]="1"
          [min]="0"
          [max]="40"
          [limit]="100"
          [value]="acts.tolerance()"
          [resting]="0"
          (changed)="acts.tolerance.set($event)"
        />
        <p class="note">
          {{
            acts.tolerance() === 0
              ? 'Takes an area of the colours the design has.'
              : 'Takes what hangs together in the picture and is nearly of that colour.'
          }}
        </p>
      }
      <kite-slider-field
        label="Width of lines"
        unit="length"
        [digits]="1"
        [step]="0.1"
        [min]="0.3"
        [max]="7"
        [limit]="20"
        [value]="acts.lineWidthMm()"
        (changed)="acts.lineWidthMm.set($event)"
      />
      @for (hole of holes(); track hole.id) {
        <p class="row note">
          A hole drawn by hand
          <button type="button" class="link" (click)="acts.take({ kind: 'edit', id: hole.id })">Points</button>
          <button type="button" class="link" (click)="acts.remove(hole.id)">Remove</button>
        </p>
      }
    </section>
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    .tools {
      display: flex;
      gap: 4px;
    }
    .tools .quiet-button {
      width: 36px;
      height: 34px;
      border: 1px solid var(--line);
    }
    .tools [aria-pressed='true'] {
      border-color: var(--ember);
      background: var(--ember-soft);
      color: var(--ink);
    }
    button[mat-menu-item]::first-letter {
      text-transform: uppercase;
    }
  `,
})
export class DrawSection {
  protected readonly acts = inject(DrawActs);
  private readonly open = inject(OpenPicture);
  protected readonly design = inject(Conversion).design;
  protected readonly picture = inject(ProjectStore).object;
  protected readonly icons = { Shapes };
  protected readonly shapes = Object.keys(MASK_SHAPES) as Exclude<MaskShape, 'free'>[];
  protected readonly tools: readonly { tool: DrawTool; label: string; hint: string; icon: LucideIconData }[] = [
    { tool: { kind: 'points', role: 'piece' }, label: 'Points and curves', hint: 'Points and curves', icon: Spline },
    { tool: { kind: 'free', role: 'piece' }, label: 'Freely by hand', hint: 'Freely by hand, smoothed', icon: Brush },
    {
      tool: { kind: 'area', role: 'piece' },
      label: 'Area of a colour',
      hint: 'The outline of a colour',
      icon: PipetteIcon,
    },
    { tool: { kind: 'points', role: 'hole' }, label: 'A hole', hint: 'Cut a hole', icon: CircleDashed },
    {
      tool: { kind: 'area', role: 'hole' },
      label: 'A hole as large as a colour',
      hint: 'A hole as large as a colour',
      icon: BoxSelect,
    },
  ];

  protected holes() {
    return this.acts.shapes().filter(({ role }) => role === 'hole');
  }

  protected isOn(tool: DrawTool): boolean {
    return JSON.stringify(this.acts.tool()) === JSON.stringify(tool);
  }

  protected readonly here = HERE;
  /** What is drawn with, as it is shown; without a picture that is no colour of one. */
  protected readonly thread = computed(() =>
    this.acts.thread() === 'here' && !this.picture() ? this.acts.paint() : this.acts.thread(),
  );
  /** Whether a tolerance changes what a place that is pointed at gives: shapes of artwork are taken as they are. */
  protected readonly takesAreas = computed(() => this.acts.tool()?.kind === 'area' && !this.open.result()?.vector);
}
