import { LIMITS } from '../../settings/limits.js';
import type { Check } from '../check.js';

/** Rows reach over the edge of the picture by their compensation: a picture of the largest size is still fine. */
const REACH_MM = 1;

/** A design no hoop holds. */
export const TOO_LARGE: Check = {
  id: 'too-large',
  name: 'Out of every hoop',
  why: 'No hoop holds it.',
  find: ({ figures }) => {
    const { widthMm, heightMm } = figures();
    const most = LIMITS.widthMm[1];
    const longest = Math.max(widthMm, heightMm);
    if (longest <= most + REACH_MM) return [];
    const text = `${widthMm} x ${heightMm} mm; at most ${most} x ${most} mm can be sewn.`;
    return [{ level: 'problem', text, pieces: [], harm: longest / most, repairs: [] }];
  },
};
