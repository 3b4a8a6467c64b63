import { threadRunsOf } from '../../sequence/figures.js';
import { layering, threadRuns } from '../../sequence/order.js';
import type { Check } from '../check.js';

/** Designs of more pieces take too long to order anew for a finding. */
const MOST_PIECES = 400;

/** More thread changes than the layering asks for. */
export const THREAD_CHANGES: Check = {
  id: 'thread-changes',
  name: 'Thread changes',
  why: 'Every thread change stops the machine.',
  find: ({ sewing, design, recipe }) => {
    if (!design || design.pieces.length === 0 || design.pieces.length > MOST_PIECES) return [];
    if (design.pictures.some(({ method }) => method !== 'pieces')) return [];
    const runs = threadRunsOf(sewing.stitches).length;
    const least = threadRuns(design.pieces, layering(design.pieces)).length;
    if (runs <= least) return [];
    const moved = recipe?.decisions.some(({ kind }) => kind === 'order') === true;
    return [
      {
        level: 'waste',
        text: `The thread is changed ${runs - 1} times; ${least - 1} would do${moved ? ' without what you moved' : ''}.`,
        pieces: [],
        harm: runs / least,
        cost: { changes: runs - least },
        repairs:
          recipe && recipe.order.needles > 1 && !moved
            ? [{ id: 'one-needle', label: 'Order for few changes', safe: true, order: { needles: 1 } }]
            : [],
      },
    ];
  },
};
