import { forecastGaps, type Gap } from '../../forecast/gaps.js';
import { overlapUnder } from '../../sequence/sew.js';
import { overlapOn } from '../../stitches/fabrics.js';
import { mm, sayOf, type Check } from '../check.js';
import type { Examined } from '../examined.js';
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
  find: (examined) => {
    const { design, fabric } = examined;
    if (!design || design.pieces.length < 2) return [];
    const { gaps } = forecastGaps(design.pieces, design.order, design.stitches, fabric);
    const seen = gaps.filter(({ widthMm }) => widthMm > SEEN_MM).slice(0, MOST_FOUND);
    return seen.map((gap) => ({
      level: 'advice',
      text: `A gap of ${mm(gap.widthMm, 2)} between two pieces.`,
      at: { x: gap.x, y: gap.y },
      pieces: [],
      harm: gap.widthMm / SEEN_MM,
      repairs: repairsOf(examined, gap, seen),
    }));
  },
};

/** What closes a gap: what the fabric asks for, where somebody set less; then more overlap of the piece that lies below it. */
function repairsOf(examined: Examined, gap: Gap, all: readonly Gap[]): Repair[] {
  const { recipe, fabric } = examined;
  if (!recipe) return [];
  const { overlapMm: set, compensationMm } = recipe.stitches;
  const usual = overlapOn(fabric, null);
  const isLess = (set !== null && set < usual) || (compensationMm !== null && compensationMm < fabric.compensationMm);
  if (isLess) {
    const stitches = { overlapMm: null, compensationMm: null };
    return [{ id: 'by-fabric', label: 'Overlap and compensation by the fabric', safe: true, stitches }];
  }
  return moreUnder(examined, gap.under, Math.max(...all.map((g) => (g.under === gap.under ? g.widthMm : 0))));
}

/** Lets one piece reach so much farther under those sewn after it; what lies elsewhere gets no more thread. */
function moreUnder(examined: Examined, under: number, widestMm: number): Repair[] {
  const { design, recipe, fabric } = examined;
  const piece = design?.pieces.at(under);
  if (!piece || !recipe || under < 0) return [];
  const { compensationMm, overlapMm } = recipe.stitches;
  const from = overlapUnder(piece, { stitches: { fabric, compensationMm }, overlapMm });
  const wanted = Number(Math.min(MOST_OVERLAP_MM, from + widestMm + SPARE_MM).toFixed(2));
  if (wanted <= from) return [];
  const set = { ...piece.choices.values, overlapMm: wanted };
  return sayOf(
    examined,
    piece,
    { id: 'overlap', label: `Close the gap: overlap ${mm(wanted, 2)}`, safe: true },
    (at) => ({ kind: 'stitch', at, set }),
    // How stitches are laid is said of the nearest part alone.
    () => true,
  );
}
