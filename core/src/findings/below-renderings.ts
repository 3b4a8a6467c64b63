import type { Design } from '../design/design.js';
import { PIECES_METHOD } from '../photo/methods/index.js';

/** Which pieces of a design lie below a picture that is painted, or sewn in rows: those that are sewn before it where it lies. */
export function belowRenderings({ pieces, pictures, stitches }: Design): (piece: number) => boolean {
  const boxes = pictures.filter(({ method }) => method !== PIECES_METHOD).map(({ box }) => box);
  if (boxes.length === 0) return () => false;
  // What no piece sews is sewn by a rendering.
  let first = stitches.piece.findIndex((piece) => piece >= pieces.length);
  if (first < 0) first = stitches.count;
  const after = new Set(stitches.piece.subarray(first, stitches.count));
  return (index) => {
    const { left, top, right, bottom } = pieces[index].bounds;
    const meets = boxes.some(
      (box) => left < box.left + box.width && right > box.left && top < box.top + box.height && bottom > box.top,
    );
    return meets && !after.has(index);
  };
}
