import { CHANGE, JUMP, STITCH, TRIM, type StitchList } from './stitch-list.js';

/** Stitches a minute, and seconds for a trim and a thread change. */
const SPEED = 750;
const TRIM_SECONDS = 7;
const CHANGE_BY_HAND_SECONDS = 60;
const CHANGE_BY_MACHINE_SECONDS = 8;
const SHORT_MM = 0.3;
/** A millimetre of seam takes a little more than a millimetre of top thread. */
const TOP_THREAD = 1.1;

/** Figures of a stitch list that a shop decides by; all measured on the list itself. */
export interface SewingFigures {
  readonly stitches: number;
  readonly jumps: number;
  readonly trims: number;
  readonly threadChanges: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly longestStitchMm: number;
  readonly shortStitchShare: number;
  readonly minutes: { readonly oneNeedle: number; readonly multiNeedle: number };
  /** Per thread index: stitches and metres of top thread. */
  readonly threads: readonly { readonly stitches: number; readonly lengthM: number }[];
}

/** Number of needle points. */
export function stitchCount({ command, count }: StitchList): number {
  let stitches = 0;
  for (let i = 0; i < count; i++) if (command[i] === STITCH) stitches++;
  return stitches;
}

/** Measures a stitch list. */
export function figuresOf(list: StitchList, threadCount: number): SewingFigures {
  const perThread = Array.from({ length: threadCount }, () => ({ stitches: 0, lengthM: 0 }));
  let stitches = 0;
  let jumps = 0;
  let trims = 0;
  let threadChanges = 0;
  let longest = 0;
  let short = 0;
  let left = Infinity;
  let top = Infinity;
  let right = -Infinity;
  let bottom = -Infinity;
  for (let i = 0; i < list.count; i++) {
    const command = list.command[i];
    if (command === JUMP) jumps++;
    else if (command === TRIM) trims++;
    else if (command === CHANGE) threadChanges++;
    if (command !== STITCH) continue;
    const x = list.x[i];
    const y = list.y[i];
    stitches++;
    const length = stitchLength(list, i);
    const own = perThread[list.thread[i]];
    if (own) {
      own.stitches++;
      own.lengthM += (length * TOP_THREAD) / 1000;
    }
    if (length > longest) longest = length;
    // The first needle point after a jump stands where the needle already is: it is no stitch of its own length.
    if (length > 0 && length < SHORT_MM) short++;
    if (x < left) left = x;
    if (x > right) right = x;
    if (y < top) top = y;
    if (y > bottom) bottom = y;
  }
  const seconds = (stitches / SPEED) * 60 + trims * TRIM_SECONDS;
  return {
    stitches,
    jumps,
    trims,
    threadChanges,
    widthMm: stitches > 0 ? round(right - left, 1) : 0,
    heightMm: stitches > 0 ? round(bottom - top, 1) : 0,
    longestStitchMm: round(longest, 3),
    shortStitchShare: stitches > 0 ? round(short / stitches, 5) : 0,
    minutes: {
      oneNeedle: round((seconds + threadChanges * CHANGE_BY_HAND_SECONDS) / 60, 1),
      multiNeedle: round((seconds + threadChanges * CHANGE_BY_MACHINE_SECONDS) / 60, 1),
    },
    threads: perThread.map((t) => ({ stitches: t.stitches, lengthM: round(t.lengthM, 2) })),
  };
}

const round = (v: number, digits: number): number => Number(v.toFixed(digits));

/** Length in mm of the stitch that ends at a row; 0 where the row is no stitch or the first of all. */
export function stitchLength(list: StitchList, i: number): number {
  if (i === 0 || list.command[i] !== STITCH) return 0;
  const dx = list.x[i] - list.x[i - 1];
  const dy = list.y[i] - list.y[i - 1];
  return Math.sqrt(dx * dx + dy * dy);
}

/** Stretches of the list sewn with one thread without a change, in order. */
export interface ThreadRun {
  readonly thread: number;
  readonly from: number;
  /** Row after the last. */
  readonly to: number;
  readonly stitches: number;
}

/** Cuts the list at its thread changes. */
export function threadRunsOf(list: StitchList): ThreadRun[] {
  const runs: ThreadRun[] = [];
  let from = 0;
  let stitches = 0;
  const close = (to: number): void => {
    if (stitches > 0) runs.push({ thread: list.thread[from], from, to, stitches });
    from = to;
    stitches = 0;
  };
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] === CHANGE) close(i);
    else if (list.command[i] === STITCH) stitches++;
  }
  close(list.count);
  return runs;
}
