import { inject, Injectable, signal } from '@angular/core';
import {
  common,
  curvePath,
  edgeOf,
  fitRing,
  newShape,
  offset,
  ringsOf,
  rounded,
  subtract,
  tidyRings,
  unite,
  type Piece,
  type PieceDecision,
  type Points,
  type ShapeObject,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { removeObjects } from '../objects/object-acts';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { freshShapeId } from '../../shared/fresh-name';
import { PlaceActs } from './place-acts';

/** What two or more shapes make together; with an overlap the lowest reaches under the others. */
export type ShapeSum = 'combine' | 'subtract' | 'cut' | 'overlap';

const LABELS: Readonly<Record<ShapeSum, string>> = {
  combine: 'combined shapes',
  subtract: 'subtracted shapes',
  cut: 'cut to what lies below',
  overlap: 'overlap of shapes',
};

const FIRST_OVERLAP_MM = 0.6;

/** Makes new shapes of chosen ones: put together, the upper ones taken away, or what they share. */
@Injectable()
export class ShapeActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly state = inject(StudioState);
  private readonly pieces = inject(PieceActs);
  private readonly place = inject(PlaceActs);
  /** How far the lowest shape reaches under the others, in mm. */
  readonly overlapMm = signal(FIRST_OVERLAP_MM);

  /** Whether what is chosen can be reckoned with: two pieces or more. */
  can(): boolean {
    return this.state.selected().size > 1;
  }

  make(sum: ShapeSum): void {
    const design = this.conversion.design();
    const all = design?.pieces ?? [];
    const chosen = [...this.state.selected()].flatMap((i) => all.at(i) ?? []).sort((a, b) => a.layer - b.layer);
    const [lowest, ...upper] = chosen;
    if (!design || !lowest || upper.length === 0) return;
    const rings = this.rings(sum, lowest, upper);
    if (rings.length === 0) {
      this.place.say(sum === 'cut' ? 'They have nothing in common.' : 'Nothing is left of it.');
      return;
    }
    const thread = design.threads[lowest.thread];
    const paint = this.pieces.choiceOf(lowest.thread) ?? { hex: thread.hex };
    const paths = rings.map((ring) => rounded(curvePath(fitRing(ring), true, (x, y) => ({ u: x, v: y }))));
    const made: ShapeObject = {
      ...newShape(
        freshShapeId(this.store.recipe()?.objects),
        null,
        paths,
        'like' in paint ? { hex: thread.hex } : paint,
      ),
      as: lowest.chosen ? lowest.kind : 'auto',
    };
    const objects = this.store.recipe()?.objects ?? [];
    // Upper shapes that were only subtracted, or reached under, stay; everything else becomes the new shape.
    const used = sum === 'subtract' || sum === 'overlap' ? [lowest] : chosen;
    const isShape = ({ object }: Piece): boolean => objects.some(({ id, kind }) => id === object && kind !== 'picture');
    const gone = used.filter(isShape).map(({ object }) => object);
    const bare = used
      .filter((piece) => !isShape(piece))
      .map((piece): PieceDecision => ({ kind: 'bare', at: this.pieces.refOf(piece) }));
    this.store.changeWhole(LABELS[sum], (recipe) => {
      const at = recipe.objects.findLastIndex(({ id }) => used.some(({ object }) => object === id));
      // What reaches under others of the same picture lies below that, and is not cut at their edges.
      const below = sum === 'overlap' && upper.some(({ object }) => object === lowest.object);
      recipe.objects.splice(below ? at : at + 1, 0, made as Draft<ShapeObject>);
      recipe.decisions.push(...(bare as typeof recipe.decisions));
      if (sum === 'overlap') recipe.decisions.push({ kind: 'hidden', at: { object: made.id }, cut: false });
      removeObjects(recipe, gone);
    });
    this.state.chooseLater([made.id]);
  }

  private rings(sum: ShapeSum, lowest: Piece, upper: readonly Piece[]): Points[] {
    const ringsOf = (piece: Piece): Points[] => this.wholeRings(piece);
    if (sum === 'overlap') {
      const own = ringsOf(lowest);
      const over = upper.map(ringsOf).reduce<Points[]>((rings, other) => unite(rings, other), []);
      return unite(own, common(offset(own, this.overlapMm()), over));
    }
    return upper.reduce<Points[]>((rings, piece) => {
      const other = ringsOf(piece);
      return sum === 'combine'
        ? unite(rings, other)
        : sum === 'subtract'
          ? subtract(rings, other)
          : common(rings, other);
    }, ringsOf(lowest));
  }

  /** What a piece covers by itself: of a shape of the user's own also what is not sewn since others lie over it. */
  private wholeRings(piece: Piece): Points[] {
    const objects = this.store.recipe()?.objects ?? [];
    const own = objects.find(({ id }) => id === piece.object);
    const pieces = this.conversion.design()?.pieces.filter(({ object }) => object === piece.object) ?? [];
    const isWhole =
      own?.kind === 'shape' && pieces.length === 1 && own.copies.count === 1 && own.paths.every(({ closed }) => closed);
    return isWhole ? tidyRings(edgeOf(objects, own.id) ?? []) : ringsOf(piece);
  }
}
