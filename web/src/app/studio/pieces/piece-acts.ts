import { inject, Injectable } from '@angular/core';
import { finishedSize, hoopToSource, type PieceDecision } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { StudioState } from '../studio-state';

/** What can be done to single pieces; every act is a decision in the recipe. */
@Injectable()
export class PieceActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);

  /** Leaves pieces bare, by their index; the others keep their shapes. */
  leaveBare(pieces: Iterable<number>): void {
    const design = this.conversion.design();
    const placement = this.store.recipe()?.picture;
    if (!design || !placement || this.conversion.rough()) return;
    const { widthMm, heightMm } = finishedSize(placement);
    const decisions = [...pieces]
      .filter((i) => i < design.pieces.length)
      .map((i): PieceDecision => {
        const piece = design.pieces[i];
        const { u, v } = hoopToSource(placement, piece.anchor.x, piece.anchor.y);
        const { hex } = design.colours[piece.colour].anchor;
        const share = Math.min(1, piece.areaMm2 / (widthMm * heightMm));
        return { kind: 'bare', at: { hex, u, v, share } };
      });
    if (decisions.length === 0) return;
    this.state.select(undefined, false);
    this.store.change(decisions.length === 1 ? 'piece left bare' : 'pieces left bare', (recipe) => {
      recipe.pieces.decisions = [...recipe.pieces.decisions, ...decisions];
    });
  }

  /** Takes decisions back, by their place in the recipe. */
  forget(label: string, indices: readonly number[]): void {
    this.store.change(label, (recipe) => {
      recipe.pieces.decisions = recipe.pieces.decisions.filter((_, i) => !indices.includes(i));
    });
  }
}
