import { overHoop } from '../../machine/refusals.js';
import type { Check } from '../check.js';
import { mm } from '../check.js';

/** What lies outside the hoop that was chosen for the design. */
export const OUT_OF_HOOP: Check = {
  id: 'out-of-hoop',
  name: 'Out of the hoop',
  why: 'The needle would strike the frame.',
  find: ({ whole, recipe }) => {
    const hoop = recipe?.hoop;
    if (!hoop) return [];
    const { overMm, at } = overHoop(whole.stitches, hoop);
    if (overMm <= 0) return [];
    const size = hoop.round ? `${hoop.widthMm} mm round` : `${hoop.widthMm} x ${hoop.heightMm} mm`;
    const text = `It reaches ${mm(overMm)} out of the hoop of ${size}.`;
    return [{ level: 'problem', text, at, pieces: [], harm: overMm, repairs: [] }];
  },
};
