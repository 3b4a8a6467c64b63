import { forecastGaps } from '../../forecast/gaps.js';
import { overlapOf } from '../../stitches/fabrics.js';
import { mm, type Check } from '../check.js';

/** A gap is seen from this width on. */
const SEEN_MM = 0.4;

/** Cloth that will show between pieces after the pull. */
export const GAP_OPENS: Check = {
  id: 'gap-opens',
  name: 'Gaps will open',
  why: 'The stitches draw the cloth together, and it shows between pieces.',
  find: ({ design, fabric, recipe }) => {
    if (!design || design.pieces.length < 2) return [];
    const { widestMm, at, bareMm2 } = forecastGaps(design.pieces, design.order, design.stitches, fabric);
    if (widestMm <= SEEN_MM) return [];
    const now = recipe?.stitches.overlapMm ?? overlapOf(fabric.compensationMm);
    const overlapMm = Number(Math.min(2, now + 0.3).toFixed(2));
    return [
      {
        level: 'advice',
        text: `A gap of ${mm(widestMm, 2)} between two pieces.`,
        at,
        pieces: [],
        harm: widestMm / SEEN_MM,
        cost: { mm2: bareMm2 },
        repairs: recipe
          ? [{ id: 'overlap', label: `Overlap ${mm(overlapMm, 2)}`, safe: true, stitches: { overlapMm } }]
          : [],
      },
    ];
  },
};
