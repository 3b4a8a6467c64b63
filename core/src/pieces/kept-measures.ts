import { boundsOf } from '../geometry/polyline.js';
import type { Area } from './area.js';
import type { Measured } from './measured.js';

/** What of an area says how it is measured. */
export type Form = Pick<Area, 'rings' | 'line'>;

/** Forms that were measured, under what they are; they are kept as long as their boxes together are no larger than so many mm2. */
export class KeptMeasures {
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

/** All of a large design, about 80 MB. */
const FORMS = new KeptMeasures(110_000);

/** What is known of a form: one that is cut out anew just as it was, as all are around what is moved, is not measured again. */
export const measureForm = (area: Form, measure: (area: Form) => Measured): Measured => FORMS.of(area, measure);
