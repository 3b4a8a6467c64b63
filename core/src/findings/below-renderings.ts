import type { Design } from '../design/design.js';
import { PIECES_METHOD } from '../photo/methods/index.js';
import type { Recipe } from '../recipe/recipe.js';
import { renderingsBelow } from '../sequence/order.js';

/** Which pieces of a design lie below a picture that is painted, or sewn in rows. */
export function belowRenderings({ pieces, pictures }: Design, { objects }: Recipe): (piece: number) => boolean {
  const renderings = pictures.filter(({ method }) => method !== PIECES_METHOD);
  const heights = renderingsBelow(objects, new Set(renderings.map(({ object }) => object)));
  return (index) => {
    const { object, bounds } = pieces[index];
    const { left, top, right, bottom } = bounds;
    return renderings.some(
      ({ object: rendering, box }) =>
        heights[object] < heights[rendering] &&
        left < box.left + box.width &&
        right > box.left &&
        top < box.top + box.height &&
        bottom > box.top,
    );
  };
}
