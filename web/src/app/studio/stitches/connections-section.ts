import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { TIES, type Trims } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { PieceActs } from '../pieces/piece-acts';
import { TRAVEL } from '../sheet/settings';
import { SettingsList } from '../sheet/settings-list';
import { StudioState } from '../studio-state';

const TRIM_CHOICES: readonly { readonly id: Trims; readonly name: string }[] = [
  { id: 'beyond', name: 'Beyond a distance' },
  { id: 'always', name: 'At every way' },
  { id: 'never', name: 'Never: jumps stay' },
];
const WAY_CHOICES = [
  { id: 'plan', name: 'As planned' },
  { id: 'cut', name: 'Cut here' },
  { id: 'keep', name: 'Do not cut here' },
  { id: 'lead', name: 'Along a line I draw' },
] as const;

/** How pieces hang together: trims, tie-ins and tie-offs, for the whole design or for chosen pieces. */
@Component({
  selector: 'kite-connections-section',
  imports: [MatCheckboxModule, MatFormFieldModule, MatSelectModule, SettingsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (pieces().length > 0) {
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>Way to it</mat-label>
        <mat-select [value]="way()" (valueChange)="setWay($event)">
          @for (choice of ways; track choice.id) {
            <mat-option [value]="choice.id">{{ choice.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      @if (state.leading()) {
        <p class="note">Draw the way on the cloth, from the piece before to this one.</p>
      }
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>Tie-in and tie-off</mat-label>
        <mat-select [value]="ownTie()" (valueChange)="setOwnTie($event)">
          <mat-option value="design">As the design has it</mat-option>
          @for (tie of ties; track tie.id) {
            <mat-option [value]="tie.id">{{ tie.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <mat-checkbox [checked]="stops()" (change)="acts.setStop(pieces(), $event.checked)">
        Stop the machine before it
      </mat-checkbox>
    } @else if (recipe(); as r) {
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>Trims</mat-label>
        <mat-select [value]="r.order.trims ?? 'beyond'" (valueChange)="setTrims($event)">
          @for (choice of trims; track choice.id) {
            <mat-option [value]="choice.id">{{ choice.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      @if ((r.order.trims ?? 'beyond') === 'beyond') {
        <kite-settings-list [settings]="travel" />
      }
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label>Tie-in and tie-off</mat-label>
        <mat-select [value]="r.order.tie ?? ties[0].id" (valueChange)="setTie($event)">
          @for (tie of ties; track tie.id) {
            <mat-option [value]="tie.id">{{ tie.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <p class="note">{{ tieHint() }}</p>
    }
  `,
  styleUrls: ['../sheet/sheet-parts.scss'],
  styles: `
    :host {
      display: grid;
      gap: 10px;
      padding-top: 4px;
    }
  `,
})
export class ConnectionsSection {
  private readonly store = inject(ProjectStore);
  private readonly conversion = inject(Conversion);
  protected readonly acts = inject(PieceActs);
  protected readonly state = inject(StudioState);
  /** Pieces it is about; none is about the whole design. */
  readonly pieces = input<readonly number[]>([]);

  protected readonly recipe = this.store.view;
  protected readonly trims = TRIM_CHOICES;
  protected readonly ways = WAY_CHOICES;
  protected readonly ties = TIES;
  protected readonly travel = TRAVEL;

  private readonly first = computed(() => this.conversion.design()?.pieces.at(this.pieces()[0] ?? -1));
  protected readonly way = computed(() =>
    this.state.leading() ? 'lead' : (this.first()?.choices.connect?.how ?? 'plan'),
  );
  protected readonly ownTie = computed(() => this.first()?.choices.values['tie'] ?? 'design');
  protected readonly stops = computed(() => this.first()?.stopBefore ?? false);
  protected readonly tieHint = computed(() => {
    const { hint } = TIES.find(({ id }) => id === this.recipe()?.order.tie) ?? TIES[0];
    return `${hint[0].toUpperCase()}${hint.slice(1)}.`;
  });

  protected setWay(how: (typeof WAY_CHOICES)[number]['id']): void {
    this.state.leading.set(how === 'lead');
    if (how !== 'lead') this.acts.connect(this.pieces(), how === 'plan' ? undefined : how);
  }

  protected setOwnTie(tie: string): void {
    this.acts.setOption(this.pieces(), 'tie', tie === 'design' ? undefined : tie);
  }

  protected setTrims(trims: Trims): void {
    this.store.change('trims', ({ order }) => (order.trims = trims));
  }

  protected setTie(tie: string): void {
    this.store.change('tie-in and tie-off', ({ order }) => (order.tie = tie));
  }
}
