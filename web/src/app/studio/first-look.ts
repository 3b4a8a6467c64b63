import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Conversion } from '../convert/conversion';
import { Preferences } from '../shared/preferences';

/** Points at the four parts of the studio, the first time it is opened in a browser; any press or key ends it for good. */
@Component({
  selector: 'kite-first-look',
  template: `
    @if (shown()) {
      <div class="notes" role="note" aria-label="The four parts of the studio">
        <p class="line">Six steps lead from the picture to the machine. Go to any of them at any time.</p>
        <p class="tray">What is sewn lies here, thread by thread. Press a piece to take hold of it.</p>
        <p class="sheet">The step you are at, with the settings that matter most first.</p>
        <p class="reel">The order of sewing. Pull along it, or play it, to watch every stitch.</p>
        <button type="button" class="solid-button" (click)="end()">Begin</button>
      </div>
    }
  `,
  styles: `
    .notes {
      position: fixed;
      inset: 0;
      z-index: 9;
      background: rgb(15 25 24 / 28%);
    }
    p {
      position: absolute;
      width: 218px;
      margin: 0;
      padding: 12px 14px;
      border-radius: 12px;
      background: var(--raised);
      box-shadow: 0 6px 22px rgb(15 25 24 / 25%);
    }
    p::before {
      position: absolute;
      width: 13px;
      height: 13px;
      background: var(--ember);
      content: '';
      transform: rotate(45deg);
    }
    .line {
      top: 74px;
      left: calc(50% - 60px);
    }
    .line::before {
      top: -7px;
      left: 40px;
    }
    .tray {
      top: 190px;
      left: 208px;
    }
    .tray::before {
      top: 20px;
      left: -7px;
    }
    .sheet {
      top: 190px;
      right: 318px;
    }
    .sheet::before {
      top: 20px;
      right: -7px;
    }
    .reel {
      bottom: 124px;
      left: 30%;
    }
    .reel::before {
      bottom: -7px;
      left: 40px;
    }
    button {
      position: absolute;
      top: 50%;
      left: calc(50% - 40px);
    }
    @media (max-width: 860px) {
      .notes {
        display: grid;
        gap: 10px;
        place-content: center;
      }
      p,
      button {
        position: static;
      }
      p::before {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:pointerdown)': 'end()', '(document:keydown)': 'end()' },
})
export class FirstLook {
  private readonly preferences = inject(Preferences);
  private readonly conversion = inject(Conversion);

  /** Once there is something to be looked at. */
  protected readonly shown = computed(() => !this.preferences.lookedRound() && this.conversion.design() !== undefined);

  protected end(): void {
    if (this.shown()) this.preferences.lookedRound.set(true);
  }
}
