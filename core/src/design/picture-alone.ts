import { JUMP, STITCH } from '../sequence/stitch-list.js';
import type { Sewing } from '../sequence/sewing.js';
import type { Design } from './design.js';
import { oneOf } from './in-hoop.js';

/** A design without the outlines around its pictures: they are no part of what is compared with one. */
export const pictureAlone = (design: Design): Sewing =>
  withoutPieces(oneOf(design), new Set(design.pieces.flatMap(({ id, origin }) => (origin === 'outline' ? [id] : []))));

/** A design without some pieces, by their names. Their stitches become jumps, so that everything else lies where it lay. */
export function withoutPieces(sewing: Sewing, ids: ReadonlySet<string>): Sewing {
  const gone = new Set(sewing.pieceIds.flatMap((id, i) => (ids.has(id) ? [i] : [])));
  if (gone.size === 0) return sewing;
  const { stitches } = sewing;
  const command = stitches.command.slice();
  for (let i = 0; i < stitches.count; i++) {
    if (command[i] === STITCH && gone.has(stitches.piece[i])) command[i] = JUMP;
  }
  return { ...sewing, stitches: { ...stitches, command } };
}
