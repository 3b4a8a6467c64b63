import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { KeptMeasures, type Form } from './kept-measures.js';
import { measuredAt, type Measured } from './measured.js';

/** Places of letters are rounded to this share of a millimetre, so that a letter is the same wherever it stands. */
const STEPS_PER_MM = 1e6;

/** An alphabet and more at 12 mm, about 30 MB. */
const LETTERS = new KeptMeasures(40_000);
/**
 * What is known of a letter: the same letter is measured once, wherever it stands in a text or in a list of names.
 * @param measureAt measures an area that begins at the origin; its answer is kept
 */
export function measureGlyph({ rings, line }: Form, measureAt: (area: Form) => Measured): Measured {
  const { left, top } = boundsOf(rings);
  const here = (points: Points): Points =>
    points.map((v, i) => Math.round((v - (i % 2 === 0 ? left : top)) * STEPS_PER_MM) / STEPS_PER_MM);
  const own = {
    rings: rings.map(here),
    line: line && { ...line, paths: line.paths.map((path) => ({ ...path, points: here(path.points) })) },
  };
  return measuredAt(LETTERS.of(own, measureAt), left, top);
}
