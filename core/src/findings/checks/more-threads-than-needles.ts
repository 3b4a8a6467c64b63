import type { Check } from '../check.js';

/** More threads than the machine the design is ordered for has needles. */
export const MORE_THREADS_THAN_NEEDLES: Check = {
  id: 'more-threads-than-needles',
  name: 'More threads than needles',
  why: 'Somebody has to change threads in the middle of the sewing.',
  find: ({ sewing: { stitches }, recipe }) => {
    const needles = recipe?.order.needles ?? 1;
    if (needles <= 1) return [];
    const used = new Set(stitches.thread.subarray(0, stitches.count)).size;
    if (used <= needles) return [];
    const text = `${used} threads on a machine of ${needles} needles.`;
    return [{ level: 'advice', text, pieces: [], harm: used - needles, repairs: [] }];
  },
};
