import type { Sewing } from '../sequence/sewing.js';
import { LIMITS } from '../settings/limits.js';
import { figuresOf, stitchLength } from '../sequence/figures.js';
import { STITCH } from '../sequence/stitch-list.js';

/** Something about a design that will or may go wrong at the machine. */
export interface Finding {
  readonly level: 'problem' | 'advice';
  readonly kind: 'long-stitch' | 'short-stitches' | 'too-large' | 'nothing-to-sew';
  /** What it is and why it matters, in a sentence. */
  readonly text: string;
  /** Where, in mm; absent where it is about the whole design. */
  readonly at?: { readonly x: number; readonly y: number };
}

const LONGEST_MM = 12;
const MOST_SHORT = 0.01;
/** Rows reach over the edge of the picture by their compensation: a picture of the largest size is still fine. */
const REACH_MM = 1;

/** Checks a design against what machines can sew. */
export function findingsOf(design: Sewing): Finding[] {
  const { stitches: list } = design;
  const figures = figuresOf(list, design.threads.length);
  const found: Finding[] = [];
  if (figures.stitches === 0) {
    found.push({ level: 'problem', kind: 'nothing-to-sew', text: 'There is nothing to sew: everything is bare.' });
  }
  for (let i = 1; i < list.count; i++) {
    // Stitch lists from outside may start after a jump without a needle point; only seams are measured.
    if (list.command[i] !== STITCH || list.command[i - 1] !== STITCH) continue;
    const length = stitchLength(list, i);
    if (length <= LONGEST_MM) continue;
    const text = `A stitch of ${length.toFixed(1)} mm is longer than the ${LONGEST_MM} mm a machine can make.`;
    found.push({ level: 'problem', kind: 'long-stitch', text, at: { x: list.x[i], y: list.y[i] } });
  }
  if (figures.shortStitchShare > MOST_SHORT) {
    const percent = (figures.shortStitchShare * 100).toFixed(1);
    const text = `${percent} % of the stitches are shorter than 0.3 mm: thread may break.`;
    found.push({ level: 'advice', kind: 'short-stitches', text });
  }
  const most = LIMITS.widthMm[1];
  if (figures.widthMm > most + REACH_MM || figures.heightMm > most + REACH_MM) {
    const text = `${figures.widthMm} x ${figures.heightMm} mm is larger than ${most} x ${most} mm.`;
    found.push({ level: 'problem', kind: 'too-large', text });
  }
  return found;
}
