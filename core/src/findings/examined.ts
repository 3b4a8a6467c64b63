import type { Design } from '../design/design.js';
import { oneOf } from '../design/in-hoop.js';
import { objectFrame, wholeMm2Of } from '../objects/frames.js';
import { refOfPiece } from '../pieces/find-again.js';
import type { Piece } from '../pieces/piece.js';
import type { PieceRef } from '../pieces/piece-ref.js';
import type { Recipe } from '../recipe/recipe.js';
import { figuresOf, type SewingFigures } from '../sequence/figures.js';
import { fabricUnder, type Sewing } from '../sequence/sewing.js';
import { densityOf, type DensityMap } from '../sewn-look/density.js';
import { segmentsOf, type Segments } from '../sewn-look/segments.js';
import type { Fabric } from '../stitches/fabrics.js';
import { belowRenderings } from './below-renderings.js';
import { surfaceOf, type Surface } from './surface.js';
import { visibleShares, type Shown } from './visible.js';

/** A design as checks see it; what several of them need is made once, when the first asks. */
export interface Examined {
  readonly sewing: Sewing;
  /** All that lies in the hoop: several of the design, where that was said. */
  readonly whole: Sewing;
  /** What is known beyond the stitches; a stitch list from outside has neither. */
  readonly design?: Design;
  readonly recipe?: Recipe;
  readonly fabric: Fabric;
  readonly figures: () => SewingFigures;
  readonly segments: () => Segments;
  readonly density: () => DensityMap;
  readonly shown: () => Shown;
  /** What is seen on top; undefined where nothing is known of pieces. */
  readonly surface: () => Surface | undefined;
  /** What a piece is called in decisions; undefined where there is no recipe. */
  readonly refOf: (piece: Piece) => PieceRef | undefined;
  /** Stitches of each piece of the stitch list. */
  readonly pieceStitches: () => Uint32Array;
}

/** Gets a design ready for the checks. */
export function examine(whole: Sewing, several?: Design, recipe?: Recipe): Examined {
  // What is wrong with one is wrong with all of them, and said once.
  const design = several && oneOf(several);
  const sewing = design && whole === several ? design : whole;
  const segments = once(() => segmentsOf(sewing.stitches));
  return {
    sewing,
    whole,
    design,
    recipe,
    fabric: fabricUnder(sewing),
    figures: once(() => figuresOf(sewing.stitches, sewing.threads.length)),
    segments,
    density: once(() => densityOf(segments())),
    shown: once(() => visibleShares(design?.pieces ?? [], design?.order ?? [])),
    surface: once(() =>
      design && design.pieces.length > 0
        ? surfaceOf(design.pieces, design.order, segments(), recipe && belowRenderings(design, recipe))
        : undefined,
    ),
    refOf: (piece) => {
      if (!recipe || !design) return undefined;
      const frame = objectFrame(recipe.objects, piece.object);
      const wholeMm2 = (object: string): number => wholeMm2Of(recipe.objects, object);
      const first = design.pieces.at(piece.partOf) ?? piece;
      return refOfPiece(first, { wholeMm2, colours: design.colours }, (x, y) => frame.toFrame(x, y));
    },
    pieceStitches: once(() => {
      const { stitches: list } = sewing;
      const counts = new Uint32Array(sewing.pieceIds.length);
      for (let i = 0; i < list.count; i++) if (list.piece[i] < counts.length) counts[list.piece[i]]++;
      return counts;
    }),
  };
}

function once<T>(work: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: work() }).value;
}
