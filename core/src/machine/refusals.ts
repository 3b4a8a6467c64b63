import type { Point } from '../geometry/vector.js';
import type { Hoop, HoopField } from '../picture/hoops.js';
import { figuresOf, stitchLength } from '../sequence/figures.js';
import type { Sewing } from '../sequence/sewing.js';
import { STITCH, stitchBounds, type StitchList } from '../sequence/stitch-list.js';

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
  let [long, longest] = [0, 0];
  for (let i = 0; i < stitches.count; i++) {
    if (stitches.command[i] !== STITCH) continue;
    const length = stitchLength(stitches, i);
    if (length <= LONGEST_MM) continue;
    long++;
    longest = Math.max(longest, length);
  }
  const { name } = hoop;
  if (figures.stitches > 0) {
    const { overMm, wide } = overHoop(stitches, hoop);
    if (wide) reasons.push(`it is ${wide}; the hoop ${name} does not hold that`);
    else if (overMm > 0)
      reasons.push(`it lies ${overMm.toFixed(1)} mm outside the hoop ${name}: move it to the middle`);
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

/** How far stitches lie outside a hoop. */
export interface OverHoop {
  /** 0 where all lie inside. */
  readonly overMm: number;
  /** The place that lies farthest out. */
  readonly at: Point;
  /** What they cover, in words, where no place in the hoop would hold it. */
  readonly wide?: string;
}

/** Measures how far stitches lie outside the field of a hoop around the middle. */
export function overHoop(list: StitchList, { widthMm, heightMm, round }: HoopField): OverHoop {
  const { x, y, command, count } = list;
  let overMm = 0;
  let at = { x: 0, y: 0 };
  for (let i = 0; i < count; i++) {
    if (command[i] !== STITCH) continue;
    const over = round
      ? Math.sqrt(x[i] * x[i] + y[i] * y[i]) - widthMm / 2
      : Math.max(Math.abs(x[i]) - widthMm / 2, Math.abs(y[i]) - heightMm / 2);
    if (over <= overMm) continue;
    overMm = over;
    at = { x: x[i], y: y[i] };
  }
  const box = stitchBounds(list);
  if (overMm <= ROUNDING_MM || !box) return { overMm: 0, at };
  const [wide, high] = [box.right - box.left, box.bottom - box.top];
  const isWide = wide > widthMm + ROUNDING_MM || high > heightMm + ROUNDING_MM;
  return isWide ? { overMm, at, wide: `${wide.toFixed(1)} x ${high.toFixed(1)} mm` } : { overMm, at };
}
