import type { Check } from '../check.js';

/** Stitches a square centimetre of sewn cloth: more makes it a board. Stretchy cloth bears less. */
const MOST = { light: 330, usual: 330, firm: 300 } as const;

/** More thread on the whole than the fabric bears. */
export const DENSITY: Check = {
  id: 'density',
  name: 'Density on this fabric',
  why: 'The cloth gets stiff and puckers: make the design larger, or simpler.',
  find: ({ density, figures, fabric }) => {
    const { covers, cellMm } = density();
    let sewn = 0;
    for (const c of covers) if (c > 0.3) sewn++;
    const cm2 = (sewn * cellMm * cellMm) / 100;
    const { stitches } = figures();
    if (cm2 < 0.5) return [];
    const each = stitches / cm2;
    const most = MOST[fabric.underlay];
    if (each <= most) return [];
    return [
      {
        level: 'advice',
        text: `${Math.round(each)} stitches a cm²; ${fabric.name.toLowerCase()} bears ${most}.`,
        pieces: [],
        harm: each / most,
        repairs: [],
      },
    ];
  },
};
