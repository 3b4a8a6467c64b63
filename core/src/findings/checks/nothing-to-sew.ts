import type { Check } from '../check.js';

/** A design without a stitch. */
export const NOTHING_TO_SEW: Check = {
  id: 'nothing-to-sew',
  name: 'Nothing to sew',
  why: 'Everything is bare: the machine would do nothing.',
  find: ({ figures }) =>
    figures().stitches > 0
      ? []
      : [{ level: 'problem', text: 'There is nothing to sew.', pieces: [], harm: 1, repairs: [] }],
};
