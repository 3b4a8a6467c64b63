import { JUMP, TRIM } from '../../sequence/stitch-list.js';
import { mm, type Check } from '../check.js';

/** The thread goes on so near that it need not have been cut. */
const NEAR_MM = 2;
const LEAST = 4;

/** Trims that only cost time. */
export const NEEDLESS_TRIM: Check = {
  id: 'needless-trim',
  name: 'Needless trims',
  why: 'Every trim takes about 7 seconds.',
  find: ({ sewing: { stitches: list }, recipe }) => {
    const places: { x: number; y: number; gap: number }[] = [];
    for (let i = 0; i < list.count; i++) {
      if (list.command[i] !== TRIM) continue;
      const next = i + 1;
      const goesOn = next < list.count && list.command[next] === JUMP && list.thread[next] === list.thread[i];
      if (!goesOn) continue;
      const gap = Math.sqrt((list.x[next] - list.x[i]) ** 2 + (list.y[next] - list.y[i]) ** 2);
      if (gap < NEAR_MM) places.push({ x: list.x[i], y: list.y[i], gap });
    }
    if (places.length < LEAST) return [];
    const trimOverMm = recipe?.order.trimOverMm ?? 0;
    const wider = Math.min(10, Number((trimOverMm + 2).toFixed(1)));
    return [
      {
        level: 'waste',
        text: `The thread is cut ${places.length} times although it goes on within ${mm(NEAR_MM, 0)}.`,
        at: { x: places[0].x, y: places[0].y },
        pieces: [],
        harm: places.length / LEAST,
        cost: { trims: places.length },
        repairs:
          recipe && wider > trimOverMm
            ? [{ id: 'trim-later', label: `Cut beyond ${mm(wider)} only`, safe: true, order: { trimOverMm: wider } }]
            : [],
      },
    ];
  },
};
