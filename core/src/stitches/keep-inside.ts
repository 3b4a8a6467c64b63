import { alongRings } from '../geometry/along-rings.js';
import { distanceToRings } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { runAlong } from './running.js';

const SAMPLE_MM = 0.5;
/** Stitches shorter than this cannot leave a shape by much. */
const SHORT_MM = 1;
const LONGEST_MM = 7;
const EDGE_STITCH_MM = 2.5;
/** Compensation reaches this far over an edge at the most. */
const FAR_OUTSIDE_MM = 0.6;
/** Samples in a row that must lie outside: a stitch that cuts a corner is fine. */
const OUTSIDE_SAMPLES = 2;

/** A run whose stitches that would cross the cloth outside a shape go round along its edge instead; none is too long. */
export function keepInside(run: Points, rings: readonly Points[], isIn: (x: number, y: number) => boolean): Points {
  const out: Points = run.slice(0, 2);
  for (let i = 2; i < run.length; i += 2) {
    const [bx, by] = [run[i], run[i + 1]];
    // Points of a way across the cloth outside are left out; where the way comes in again, it is led round.
    if (!isIn(bx, by) && distanceToRings(rings, bx, by) > FAR_OUTSIDE_MM) continue;
    const [ax, ay] = [out[out.length - 2], out[out.length - 1]];
    if (leaves(ax, ay, bx, by, isIn)) {
      const round = runAlong(alongRings(rings, { x: ax, y: ay }, { x: bx, y: by }), EDGE_STITCH_MM);
      for (let k = 2; k < round.length; k++) out.push(round[k]);
    } else {
      const parts = Math.ceil(distance(ax, ay, bx, by) / LONGEST_MM);
      for (let k = 1; k <= parts; k++) out.push(ax + ((bx - ax) * k) / parts, ay + ((by - ay) * k) / parts);
    }
  }
  return out;
}

function leaves(ax: number, ay: number, bx: number, by: number, isIn: (x: number, y: number) => boolean): boolean {
  const length = distance(ax, ay, bx, by);
  if (length < SHORT_MM) return false;
  const steps = Math.ceil(length / SAMPLE_MM);
  let outside = 0;
  for (let k = 1; k < steps; k++) {
    const t = k / steps;
    outside = isIn(ax + (bx - ax) * t, ay + (by - ay) * t) ? 0 : outside + 1;
    if (outside >= OUTSIDE_SAMPLES) return true;
  }
  return false;
}
