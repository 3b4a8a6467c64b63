import { distance, type Point, type Points } from '../geometry/vector.js';
import type { PullAt } from './measured-cloth.js';

export interface ZigzagSettings {
  /** Distance of stitches on the outer rail, in mm. */
  readonly spacingMm: number;
  /** How far rungs reach over the edge on each side against the pull. */
  readonly compensationMm: number;
  /** The same for each rung by its length and direction, where the cloth was measured. */
  readonly pullAt?: PullAt;
  /** How far they reach at a place at least, under a neighbour sewn later: what they reach against the pull is part of it. */
  readonly reachAt?: (x: number, y: number, ux: number, uy: number) => number;
  /** Whether a place lies in the shape: between rungs that stand far apart the rails may cut a corner of it. */
  readonly isInside?: (x: number, y: number) => boolean;
}

/** Rungs that stand farther apart than this have lost one between them. */
const FAR_RUNGS_MM = 0.17;
/** Rungs before and after a place whose advance counts there. */
const WINDOW = 1;
/** Where a rail jumps sideways, at a flare or a mitre, no more room is made than this many times the way across the rungs. */
const SIDEWAYS = 1.15;
/** Rungs this far apart are farther than those around them: the stitches between count by themselves. */
const WIDE_STEP_MM = 0.34;
/** Points beside the shape are drawn back along the rung by such steps. */
const BACK_MM = 0.04;
const MOST_BACK = 20;

/** Where the inner rail advances less than this a stitch, some stitches are shortened there. */
const TIGHT_MM = 0.22;
/** Full stitches stand at most this far apart on the inner rail: nearly as far as a thread is wide. */
const FULL_EVERY_MM = 0.32;
/** How much others are pulled in, in turn; of a wide column no more than so many millimetres. */
const SHORTENED = [0.3, 0.18, 0.45];
const MOST_SHORTENED_MM = 1.6;
/** Against the pull a rung reaches over its ends by at most this share of its length, so that tips stay tips; short ones by no more than so many mm. */
const MOST_OF_RUNG = 0.35;
const LEAST_AGAINST_MM = 0.08;
/** Longer stitches are split. */
export const LONGEST_MM = 7;

/**
 * Satin over a ladder of rungs: the needle goes from rail to rail, half a spacing on along the outer rail each time.
 * @param rungs each two points, in sewing order
 */
export function zigzag(rungs: readonly Points[], settings: ZigzagSettings): Points {
  const { spacingMm, compensationMm, pullAt, reachAt, isInside } = settings;
  const out: Points = [];
  const half = spacingMm / 2;
  // Way along both rails, rung by rung.
  let side = 0;
  let left = 0;
  let stitch = 0;
  /** The last full stitch on the inner rail. */
  let full: Point | undefined;
  let split = 0;
  const needle = (rung: Points, inner: number): void => {
    let [ax, ay] = side === 0 ? rung : [rung[2], rung[3]];
    const [bx, by] = side === 0 ? [rung[2], rung[3]] : rung;
    const length = distance(ax, ay, bx, by);
    if (length === 0) return;
    if (isInside && railStep > FAR_RUNGS_MM) {
      for (let k = 0; k < MOST_BACK && k * BACK_MM < length / 2 && !isInside(ax, ay); k++) {
        ax += ((bx - ax) / length) * BACK_MM;
        ay += ((by - ay) / length) * BACK_MM;
      }
    }
    const onInner = inner >= 0 && (inner === 0) === (side === 0);
    const [ux, uy] = [(ax - bx) / length, (ay - by) / length];
    const against = Math.min(
      pullAt?.(length, ux, uy) ?? compensationMm,
      Math.max(LEAST_AGAINST_MM, length * MOST_OF_RUNG),
    );
    const short = onInner ? shortening(ax + ux * against, ay + uy * against, length, against) : 0;
    const reach = short > 0 ? -short : Math.max(against, reachAt?.(ax, ay, ux, uy) ?? 0);
    const x = ax + ux * reach;
    const y = ay + uy * reach;
    const n = out.length;
    if (n > 0) {
      const gap = distance(out[n - 2], out[n - 1], x, y);
      const parts = Math.ceil(gap / LONGEST_MM - 1e-9);
      const [fx, fy] = [out[n - 2], out[n - 1]];
      // Needle points inside wide satin are moved from stitch to stitch, so that they make no line.
      for (let k = 1; k < parts; k++) {
        const t = (k + ((split++ % 3) - 1) * 0.14) / parts;
        out.push(fx + (x - fx) * t, fy + (y - fy) * t);
      }
    }
    out.push(x, y);
    side = 1 - side;
  };
  const advance = { a: 0, b: 0 };
  let railStep = 0;
  const shortening = (x: number, y: number, length: number, against: number): number => {
    const least = Math.min(advance.a, advance.b);
    const most = Math.max(advance.a, advance.b, 1e-9);
    // What reaches farther over the inner edge of a bend stands closer there.
    const step = (spacingMm * Math.max(0, least - ((most - least) / length) * against)) / most;
    if (step < TIGHT_MM && full && distance(full.x, full.y, x, y) + step <= FULL_EVERY_MM) {
      return Math.min(MOST_SHORTENED_MM, length * SHORTENED[stitch++ % SHORTENED.length]);
    }
    full = { x, y };
    return 0;
  };
  for (let i = 0; i + 1 < rungs.length; i++) {
    const [p, q] = [rungs[i], rungs[i + 1]];
    // Rungs come from pixels and tremble along the rails: over several of them that evens out.
    const u = rungs[Math.max(0, i - WINDOW)];
    const v = rungs[Math.min(rungs.length - 1, i + 1 + WINDOW)];
    const span = Math.min(rungs.length - 1, i + 1 + WINDOW) - Math.max(0, i - WINDOW);
    const alongA = distance(u[0], u[1], v[0], v[1]) / span;
    const alongB = distance(u[2], u[3], v[2], v[3]) / span;
    railStep = Math.max(alongA, alongB);
    const across = acrossOf(p, q);
    advance.a = Math.min(alongA, (SIDEWAYS * Math.abs(across(v[0] - u[0], v[1] - u[1]))) / span);
    advance.b = Math.min(alongB, (SIDEWAYS * Math.abs(across(v[2] - u[2], v[3] - u[3]))) / span);
    const own = Math.max(Math.abs(across(q[0] - p[0], q[1] - p[1])), Math.abs(across(q[2] - p[2], q[3] - p[3])));
    const outer = Math.max(advance.a, advance.b, own > WIDE_STEP_MM ? own : 0);
    const inner = advance.a < advance.b ? 0 : 1;
    let done = 0;
    while (outer - done >= left) {
      done += left;
      const t = outer === 0 ? 0 : done / outer;
      needle(
        p.map((v, k) => v + (q[k] - v) * t),
        inner,
      );
      left = half;
      if (outer === 0) break;
    }
    left -= outer - done;
  }
  const last = rungs[rungs.length - 1];
  if (last && left < half * 0.6) needle(last, -1);
  return out;
}

/** Measures ways across two neighbouring rungs. */
function acrossOf(p: Points, q: Points): (dx: number, dy: number) => number {
  const x = p[2] - p[0] + q[2] - q[0];
  const y = p[3] - p[1] + q[3] - q[1];
  const length = Math.sqrt(x * x + y * y) || 1;
  return (dx, dy) => (dx * y - dy * x) / length;
}
