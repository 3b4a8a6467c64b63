import { alongRings } from '../../geometry/along-rings.js';
import { isInside, reversed } from '../../geometry/polyline.js';
import { direction, distance, turnPoints, type Points } from '../../geometry/vector.js';
import { motifRun } from '../motif-run.js';
import { motifOf, MOTIFS } from '../motifs.js';
import { runAlong } from '../running.js';
import { scanRows } from '../scan-rows.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** Air between rows of motifs, in heights of one. */
const AIR = 1.35;

/** Rows of small figures; the needle goes from row to row along the outline. */
export const MOTIF_FILL = stitchKind({
  id: 'motif-fill',
  name: 'Motif fill',
  hint: 'Rows of small figures with the cloth between them.',
  family: 'area',
  options: {
    motif: { type: 'choice', label: 'Motif', choices: MOTIFS, usual: 'kites' },
    motifMm: OPTION.mm('Length of a motif', 2, 20, 5),
    angle: OPTION.angle,
  },
  sew: ({ rings }, { motif, motifMm, angle }, { runStitchMm }, { entry }) => {
    const figure = motifOf(motif);
    const [to, back] = [direction(-angle), direction(angle)];
    const rows = scanRows(
      rings.map((ring) => turnPoints(ring, to)),
      figure.height * motifMm * AIR,
    );
    const left = rows.parts
      .filter((part) => part.right - part.left >= motifMm * 0.7)
      .map((part) => turnPoints([part.left, rows.y[part.row], part.right, rows.y[part.row]], back));
    const out: Points = [];
    let at = entry;
    while (left.length > 0) {
      let best = { index: 0, run: left[0], gap: Infinity };
      left.forEach((row, index) => {
        for (const run of [row, reversed(row)]) {
          const gap = at ? distance(run[0], run[1], at.x, at.y) : index;
          if (gap < best.gap) best = { index, run, gap };
        }
      });
      left.splice(best.index, 1);
      const sewn = motifRun(best.run, figure, motifMm, (x, y) => isInside(rings, x, y));
      if (out.length > 0) {
        const way = alongRings(rings, { x: out[out.length - 2], y: out[out.length - 1] }, { x: sewn[0], y: sewn[1] });
        const stitched = runAlong(way, runStitchMm);
        for (let i = 2; i < stitched.length - 2; i++) out.push(stitched[i]);
      }
      for (const v of sewn) out.push(v);
      at = { x: out[out.length - 2], y: out[out.length - 1] };
    }
    return out.length > 0 ? [out] : [];
  },
});
