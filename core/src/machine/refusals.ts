import type { Hoop } from '../picture/hoops.js';
import { figuresOf, stitchLength } from '../sequence/figures.js';
import type { Sewing } from '../sequence/sewing.js';
import { STITCH } from '../sequence/stitch-list.js';

/** Longer stitches no machine makes. */
const LONGEST_MM = 12.1;
/** More than this a machine's memory does not hold. */
const MOST_STITCHES = 1_000_000;
/** A hoop is not met by less than the rounding of a list. */
const ROUNDING_MM = 0.05;

/** Every reason why a machine cannot sew a design as it lies; none where it can. */
export function refusals(sewing: Sewing, hoop: Hoop, needles: number): string[] {
  const { stitches, threads } = sewing;
  const figures = figuresOf(stitches, threads.length);
  const reasons: string[] = [];
  if (figures.stitches === 0) reasons.push('there are no stitches in it');
  if (figures.stitches > MOST_STITCHES) {
    reasons.push(`it has ${figures.stitches} stitches; the machine holds ${MOST_STITCHES}`);
  }
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  let [long, longest] = [0, 0];
  for (let i = 0; i < stitches.count; i++) {
    if (stitches.command[i] !== STITCH) continue;
    left = Math.min(left, stitches.x[i]);
    right = Math.max(right, stitches.x[i]);
    top = Math.min(top, stitches.y[i]);
    bottom = Math.max(bottom, stitches.y[i]);
    const length = stitchLength(stitches, i);
    if (length <= LONGEST_MM) continue;
    long++;
    longest = Math.max(longest, length);
  }
  const { widthMm, heightMm, name } = hoop;
  if (figures.stitches > 0) {
    const wide = right - left > widthMm + ROUNDING_MM;
    const high = bottom - top > heightMm + ROUNDING_MM;
    const said = `${(right - left).toFixed(1)} x ${(bottom - top).toFixed(1)} mm`;
    if (wide || high) reasons.push(`it is ${said}; the hoop ${name} does not hold that`);
    else {
      const over = Math.max(-left - widthMm / 2, right - widthMm / 2, -top - heightMm / 2, bottom - heightMm / 2);
      if (over > ROUNDING_MM)
        reasons.push(`it lies ${over.toFixed(1)} mm outside the hoop ${name}: move it to the middle`);
    }
  }
  const used = new Set(Array.from(stitches.thread.subarray(0, stitches.count)));
  if (needles > 1 && used.size > needles) {
    reasons.push(`it has ${used.size} threads; the machine has ${needles} needles`);
  }
  if (long > 0) {
    reasons.push(`${long} stitches are too long (the longest ${longest.toFixed(1)} mm; at most 12 mm)`);
  }
  return reasons;
}
