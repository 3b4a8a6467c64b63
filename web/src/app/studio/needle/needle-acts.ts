import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { HandRow } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { movedRows, rowsOf, withBetween, withoutRows, withPoints, type Between } from './hand-rows';

/** Pieces of more needle points than this are not sewn by hand. */
export const MOST_POINTS = 20_000;

/** Single needle points of the chosen piece: chosen, moved, added, taken away. */
@Injectable()
export class NeedleActs {
  private readonly conversion = inject(Conversion);
  private readonly state = inject(StudioState);
  private readonly pieces = inject(PieceActs);

  /** Whether needle points are worked on. */
  readonly on = signal(false);
  /** Chosen points, by their row. */
  readonly chosen = signal<ReadonlySet<number>>(new Set());
  /** Rows as they were changed last, until the stitches are made from them. */
  private readonly latest = signal<readonly HandRow[] | undefined>(undefined);

  /** The piece whose points they are. */
  readonly piece = computed(() => {
    const selected = this.state.selected();
    const [index] = selected;
    const open = this.on() && this.state.knot() === 'stitches' && selected.size === 1 && !this.conversion.rough();
    return open && this.conversion.design()?.pieces[index ?? -1] ? index : undefined;
  });

  readonly rows = computed((): readonly HandRow[] => {
    const design = this.conversion.design();
    const piece = this.piece();
    if (!design || piece === undefined) return [];
    return this.latest() ?? rowsOf(design, piece);
  });

  constructor() {
    // Another piece, or another step: what was chosen of the last one means nothing there.
    effect(() => {
      const piece = this.piece();
      untracked(() => {
        if (piece === undefined || piece !== this.before) this.chosen.set(new Set());
        this.before = piece;
      });
    });
    effect(() => {
      this.conversion.design();
      untracked(() => this.latest.set(undefined));
    });
  }

  private before: number | undefined;

  toggle(): void {
    this.on.update((on) => !on);
    if (this.on()) this.state.look.set('line');
    this.chosen.set(new Set());
  }

  move(dx: number, dy: number): void {
    if (this.chosen().size > 0) this.put('needle points moved', movedRows(this.rows(), this.chosen(), dx, dy));
  }

  /** @returns whether there was anything to take away */
  remove(): boolean {
    if (this.piece() === undefined || this.chosen().size === 0) return false;
    const left = withoutRows(this.rows(), this.chosen());
    if (left === this.rows()) this.pieces.say('A piece needs two needle points: leave it bare instead.');
    else {
      this.chosen.set(new Set());
      this.put('needle points taken away', left);
    }
    return true;
  }

  add(): void {
    const before = this.rows();
    const made = withPoints(before, this.chosen());
    if (made.length > MOST_POINTS) this.pieces.say(`A piece by hand has ${MOST_POINTS} needle points at most.`);
    else if (made.length > before.length) {
      this.chosen.set(new Set());
      this.put('needle points added', made);
    }
  }

  /** Puts a trim, a jump or a stop after the chosen points, or takes it away. */
  toggleBetween(what: Between): void {
    if (this.chosen().size > 0) this.put(`${what} by hand`, withBetween(this.rows(), this.chosen(), what));
  }

  /** Lets the piece sew itself again. */
  giveBack(): void {
    const piece = this.piece();
    if (piece === undefined) return;
    this.chosen.set(new Set());
    this.latest.set(undefined);
    this.pieces.setRows(piece, undefined);
  }

  private put(label: string, rows: readonly HandRow[]): void {
    const piece = this.piece();
    if (piece === undefined) return;
    if (rows.length > MOST_POINTS) {
      this.pieces.say(`This piece has ${rows.length} needle points, more than can be set by hand.`);
      return;
    }
    this.latest.set(rows);
    this.pieces.setRows(piece, rows, label);
  }
}
