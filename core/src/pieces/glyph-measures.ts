import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Area } from './area.js';
import { measuredAt, type Measured } from './measured.js';

/** Letters are kept as long as their boxes together are no larger, in mm2: an alphabet and more at 12 mm, about 30 MB. */
const MOST_KEPT_MM2 = 40_000;
/** Places of letters are rounded to this share of a millimetre, so that a letter is the same wherever it stands. */
const STEPS_PER_MM = 1e6;

const KEPT = new Map<string, { readonly measured: Measured; readonly mm2: number }>();

/**
 * What is known of a letter: the same letter is measured once, wherever it stands in a text or in a list of names.
 * @param measureAt measures an area that begins at the origin; its answer is kept
 */
export function measureGlyph(
  { rings, line }: Pick<Area, 'rings' | 'line'>,
  measureAt: (area: Pick<Area, 'rings' | 'line'>) => Measured,
): Measured {
  const { left, top, right, bottom } = boundsOf(rings);
  const here = (points: Points): Points =>
    points.map((v, i) => Math.round((v - (i % 2 === 0 ? left : top)) * STEPS_PER_MM) / STEPS_PER_MM);
  const own = {
    rings: rings.map(here),
    line: line && { ...line, paths: line.paths.map((path) => ({ ...path, points: here(path.points) })) },
  };
  const key = JSON.stringify(own);
  const known = KEPT.get(key) ?? { measured: measureAt(own), mm2: (right - left) * (bottom - top) };
  // Whoever was asked for last is let go of last.
  KEPT.delete(key);
  KEPT.set(key, known);
  let kept = 0;
  for (const { mm2 } of KEPT.values()) kept += mm2;
  for (const [oldest, { mm2 }] of KEPT) {
    if (kept <= MOST_KEPT_MM2 || oldest === key) break;
    KEPT.delete(oldest);
    kept -= mm2;
  }
  return measuredAt(known.measured, left, top);
}
