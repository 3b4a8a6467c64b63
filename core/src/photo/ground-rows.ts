import { samplePlate, SEWN_SHARE, type Plate } from './plate.js';
import type { Layer } from './methods/render-method.js';
import { zigzagRows } from './zigzag-rows.js';

const SPACING_MM = 1.1;
const PITCH_MM = 0.9;

/** Fills everything that is to be sewn with one thread, as a ground for others: rows of zigzag that meet. */
export function groundRows(plate: Plate, thread: number, angle: number, trimOverMm: number): Layer {
  const sample = new Float32Array(4);
  const settings = {
    angle,
    spacingMm: SPACING_MM,
    pitchMm: PITCH_MM,
    slant: 0,
    vary: 'width',
    leastCover: 0,
    trimOverMm,
    thread,
  } as const;
  return zigzagRows(
    plate,
    settings,
    (x, y) => {
      samplePlate(plate, x, y, sample);
      return sample[3] < SEWN_SHARE ? -1 : 1;
    },
    () => 1,
  );
}
