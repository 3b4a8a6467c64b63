import { STITCH, type Design, type StitchList } from '@open-kite/core';

/** Rows of the stitch list a piece is sewn in: its first and its last stitch. */
export interface PieceEnds {
  readonly first: number;
  readonly last: number;
}

const known = new WeakMap<StitchList, ReadonlyMap<number, PieceEnds>>();

/** Where a piece begins and ends; undefined where it is not sewn. The list is walked once for all pieces. */
export function endsOf({ stitches: list }: Design, piece: number): PieceEnds | undefined {
  let ends = known.get(list);
  if (!ends) {
    const found = new Map<number, PieceEnds>();
    for (let i = 0; i < list.count; i++) {
      if (list.command[i] !== STITCH) continue;
      found.set(list.piece[i], { first: found.get(list.piece[i])?.first ?? i, last: i });
    }
    known.set(list, (ends = found));
  }
  return ends.get(piece);
}
