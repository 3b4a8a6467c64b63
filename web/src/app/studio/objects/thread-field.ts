import { OverlayModule } from '@angular/cdk/overlay';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { colourWord, type ThreadChoice } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { threadLabel } from '../../shared/thread-label';
import { ThreadList, type ThreadPick } from './thread-list';

/** A thread, chosen from swatches with names: of the design, of the drawer and the charts, or any colour. */
@Component({
  selector: 'kite-thread-field',
  imports: [OverlayModule, ThreadList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      #origin="cdkOverlayOrigin"
      #button
      cdkOverlayOrigin
      type="button"
      class="field"
      aria-haspopup="listbox"
      [attr.aria-expanded]="open()"
      (click)="open.set(true)"
    >
      <span class="label">{{ label() }}</span>
      @if (shown(); as hex) {
        <span class="swatch" [style.background-color]="hex" aria-hidden="true"></span>
      }
      <span class="name">{{ name() }}</span>
    </button>
    <ng-template
      cdkConnectedOverlay
      cdkConnectedOverlayHasBackdrop
      cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
      cdkConnectedOverlayPush
      [cdkConnectedOverlayViewportMargin]="8"
      [cdkConnectedOverlayOrigin]="origin"
      [cdkConnectedOverlayOpen]="open()"
      (backdropClick)="close()"
      (detach)="open.set(false)"
      (overlayKeydown)="keyed($event)"
    >
      <kite-thread-list [hex]="hex()" [here]="here()" (picked)="take($event)" />
    </ng-template>
  `,
  styles: `
    :host {
      display: block;
    }
    .field {
      display: flex;
      align-items: center;
      gap: 9px;
      width: 100%;
      min-height: 36px;
      padding: 4px 10px;
      border: 1px solid var(--mute);
      border-radius: 8px;
      background: none;
      cursor: pointer;
      text-align: left;
    }
    .field:hover {
      border-color: var(--ink);
    }
    .label {
      flex: 1;
      font-weight: 600;
    }
    .swatch {
      flex: none;
      display: inline-block;
      width: 18px;
      height: 18px;
      border: 1px solid var(--line);
      border-radius: 4px;
    }
  `,
})
export class ThreadField {
  private readonly conversion = inject(Conversion);
  private readonly cupboard = inject(Cupboard);
  private readonly button = viewChild.required<ElementRef<HTMLButtonElement>>('button');
  readonly label = input.required<string>();
  /** What there is; none where several things differ in it. */
  readonly paint = input<ThreadChoice | 'here'>();
  /** What is offered for the colour the picture has there; without it that is not offered. */
  readonly here = input<string>();
  readonly chosen = output<ThreadChoice>();
  /** How what was chosen looks, for what is no thread. */
  readonly hexChosen = output<string>();
  /** The colour of the picture at this place was chosen. */
  readonly hereChosen = output();

  protected readonly open = signal(false);
  private readonly threads = computed(() => this.conversion.design()?.threads ?? []);
  /** The thread there is, by its chart or of the design. */
  private readonly named = computed(() => {
    const paint = this.paint();
    if (paint === undefined || paint === 'here' || !('code' in paint)) return undefined;
    const { chart, code } = paint;
    const ofDesign = this.threads().find((thread) => thread.chart === chart && thread.code === code);
    const inChart = this.cupboard.all().find(({ id }) => id === chart);
    const thread = ofDesign ?? inChart?.threads.find((each) => each.code === code);
    return thread && { ...thread, chart };
  });
  /** The colour it has; none where several differ. */
  protected readonly shown = computed(() => {
    const paint = this.paint();
    if (paint === undefined || paint === 'here') return undefined;
    if ('hex' in paint) return paint.hex;
    return 'like' in paint ? paint.like.hex : this.named()?.hex;
  });
  protected readonly hex = computed(() => this.shown() ?? this.threads().at(0)?.hex ?? '#888888');
  protected readonly name = computed(() => {
    const paint = this.paint();
    if (paint === undefined) return 'Several threads';
    if (paint === 'here') return this.here() ?? '';
    if ('code' in paint) return threadLabel(this.named() ?? { ...paint, name: '' });
    const word = colourWord(this.hex());
    return `${word[0].toUpperCase()}${word.slice(1)} ${this.hex()}`;
  });

  protected take(pick: ThreadPick): void {
    this.close();
    if (pick === 'here') {
      this.hereChosen.emit();
      return;
    }
    this.chosen.emit(pick.choice);
    this.hexChosen.emit(pick.hex);
  }

  protected keyed(event: KeyboardEvent): void {
    // What is typed here is for the list alone.
    event.stopPropagation();
    if (event.key === 'Escape') this.close();
  }

  protected close(): void {
    if (!this.open()) return;
    this.open.set(false);
    this.button().nativeElement.focus({ preventScroll: true });
  }
}
