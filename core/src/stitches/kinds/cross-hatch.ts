import type { Points } from '../../geometry/vector.js';
import { createInsideTest } from '../../trace/inside-test.js';
import { keepInside } from '../keep-inside.js';
import { OPTION, stitchKind } from '../stitch-kind.js';
import { tatamiWhole } from '../tatami-whole.js';

/** Two layers of open rows across each other; the cloth shows between them. */
export const CROSS_HATCH = stitchKind({
  id: 'cross-hatch',
  name: 'Cross-hatch',
  hint: 'Two layers of open rows across each other; the cloth shows between them.',
  family: 'area',
  options: {
    openMm: OPTION.mm('Distance of the rows', 1, 8, 2.4),
    fillStitchMm: OPTION.fillStitch,
    angle: { ...OPTION.angle, usual: 45 },
    crossing: { type: 'number', label: 'Rows cross at', least: 20, most: 90, step: 1, unit: '°', usual: 90 },
  },
  sew: ({ rings }, { openMm, fillStitchMm, angle, crossing }, _ground, { entry, exit }) => {
    const out: Points[] = [];
    let from = entry;
    const isIn = createInsideTest(rings);
    for (const turn of [-crossing / 2, crossing / 2]) {
      const last = turn > 0;
      const settings = { angle: angle + turn, spacingMm: openMm, stitchLengthMm: fillStitchMm, compensationMm: 0 };
      for (const run of tatamiWhole(rings, { ...settings, entry: from, exit: last ? exit : undefined })) {
        out.push(keepInside(run, rings, isIn));
        from = { x: run[run.length - 2], y: run[run.length - 1] };
      }
    }
    return out;
  },
});
