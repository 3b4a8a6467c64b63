import { softPlane } from '../rows/soft-plane.js';
import type { ColourPlanes } from './colour-planes.js';
import { InkMixer, type Inks } from './mix-inks.js';

/** Which inks are used is decided over this much of the picture at once: it would flicker from cell to cell. */
const DECIDED_MM = 0.5;
const SWEEPS = 6;

/**
 * How much of the first of some inks every cell wants, planned together with those that are laid over it.
 * @param ground linear r, g, b that lies there already
 */
export function planFirst(planes: ColourPlanes, inks: Inks, ground: Float32Array): Float32Array {
  const { cols, rows, wanted, metric, inside, cellMm } = planes;
  const mixer = new InkMixer(inks);
  const sets = 1 << (inks.colours.length / 3);
  const least = new Float32Array(cols * rows).fill(Infinity);
  const best = new Uint8Array(cols * rows);
  for (let set = 0; set < sets; set++) {
    const cost = new Float32Array(cols * rows);
    for (let i = 0; i < cost.length; i++) {
      if (inside[i]) cost[i] = mixer.solve(set, ground, wanted, i * 3, metric, SWEEPS);
    }
    const soft = softPlane(cost, cols, rows, DECIDED_MM / cellMm);
    for (let i = 0; i < soft.length; i++) {
      if (soft[i] < least[i]) {
        least[i] = soft[i];
        best[i] = set;
      }
    }
  }
  const out = new Float32Array(cols * rows);
  for (let i = 0; i < out.length; i++) {
    if (!inside[i] || (best[i] & 1) === 0) continue;
    mixer.solve(best[i], ground, wanted, i * 3, metric, SWEEPS);
    out[i] = mixer.shares[0];
  }
  return out;
}
