import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import type { SewnThread } from '@open-kite/contract';
import { threadKey } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import { NumberField } from '../../shared/number-field';
import { Preferences } from '../../shared/preferences';

const UNDO_MS = 9000;
const [LEAST_M, MOST_M] = [10, 20_000];

/** What was sewn is taken off the drawer, when wished: metres of the spools in use, and spools that are used up by that. */
@Component({
  selector: 'kite-drawer-section',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sewn().length > 0) {
      <div class="two">
        <kite-number-field
          label="A spool holds"
          unit=" m"
          [digits]="0"
          [min]="least"
          [max]="most"
          [value]="preferences.spoolM()"
          (changed)="preferences.spoolM.set($event)"
        />
        <button type="button" class="solid-button second" [disabled]="busy() || stale()" (click)="take()">
          {{ busy() ? 'One moment …' : 'Take it off the drawer' }}
        </button>
      </div>
      <p class="note">Once it is sewn: {{ metres().toFixed(1) }} m of what lies in the drawer.</p>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
})
export class DrawerSection {
  private readonly conversion = inject(Conversion);
  private readonly cupboard = inject(Cupboard);
  private readonly snack = inject(MatSnackBar);
  protected readonly preferences = inject(Preferences);
  protected readonly least = LEAST_M;
  protected readonly most = MOST_M;
  protected readonly stale = this.conversion.stale;
  protected readonly busy = signal(false);

  /** Threads of the design of which there are spools, and how much of each is sewn. */
  protected readonly sewn = computed((): SewnThread[] => {
    const lengths = this.conversion.figures()?.threads ?? [];
    return (this.conversion.design()?.threads ?? []).flatMap(({ chart, code }, i) => {
      const spools = this.cupboard.entries().get(threadKey(chart, code))?.spools ?? 0;
      const metres = lengths[i]?.lengthM ?? 0;
      return spools > 0 && metres > 0 ? [{ chart, code, metres }] : [];
    });
  });
  protected readonly metres = computed(() => this.sewn().reduce((sum, { metres }) => sum + metres, 0));

  protected async take(): Promise<void> {
    const sewn = this.sewn();
    const spoolM = this.preferences.spoolM();
    const fewer = await this.attempt(() => this.cupboard.takeOff(sewn, spoolM));
    if (fewer === undefined) return;
    const said = fewer === 0 ? 'no spool is used up' : `${fewer} ${fewer === 1 ? 'spool' : 'spools'} fewer`;
    this.snack
      .open(`${this.metres().toFixed(1)} m were taken off: ${said}.`, 'Undo', { duration: UNDO_MS })
      .onAction()
      .subscribe(() => {
        const back = sewn.map((thread) => ({ ...thread, metres: -thread.metres }));
        void this.attempt(() => this.cupboard.takeOff(back, spoolM));
      });
  }

  private async attempt(act: () => Promise<number>): Promise<number | undefined> {
    this.busy.set(true);
    try {
      return await act();
    } catch (error) {
      this.snack.open(`The drawer was not changed: ${(error as Error).message}.`, undefined, { duration: 7000 });
      return undefined;
    } finally {
      this.busy.set(false);
    }
  }
}
