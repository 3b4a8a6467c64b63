import {
  edgeOf,
  flattenRing,
  isInside,
  PIECES_METHOD,
  type DesignObject,
  type Design,
  type Piece,
} from '@open-kite/core';

const rings = new WeakMap<Piece, number[][]>();

function ringsOf(piece: Piece): number[][] {
  let known = rings.get(piece);
  if (!known) rings.set(piece, (known = piece.outline.map((curve) => flattenRing(curve, 0.1))));
  return known;
}

/** The piece sewn last at a place in mm, if there is one. */
export function pieceAt(design: Design, x: number, y: number): number | undefined {
  for (let k = design.order.length - 1; k >= 0; k--) {
    const index = design.order[k];
    const { bounds } = design.pieces[index];
    if (x < bounds.left || x > bounds.right || y < bounds.top || y > bounds.bottom) continue;
    if (isInside(ringsOf(design.pieces[index]), x, y)) return index;
  }
  return undefined;
}

/** The object at a place in mm that has no pieces: a picture that is rendered, or a stitch list. */
export function wholeAt(
  design: Design | undefined,
  objects: readonly DesignObject[],
  x: number,
  y: number,
): string | undefined {
  const list = objects.findLast((object) => {
    if (object.kind !== 'stitches' || object.hidden) return false;
    return isInside(edgeOf(objects, object.id) ?? [], x, y);
  });
  if (list) return list.id;
  return design?.pictures.findLast(({ method, box: { left, top, width, height } }) => {
    const inside = x >= left && x <= left + width && y >= top && y <= top + height;
    return inside && method !== PIECES_METHOD;
  })?.object;
}
