import { distance, type Points } from '../../geometry/vector.js';
import { reversed } from '../../geometry/polyline.js';
import { motifRun } from '../motif-run.js';
import { motifOf, MOTIFS } from '../motifs.js';
import { OPTION, stitchKind } from '../stitch-kind.js';

/** Small figures one after the other along a line. */
export const MOTIF_LINE = stitchKind({
  id: 'motif-line',
  name: 'Motif line',
  hint: 'Small figures one after the other along the line.',
  family: 'line',
  options: {
    motif: { type: 'choice', label: 'Motif', choices: MOTIFS, usual: 'swell' },
    motifMm: OPTION.mm('Length of a motif', 2, 20, 5),
  },
  sew: ({ runs }, { motif, motifMm }, _ground, { entry }) => {
    const left = runs.slice();
    const out: Points[] = [];
    let at = entry ?? { x: runs[0]?.[0] ?? 0, y: runs[0]?.[1] ?? 0 };
    const startGap = (run: Points): number => distance(run[0], run[1], at.x, at.y);
    while (left.length > 0) {
      const ways = left.flatMap((run, i) => [
        { run, i },
        { run: reversed(run), i },
      ]);
      const best = ways.reduce((a, b) => (startGap(b.run) < startGap(a.run) ? b : a));
      left.splice(best.i, 1);
      const sewn = motifRun(best.run, motifOf(motif), motifMm);
      out.push(sewn);
      at = { x: sewn[sewn.length - 2], y: sewn[sewn.length - 1] };
    }
    return out;
  },
});
