import { distance, type Points } from '../geometry/vector.js';
import { fromMask, radiusAt, type AreaMask } from './area-mask.js';
import { directionAt } from './direction-along.js';
import { smoothSpine } from './smooth-spine.js';
import type { Spine } from './spines.js';

/** A stretch of a spine between sharp corners, in the mask's units, and what cuts its ends. */
export interface Stretch {
  readonly points: Points;
  readonly closed: boolean;
  readonly start: Ending;
  readonly end: Ending;
}

export type Ending =
  | { readonly kind: 'free' | 'butt' | 'through' }
  /** The rungs stay behind a line through a corner; its normal points away from the stretch. */
  | { readonly kind: 'mitre'; readonly x: number; readonly y: number; readonly nx: number; readonly ny: number };

/** What is done at a sharp corner: both halves meet on the bisector, one goes round it, or one goes on to its tip. */
export const CORNERS = [
  { id: 'mitre', name: 'Mitred' },
  { id: 'round', name: 'Rounded' },
  { id: 'point', name: 'Drawn to a point' },
] as const;
export type Corners = (typeof CORNERS)[number]['id'];

/** A spine that turns by more than this is cut at the corner: the cosine of 62 degrees. */
const CORNER_COSINE = 0.47;

/**
 * Cuts a spine at its sharp corners and smooths what is between.
 * @param style what is done at corners; `last`: as `point`, but the half that comes last goes on
 */
export function stretchesOf(spine: Spine, mask: AreaMask, style: Corners | 'last' = 'mitre'): Stretch[] {
  const { points } = spine;
  const corners = style === 'round' ? [] : sharpCorners(spine, mask);
  const free = (butts: boolean): Ending => ({ kind: butts ? 'butt' : 'free' });
  const cuts: { at: number; mitre: Ending; back: Ending }[] = corners.map(({ at, nx, ny }) => {
    const [x, y] = fromMask(mask, [points[at], points[at + 1]]);
    if (style === 'point') return { at, mitre: { kind: 'through' }, back: { kind: 'butt' } };
    if (style === 'last') return { at, mitre: { kind: 'butt' }, back: { kind: 'through' } };
    return { at, mitre: { kind: 'mitre', x, y, nx, ny }, back: { kind: 'mitre', x, y, nx: -nx, ny: -ny } };
  });
  if (cuts.length === 0) {
    const smooth = fromMask(mask, smoothSpine(points, spine.closed, mask));
    return [{ points: smooth, closed: spine.closed, start: free(spine.startButts), end: free(spine.endButts) }];
  }
  const out: Stretch[] = [];
  const part = (run: Points, start: Ending, end: Ending): void => {
    if (run.length < 4) return;
    out.push({ points: fromMask(mask, smoothSpine(run, false, mask)), closed: false, start, end });
  };
  if (spine.closed) {
    const last = cuts[cuts.length - 1];
    part([...points.slice(last.at), ...points.slice(2, cuts[0].at + 2)], last.back, cuts[0].mitre);
  } else part(points.slice(0, cuts[0].at + 2), free(spine.startButts), cuts[0].mitre);
  cuts.forEach(({ at, back }, i) => {
    if (i + 1 < cuts.length) part(points.slice(at, cuts[i + 1].at + 2), back, cuts[i + 1].mitre);
    else if (!spine.closed) part(points.slice(at), back, free(spine.endButts));
  });
  return out;
}

/** Places where a spine turns sharply, with the bisector's normal pointing onwards. */
function sharpCorners(spine: Spine, mask: AreaMask): { at: number; nx: number; ny: number }[] {
  const { points, closed } = spine;
  const n = points.length / 2;
  const found: { at: number; cosine: number; nx: number; ny: number; radius: number }[] = [];
  for (let i = closed ? 0 : 2; i < (closed ? n - 1 : n - 2); i++) {
    const radius = radiusAt(mask, points[i * 2], points[i * 2 + 1]);
    const reach = Math.max(4, radius * 1.3);
    const before = directionAt(points, i, -1, reach, closed);
    const after = directionAt(points, i, 1, reach, closed);
    if (!before || !after) continue;
    const cosine = -(before.dx * after.dx + before.dy * after.dy);
    if (cosine > CORNER_COSINE) continue;
    const [nx, ny] = [after.dx - before.dx, after.dy - before.dy];
    const length = Math.sqrt(nx * nx + ny * ny) || 1;
    found.push({ at: i * 2, cosine, nx: nx / length, ny: ny / length, radius: reach });
  }
  // Of a bend seen from several points the sharpest is the corner.
  found.sort((a, b) => a.cosine - b.cosine || a.at - b.at);
  const kept: typeof found = [];
  for (const c of found) {
    const clear = kept.every(
      (k) => distance(points[k.at], points[k.at + 1], points[c.at], points[c.at + 1]) > k.radius * 1.6,
    );
    if (clear) kept.push(c);
  }
  return kept.sort((a, b) => a.at - b.at);
}
