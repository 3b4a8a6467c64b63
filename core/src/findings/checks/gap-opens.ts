import { forecastGaps } from '../../forecast/gaps.js';
import { overlapOn, type Fabric } from '../../stitches/fabrics.js';
import type { Recipe } from '../../recipe/recipe.js';
import { mm, type Check } from '../check.js';
import type { Repair } from '../finding.js';

/** A gap is seen from this width on. */
const SEEN_MM = 0.4;
const MOST_FOUND = 30;
/** What lies below reaches under by the widest gap and so much more, but never farther than that. */
const SPARE_MM = 0.15;
const MOST_OVERLAP_MM = 2;

/** Cloth that will show between pieces after the pull. */
export const GAP_OPENS: Check = {
  id: 'gap-opens',
  name: 'Gaps will open',
  why: 'The stitches draw the cloth together, and it shows between pieces.',
  find: ({ design, fabric, recipe }) => {
    if (!design || design.pieces.length < 2) return [];
    const { gaps } = forecastGaps(design.pieces, design.order, design.stitches, fabric);
    const widest = gaps.at(0)?.widthMm ?? 0;
    const repairs = recipe ? repairsOf(recipe.stitches, fabric, widest) : [];
    return gaps
      .filter(({ widthMm }) => widthMm > SEEN_MM)
      .slice(0, MOST_FOUND)
      .map(({ widthMm, x, y }) => ({
        level: 'advice',
        text: `A gap of ${mm(widthMm, 2)} between two pieces.`,
        at: { x, y },
        pieces: [],
        harm: widthMm / SEEN_MM,
        repairs,
      }));
  },
};

/** What closes all gaps: what the fabric asks for, where somebody set less; then as much more overlap as the widest needs. */
function repairsOf({ overlapMm: set, compensationMm }: Recipe['stitches'], fabric: Fabric, widestMm: number): Repair[] {
  const usual = overlapOn(fabric, null);
  const isLess = (set !== null && set < usual) || (compensationMm !== null && compensationMm < fabric.compensationMm);
  const from = isLess ? usual : (set ?? usual);
  const overlapMm = Number(Math.min(MOST_OVERLAP_MM, from + widestMm + SPARE_MM).toFixed(2));
  const more: Repair[] =
    overlapMm > from
      ? [
          {
            id: 'overlap',
            label: `Close the gaps: overlap ${mm(overlapMm, 2)}`,
            safe: true,
            stitches: { overlapMm, ...(isLess ? { compensationMm: null } : {}) },
          },
        ]
      : [];
  if (!isLess) return more;
  const stitches = { overlapMm: null, compensationMm: null };
  return [{ id: 'by-fabric', label: 'Overlap and compensation by the fabric', safe: true, stitches }, ...more];
}
