import type { Check } from '../check.js';

const MOST_SHORT = 0.01;

/** Too many stitches that are hardly any. */
export const SHORT_STITCHES: Check = {
  id: 'short-stitches',
  name: 'Short stitches',
  why: 'Short stitches pile up in the cloth, and thread may break.',
  find: ({ figures }) => {
    const { shortStitchShare: share } = figures();
    if (share <= MOST_SHORT) return [];
    const text = `${(share * 100).toFixed(1)} % of the stitches are shorter than 0.3 mm.`;
    return [{ level: 'advice', text, pieces: [], harm: share / MOST_SHORT, repairs: [] }];
  },
};
