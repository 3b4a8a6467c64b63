import { flattenRing, isInside, PIECES_METHOD, type Design, type Piece } from '@open-kite/core';

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

/** The picture at a place in mm that is sewn without pieces. */
export function wholeAt(design: Design | undefined, x: number, y: number): string | undefined {
  return design?.pictures.findLast(({ method, box: { left, top, width, height } }) => {
    const inside = x >= left && x <= left + width && y >= top && y <= top + height;
    return inside && method !== PIECES_METHOD;
  })?.object;
}
