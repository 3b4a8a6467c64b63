import { distance, type Points } from '../geometry/vector.js';
import type { SatinSettings } from './satin.js';

/** Where the inner rail advances less than this, every other stitch there is shortened; below the second, all but one of four. */
const TIGHT_MM = 0.22;
const TIGHTEST_MM = 0.1;
const SHORTENED = [0, 0.3];
const SHORTENED_MORE = [0, 0.35, 0.18, 0.5];
/** Longer stitches are split. */
export const LONGEST_MM = 7;

/**
 * Satin over a ladder of rungs: the needle goes from rail to rail, half a spacing on along the outer rail each time.
 * @param rungs each two points, in sewing order
 */
export function zigzag(rungs: readonly Points[], { spacingMm, compensationMm }: SatinSettings): Points {
  const out: Points = [];
  const half = spacingMm / 2;
  // Way along both rails, rung by rung.
  let side = 0;
  let left = 0;
  let stitch = 0;
  let split = 0;
  const needle = (rung: Points, inner: number): void => {
    const [ax, ay, bx, by] = side === 0 ? rung : [rung[2], rung[3], rung[0], rung[1]];
    const length = distance(ax, ay, bx, by);
    if (length === 0) return;
    const onInner = inner >= 0 && (inner === 0) === (side === 0);
    const share = onInner ? shortening(stitch) : 0;
    // Over the edge by the compensation, but never past the middle where it is pulled in.
    const reach = share > 0 ? -share * length : compensationMm;
    const x = ax - ((bx - ax) / length) * reach;
    const y = ay - ((by - ay) / length) * reach;
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
    if (onInner) stitch++;
    side = 1 - side;
  };
  const advance = { a: 0, b: 0 };
  const shortening = (at: number): number => {
    const ratio = Math.min(advance.a, advance.b) / Math.max(advance.a, advance.b, 1e-9);
    const step = spacingMm * ratio;
    if (step < TIGHTEST_MM) return SHORTENED_MORE[at % 4];
    return step < TIGHT_MM ? SHORTENED[at % 2] : 0;
  };
  for (let i = 0; i + 1 < rungs.length; i++) {
    const [p, q] = [rungs[i], rungs[i + 1]];
    advance.a = distance(p[0], p[1], q[0], q[1]);
    advance.b = distance(p[2], p[3], q[2], q[3]);
    const outer = Math.max(advance.a, advance.b);
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
