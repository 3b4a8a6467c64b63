import { reversed } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import type { Stretch } from './spine-stretches.js';

/** Way over which the narrowing of a shape is measured. */
const SLOPE_WAY = 0.4;
/** Before the corner of a slanted end so many radii of the middle line are bent towards it. */
const BENT_RADII = 0.6;
/** How straight a column goes on at its end is taken over so many half-widths. */
const LEVER = 1.3;
/** A column that butts another ends this many radii before its middle: it reaches under it, or over it, far enough. */
const BUTT_SHORT = 0.74;

/** Free ends of a stretch are stripped where they narrow, then drawn out past the edge; butting ends stop short. */
export function trimEnds(
  stretch: Stretch,
  radius: (x: number, y: number) => number,
  inside: (x: number, y: number) => boolean,
): Points {
  let points = stretch.points.slice();
  for (const atStart of [true, false]) {
    const ending = atStart ? stretch.start : stretch.end;
    if (!atStart) points = reversed(points);
    if (ending.kind === 'butt') points = stopShort(points, radius);
    else {
      if (ending.kind === 'free') points = stripNarrowing(points, radius);
      else points = leaveCorner(points, radius);
      points = drawPast(points, radius, inside, ending.kind === 'mitre');
    }
    if (!atStart) points = reversed(points);
  }
  return points;
}

function stopShort(points: Points, radius: (x: number, y: number) => number): Points {
  const r = radius(points[0], points[1]) * BUTT_SHORT;
  let at = 0;
  while (at < points.length - 4 && distance(points[0], points[1], points[at], points[at + 1]) < r) at += 2;
  return points.slice(at);
}

/** Towards a square or slanted end the skeleton runs into a corner: there its radius falls faster than a column's. */
function stripNarrowing(points: Points, radius: (x: number, y: number) => number): Points {
  const inner = radius(points[0], points[1]);
  const most = inner * 2 + 1;
  let at = 0;
  let way = 0;
  let far = 0;
  for (let i = 0; i < points.length - 4 && way < most; i += 2) {
    const r = radius(points[i], points[i + 1]);
    // Radii come from pixels: only over some way do they say how fast the shape narrows.
    while (far < points.length - 2 && distance(points[i], points[i + 1], points[far], points[far + 1]) < SLOPE_WAY)
      far += 2;
    const step = distance(points[i], points[i + 1], points[far], points[far + 1]);
    if (step > 0 && (radius(points[far], points[far + 1]) - r) / step > 0.38) at = i + 2;
    way += distance(points[i], points[i + 1], points[i + 2], points[i + 3]);
  }
  if (at === 0) return points;
  // What leads into the corner bends already before that; from there on the column goes straight.
  const bent = radius(points[at], points[at + 1]) * BENT_RADII;
  let to = at;
  while (to < points.length - 4 && distance(points[at], points[at + 1], points[to], points[to + 1]) < bent) to += 2;
  if (to <= points.length - 8) at = to;
  return at > points.length - 6 ? points : points.slice(at);
}

/** Round a corner the skeleton cuts short: what leads straight to the corner begins one and a half radii before it. */
function leaveCorner(points: Points, radius: (x: number, y: number) => number): Points {
  const reach = radius(points[0], points[1]) * 1.5;
  let at = 0;
  while (at < points.length - 8 && distance(points[0], points[1], points[at], points[at + 1]) < reach) at += 2;
  return points.slice(at);
}

function drawPast(
  points: Points,
  radius: (x: number, y: number) => number,
  inside: (x: number, y: number) => boolean,
  far: boolean,
): Points {
  const half = Math.max(radius(points[0], points[1]), 0.2);
  let at = 2;
  const lever = half * (far ? 2 : LEVER);
  while (at < points.length - 2 && distance(points[0], points[1], points[at], points[at + 1]) < lever) at += 2;
  const dx = points[0] - points[at];
  const dy = points[1] - points[at + 1];
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return points;
  const [ux, uy] = [dx / length, dy / length];
  let way = 0;
  const most = half * (far ? 5.5 : 4);
  if (!far) while (way < most && inside(points[0] + ux * way, points[1] + uy * way)) way += 0.05;
  let past = far ? most : way + half * 1.4;
  // Beyond the edge another part of the shape may lie, as opposite the opening of an e: that is not its own.
  if (!far) {
    let on = way + 0.05;
    while (on < past && !inside(points[0] + ux * on, points[1] + uy * on)) on += 0.05;
    if (on < past) past = Math.max(way, on - 0.05);
  }
  return [points[0] + ux * past, points[1] + uy * past, ...points];
}
