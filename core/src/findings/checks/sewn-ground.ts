import type { Check } from '../check.js';

const LEAST_SHARE = 0.1;

/** A plain ground that is sewn although it could stay bare. */
export const SEWN_GROUND: Check = {
  id: 'sewn-ground',
  name: 'Ground is sewn',
  why: 'The cloth can be the ground.',
  find: (examined) => {
    const { design, recipe } = examined;
    if (!design || !recipe) return [];
    return design.pictures.flatMap(({ object, plainGround, groundColour, method }) => {
      const picture = recipe.objects.find(({ id }) => id === object);
      if (!plainGround || groundColour < 0 || method !== 'pieces' || picture?.kind !== 'picture') return [];
      if (picture.picture.dropGround) return [];
      const own = design.pieces.flatMap(({ colour }, i) => (colour === groundColour ? [i] : []));
      const stitches = own.reduce((sum, i) => sum + examined.pieceStitches()[i], 0);
      const share = stitches / Math.max(1, examined.figures().stitches);
      if (share < LEAST_SHARE) return [];
      return [
        {
          level: 'waste' as const,
          text: `The plain ground takes ${Math.round(share * 100)} % of all stitches.`,
          at: design.pieces[own[0]].anchor,
          pieces: own.map((i) => design.pieces[i].id),
          harm: share / LEAST_SHARE,
          cost: { stitches },
          repairs: [{ id: 'bare-ground', label: 'Leave the ground bare', safe: false, bareGround: [object] }],
        },
      ];
    });
  },
};
