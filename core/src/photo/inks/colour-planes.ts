import { METRIC, writeMetric } from '../../colour/colour-metric.js';
import { SIGMA_MM } from '../rows/sew-rows.js';
import { softPlane } from '../rows/soft-plane.js';
import { SEWN_SHARE, type Plate } from '../plate.js';

/** Points of a plate along a side of a cell. */
const STEP = 2;

/** A picture as inks see it: what is wanted on cells of 0.4 mm, mixed as the eye mixes it. */
export interface ColourPlanes {
  readonly cols: number;
  readonly rows: number;
  /** Millimetres along a cell. */
  readonly cellMm: number;
  /** Linear r, g, b, three numbers a cell. */
  readonly wanted: Float32Array;
  /** The metric of CIEDE2000 at what is wanted. */
  readonly metric: Float32Array;
  /** 1 where something is to be sewn. */
  readonly inside: Uint8Array;
}

/** @param ground linear r, g, b that shows where nothing is sewn */
export function colourPlanes(plate: Plate, ground: readonly number[]): ColourPlanes {
  const cols = Math.max(1, Math.floor(plate.width / STEP));
  const rows = Math.max(1, Math.floor(plate.height / STEP));
  const cellMm = STEP / plate.scale;
  const planes = [0, 1, 2].map(() => new Float32Array(cols * rows));
  const inside = new Uint8Array(cols * rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < cols; x++) {
      const i = y * cols + x;
      let sewn = 0;
      for (let dy = 0; dy < STEP; dy++) {
        for (let dx = 0; dx < STEP; dx++) {
          const at = ((y * STEP + dy) * plate.width + x * STEP + dx) * 4;
          const is = plate.data[at + 3] >= SEWN_SHARE;
          if (is) sewn++;
          for (let j = 0; j < 3; j++) planes[j][i] += (is ? plate.data[at + j] : ground[j]) / (STEP * STEP);
        }
      }
      inside[i] = sewn * 2 >= STEP * STEP ? 1 : 0;
    }
  }
  const wanted = new Float32Array(cols * rows * 3);
  planes.forEach((plane, j) => {
    softPlane(plane, cols, rows, SIGMA_MM / cellMm).forEach((v, i) => (wanted[i * 3 + j] = v));
  });
  const metric = new Float32Array(cols * rows * METRIC);
  for (let i = 0; i < inside.length; i++) {
    writeMetric(wanted[i * 3], wanted[i * 3 + 1], wanted[i * 3 + 2], metric, i * METRIC);
  }
  return { cols, rows, cellMm, wanted, metric, inside };
}
