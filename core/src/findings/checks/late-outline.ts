import { sayOf, type Check } from '../check.js';

/** Cloth that hardly stretches holds still. */
const LEAST_STRETCH = 10;
/** So much of the design is sewn between a fill and its outline. */
const LEAST_SHARE = 0.35;
const LEAST_STITCHES = 2500;
/** An outline shares so many mm with what it outlines. */
const LEAST_BORDER_MM = 25;
const WIDEST_MM = 3;

/** An outline that comes long after what it outlines, on cloth that moves. */
export const LATE_OUTLINE: Check = {
  id: 'late-outline',
  name: 'Outline comes late',
  why: 'Until then the cloth has moved, and the outline lies beside its fill.',
  find: (examined) => {
    const { design, fabric } = examined;
    if (!design || fabric.stretchPercent < LEAST_STRETCH) return [];
    const counts = examined.pieceStitches();
    const total = counts.reduce((a, b) => a + b, 0);
    const place = new Map(design.order.map((index, k) => [index, k]));
    const sewn = [0];
    for (const index of design.order) sewn.push(sewn[sewn.length - 1] + (counts[index] ?? 0));
    return design.pieces.flatMap((line, i) => {
      if (line.family === 'area' || line.widthMm > WIDEST_MM || line.role !== 'plain') return [];
      const at = place.get(i) ?? 0;
      const fills = line.neighbours.filter(
        ({ piece, borderMm }) =>
          borderMm >= LEAST_BORDER_MM && design.pieces[piece].family === 'area' && (place.get(piece) ?? at) < at,
      );
      if (fills.length === 0) return [];
      const last = Math.max(...fills.map(({ piece }) => place.get(piece) ?? 0));
      const between = sewn[at] - sewn[last + 1];
      if (between < LEAST_STITCHES || between < LEAST_SHARE * total) return [];
      const next = design.pieces.at(design.order[last + 1] ?? -1);
      const before = next && examined.refOf(next);
      return [
        {
          level: 'advice' as const,
          text: `${between} stitches lie between a fill and its outline.`,
          at: line.anchor,
          pieces: [line.id, ...fills.map(({ piece }) => design.pieces[piece].id)],
          harm: between / LEAST_STITCHES,
          repairs: before
            ? sayOf(examined, line, { id: 'sooner', label: 'Sew it right after its fill', safe: true }, (ref) => ({
                kind: 'order',
                at: ref,
                before,
              }))
            : [],
        },
      ];
    });
  },
};
