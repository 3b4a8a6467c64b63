import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Area } from './area.js';
import { measuredAt, type Measured } from './measured.js';

type Form = Pick<Area, 'rings' | 'line'>;

/** Places of letters are rounded to this share of a millimetre, so that a letter is the same wherever it stands. */
const STEPS_PER_MM = 1e6;

/** Forms that were measured, under what they are; they are kept as long as their boxes together are no larger than so many mm2. */
class KeptMeasures {
  private readonly kept = new Map<string, { readonly measured: Measured; readonly mm2: number }>();
  private mm2 = 0;

  constructor(private readonly mostMm2: number) {}

  of(area: Form, measure: (area: Form) => Measured): Measured {
    const key = JSON.stringify([area.rings, area.line ?? null]);
    const known = this.kept.get(key);
    // Whoever was asked for last is let go of last.
    this.kept.delete(key);
    if (known) {
      this.kept.set(key, known);
      return known.measured;
    }
    const { left, top, right, bottom } = boundsOf(area.rings);
    const made = { measured: measure(area), mm2: (right - left) * (bottom - top) };
    this.kept.set(key, made);
    this.mm2 += made.mm2;
    for (const [oldest, { mm2 }] of this.kept) {
      if (this.mm2 <= this.mostMm2 || oldest === key) break;
      this.kept.delete(oldest);
      this.mm2 -= mm2;
    }
    return made.measured;
  }
}

/** An alphabet and more at 12 mm, about 30 MB. */
const LETTERS = new KeptMeasures(40_000);
/** All of a large design, about 80 MB. */
const FORMS = new KeptMeasures(110_000);

/** What is known of a form: one that is cut out anew just as it was, as all are around what is moved, is not measured again. */
export const measureForm = (area: Form, measure: (area: Form) => Measured): Measured => FORMS.of(area, measure);

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
