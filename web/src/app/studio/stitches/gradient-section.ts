import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SliderField } from '../../shared/slider-field';
import { ThreadPicker } from '../rendering/thread-picker';
import { GradientActs } from './gradient-acts';
import { ChoiceField } from '../../shared/choice-field';

/** The gradient of the chosen pieces: its way, its threads, and how they lie. */
@Component({
  selector: 'kite-gradient-section',
  imports: [ChoiceField, DecimalPipe, SliderField, ThreadPicker],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (acts.gradient(); as gradient) {
      <section aria-label="Gradient">
        <div class="row">
          <strong>Gradient</strong>
          <button type="button" class="link" (click)="acts.remove()">Take it away</button>
        </div>
        <div class="bar" aria-hidden="true" [style.background]="bar()"></div>
        <kite-choice-field label="It runs" [choices]="shapes" [value]="gradient.shape" (chosen)="setShape($event)" />
        <kite-choice-field
          label="Threads lie"
          [choices]="layers"
          [value]="gradient.layers"
          (chosen)="setLayers($event)"
        />
        @for (stop of gradient.stops; track $index) {
          <div class="stop">
            <div class="row">
              @if (stop.paint) {
                <kite-thread-picker
                  [hex]="stop.hex"
                  [name]="'stop ' + ($index + 1)"
                  (chosen)="acts.setStop($index, { paint: $event })"
                />
              } @else {
                <span>Bare cloth</span>
              }
              <span class="acts">
                <button
                  type="button"
                  class="link"
                  [attr.aria-label]="(stop.paint ? 'Bare cloth at stop ' : 'Thread at stop ') + ($index + 1)"
                  (click)="acts.setStop($index, { paint: stop.paint ? { bare: true } : { hex: '#c8481f' } })"
                >
                  {{ stop.paint ? 'Bare' : 'Thread' }}
                </button>
                @if (gradient.stops.length > acts.leastStops) {
                  <button
                    type="button"
                    class="link"
                    [attr.aria-label]="'Remove stop ' + ($index + 1)"
                    (click)="acts.removeStop($index)"
                  >
                    Remove
                  </button>
                }
              </span>
            </div>
            <kite-slider-field
              [label]="'Place of stop ' + ($index + 1)"
              unit="%"
              [digits]="0"
              [step]="1"
              [min]="0"
              [max]="100"
              [limit]="100"
              [value]="stop.at * 100"
              (changed)="acts.setStop($index, { at: $event / 100 })"
            />
          </div>
        }
        @if (gradient.stops.length < acts.mostStops) {
          <button type="button" class="link" (click)="acts.addStop()">Another stop</button>
        }
        @if (acts.middle(); as offer) {
          <p class="note">
            Between stops {{ offer.index }} and {{ offer.index + 1 }} no mix of the two threads comes nearer than
            {{ offer.now | number: '1.1-1' }} to the colours; one between them would come to
            {{ offer.then | number: '1.1-1' }}.
            <button type="button" class="link" (click)="acts.insertStop(offer.index, offer.hex)">
              Put a thread between
            </button>
          </p>
        }
        <p class="note">Pull its ends and stops on the cloth.</p>
      </section>
    } @else if (acts.plain().length > 0) {
      <button type="button" class="link" (click)="acts.lay()">
        {{ acts.plain().length === 1 ? 'Lay a gradient over it' : 'Lay one gradient over all of them' }}
      </button>
    }
  `,
  styleUrl: '../sheet/sheet-parts.scss',
  styles: `
    .bar {
      height: 14px;
      border: 1px solid var(--line);
      border-radius: 7px;
    }
    .stop {
      display: grid;
      gap: 4px;
      padding-top: 6px;
    }
    .acts {
      display: flex;
      gap: 10px;
    }
  `,
})
export class GradientSection {
  protected readonly acts = inject(GradientActs);

  protected readonly bar = computed(() => {
    const stops = this.acts.gradient()?.stops ?? [];
    return `linear-gradient(90deg, ${stops.map(({ at, hex }) => `${hex} ${at * 100}%`).join(', ')})`;
  });

  protected readonly shapes = [
    { id: 'linear', name: 'Along a line' },
    { id: 'radial', name: 'From a middle outwards' },
  ] as const;
  protected readonly layers = [
    { id: 'over', name: 'Over a solid one' },
    { id: 'beside', name: 'Row beside row' },
  ] as const;

  protected setShape(id: string): void {
    const shape = this.shapes.find((item) => item.id === id)?.id;
    if (shape) this.acts.change('gradient', { shape });
  }

  protected setLayers(id: string): void {
    const layers = this.layers.find((item) => item.id === id)?.id;
    if (layers) this.acts.change('gradient', { layers });
  }
}
