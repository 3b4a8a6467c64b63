import { clipLine } from '../geometry/clip-line.js';
import { areaOf, common, offset, subtract, thicken, unite, type LineStyle } from '../geometry/polygons.js';
import { createInsideTest } from '../trace/inside-test.js';
import { boundsOf, lengthOf } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';

/** How a border ends where it leaves a gap. */
export const EDGE_ENDS = [
  { id: 'butt', name: 'Butted' },
  { id: 'point', name: 'Pointed' },
  { id: 'round', name: 'Round' },
] as const;
export type EdgeEnds = (typeof EDGE_ENDS)[number]['id'];

/** Where a border begins and ends. */
export const EDGE_BEGINS = ['top', 'right', 'bottom', 'left'] as const;
export type EdgeBegins = (typeof EDGE_BEGINS)[number];

/** Ends keep so many widths for their own form; the very tip of a point is no stitch, and lies on what crosses. */
const ROOM: Readonly<Record<EdgeEnds, number>> = { butt: 0, point: 0.7, round: 0.45 };

/** A part of an edge: a whole ring, or what lies between two gaps. */
export interface EdgeRun {
  readonly points: Points;
  readonly closed: boolean;
}

/** What crosses an edge covers at least so much on both sides of it, in mm2. */
const LEAST_CROSSING_MM2 = 0.3;
/** Shorter parts between two gaps are no border. */
const LEAST_RUN_MM = 1.5;
/** Places along an edge where gaps are looked for stand so far apart at most. */
const STEP_MM = 0.25;

/** Of some shapes, those that cross an edge: they lie inside as well as outside it by more than the border is wide. */
export function crossingOf(
  edge: readonly Points[],
  shapes: readonly (readonly Points[])[],
  widthMm: number,
): readonly (readonly Points[])[] {
  const box = boundsOf(edge);
  const inner = offset(edge, -widthMm / 2);
  const outer = offset(edge, widthMm / 2);
  return shapes.filter((shape) => {
    const own = boundsOf(shape);
    if (own.left > box.right || own.right < box.left || own.top > box.bottom || own.bottom < box.top) return false;
    return areaOf(common(shape, inner)) > LEAST_CROSSING_MM2 && areaOf(subtract(shape, outer)) > LEAST_CROSSING_MM2;
  });
}

/** An edge without what lies on shapes that cross it; its ends keep room for their own form. */
export function withGaps(
  edge: readonly EdgeRun[],
  crossing: readonly (readonly Points[])[],
  ends: EdgeEnds,
  widthMm: number,
): EdgeRun[] {
  if (crossing.length === 0) return [...edge];
  const room = ROOM[ends] * widthMm;
  const shapes = unite(crossing.flat(), []);
  const isIn = createInsideTest(room > 0 ? offset(shapes, room) : shapes);
  return edge
    .flatMap(({ points }) => clipLine((x, y) => !isIn(x, y), inSteps(points), true))
    .filter(({ points, closed }) => closed || lengthOf(points) >= LEAST_RUN_MM);
}

/** A ring with places between its corners, so that nothing that crosses a long side is missed. */
function inSteps(ring: Points): Points {
  const out: Points = [];
  for (let i = 0; i < ring.length; i += 2) {
    const [ax, ay, bx, by] = [ring[i], ring[i + 1], ring[(i + 2) % ring.length], ring[(i + 3) % ring.length]];
    const parts = Math.max(1, Math.ceil(distance(ax, ay, bx, by) / STEP_MM));
    for (let k = 0; k < parts; k++) out.push(ax + ((bx - ax) * k) / parts, ay + ((by - ay) * k) / parts);
  }
  return out;
}

/** The band an open part covers: with square ends, with round ones, or drawn out to points. */
export function openBand(points: Points, widthMm: number, ends: EdgeEnds, join: LineStyle): Points[] {
  const band = thicken([points], widthMm, false, { ...join, cap: ends === 'round' ? 'round' : 'butt' });
  if (ends !== 'point') return band;
  return unite(band, [tipAt(points, 0, widthMm), tipAt(points, points.length - 2, widthMm)]);
}

/** A middle line as far as the tips of its band. */
export function toTips(points: Points, widthMm: number, ends: EdgeEnds): Points {
  if (ends !== 'point') return points;
  const [sx, sy] = tipAt(points, 0, widthMm).slice(2, 4);
  const [ex, ey] = tipAt(points, points.length - 2, widthMm).slice(2, 4);
  return [sx, sy, ...points, ex, ey];
}

/** The triangle at an end: both corners of the band with the tip between them. */
function tipAt(points: Points, at: number, widthMm: number): Points {
  const [x, y] = [points[at], points[at + 1]];
  const [bx, by] = at === 0 ? [points[2], points[3]] : [points[at - 2], points[at - 1]];
  const length = distance(x, y, bx, by) || 1;
  const [ux, uy] = [(x - bx) / length, (y - by) / length];
  const half = widthMm / 2;
  return [x - uy * half, y + ux * half, x + ux * widthMm, y + uy * widthMm, x + uy * half, y - ux * half];
}

/** The place of an edge that lies farthest to one side. */
export function outermost(runs: readonly EdgeRun[], side: EdgeBegins): Point | undefined {
  let best: Point | undefined;
  for (const { points } of runs) {
    const at = farthest(points, side);
    if (!best || rank(points[at], points[at + 1], side) > rank(best.x, best.y, side))
      best = { x: points[at], y: points[at + 1] };
  }
  return best;
}

/** A ring that begins at its place farthest to one side. */
export function begunAt(ring: Points, side: EdgeBegins): Points {
  const at = farthest(ring, side);
  return [...ring.slice(at), ...ring.slice(0, at)];
}

function farthest(points: Points, side: EdgeBegins): number {
  let best = 0;
  for (let i = 2; i < points.length; i += 2)
    if (rank(points[i], points[i + 1], side) > rank(points[best], points[best + 1], side)) best = i;
  return best;
}

const rank = (x: number, y: number, side: EdgeBegins): number => ({ top: -y, right: x, bottom: y, left: -x })[side];
