import type { Points } from '../geometry/vector.js';
import { joinStretches } from './join-stretches.js';
import type { Layer } from './methods/render-method.js';
import { samplePlate, SEWN_SHARE, type Plate } from './plate.js';
import { ROW_STEP_MM, rowLines, stretchesOf } from './rows/row-lines.js';

const SPACING_MM = 0.4;
const STITCH_MM = 4;
/** Needle points of neighbouring rows lie this far from each other along the row: no line across is seen. */
const OFFSET_MM = 1.5;
/** Stretches shorter than this are not sewn. */
const SHORTEST_MM = 1.2;

/** Fills everything that is to be sewn with one thread, as a ground for others: close rows of long stitches. */
export function groundRows(plate: Plate, thread: number, angle: number, trimOverMm: number): Layer {
  const sample = new Float32Array(4);
  const every = Math.round(STITCH_MM / ROW_STEP_MM);
  const stretches: Points[] = [];
  rowLines(plate, 'straight', { spacingMm: SPACING_MM, angle }).forEach(({ x, y }, row) => {
    const isSewn = (i: number): boolean => {
      samplePlate(plate, x[i], y[i], sample);
      return sample[3] >= SEWN_SHARE;
    };
    const first = Math.round((row * OFFSET_MM) / ROW_STEP_MM) % every;
    for (const [from, to] of stretchesOf(x.length, isSewn)) {
      if ((to - from) * ROW_STEP_MM < SHORTEST_MM) continue;
      const points: Points = [x[from], y[from]];
      // Needle points at the rows' own places, but none right beside an end.
      for (let i = first; i < to; i += every) {
        if (i - from > every / 4 && to - i > every / 4) points.push(x[i], y[i]);
      }
      points.push(x[to], y[to]);
      stretches.push(points);
    }
  });
  return { thread, runs: joinStretches(stretches, trimOverMm), openMm: 0 };
}
