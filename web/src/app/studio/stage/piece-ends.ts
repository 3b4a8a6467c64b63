import { oneOf, STITCH, type Design, type StitchList } from '@open-kite/core';

interface Place {
  readonly x: number;
  readonly y: number;
}

/** Where a piece is entered and left: its first and its last stitch, in mm. */
export interface PieceEnds {
  readonly entry: Place;
  readonly exit: Place;
}

const known = new WeakMap<StitchList, ReadonlyMap<number, PieceEnds>>();

/** Where a piece begins and ends; undefined where it is not sewn. The list is walked once for all pieces. */
export function endsOf(design: Design, piece: number): PieceEnds | undefined {
  const { stitches: list } = oneOf(design);
  let ends = known.get(list);
  if (!ends) {
    const found = new Map<number, PieceEnds>();
    for (let i = 0; i < list.count; i++) {
      if (list.command[i] !== STITCH) continue;
      const exit = { x: list.x[i], y: list.y[i] };
      found.set(list.piece[i], { entry: found.get(list.piece[i])?.entry ?? exit, exit });
    }
    known.set(list, (ends = found));
  }
  return ends.get(piece);
}
