import { lengthOf, reversed } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { runAlong } from './running.js';
import type { PieceUnderlay } from './underlay.js';

interface Below {
  readonly underlay: PieceUnderlay;
  readonly runStitchMm: number;
  /** Whether a place lies in the shape, where its outline is known. */
  readonly isInside?: (x: number, y: number) => boolean;
}

/** So far inside the edge the needle goes in. */
const EDGE_INSET = 0.5;
/** From one side of the open zigzag to the next on the same side, in mm. */
const ZIGZAG = 2.5;
/** Shorter rungs, at tips, have nothing below them but the run along the middle. */
const LEAST_ABOVE_MM = 1.6;
/** The shape goes on so far beyond a rung that ends at a seam with another column. */
const BEYOND_SEAM_MM = 0.5;
/** Of rungs that follow on each other, one in so many is looked at for that. */
const LOOK_EVERY = 3;

/**
 * What is laid below a satin column besides the run along its middle, from its far end on. Two columns that meet at a corner would lie on
 * four edge runs there, and satin of both over them: edge runs leave out seams, and end before tips.
 * @param rungs each two points
 * @returns runs that are sewn one after the other
 */
export function satinUnderlay(rungs: readonly Points[], { underlay, runStitchMm, isInside }: Below): Points[] {
  if (underlay !== 'edge' && underlay !== 'both') return [];
  const along = (side: 0 | 1): Points => {
    let isSeam = false;
    return rungs.flatMap((rung, i) => {
      if (!isRoomy(rung)) return [];
      if (i % LOOK_EVERY === 0) isSeam = isInside !== undefined && endsAtSeam(rung, side, isInside);
      return isSeam && i > 0 && i < rungs.length - 1 ? [] : inset(rung, side);
    });
  };
  const run = (points: Points): Points => (points.length >= 4 ? runAlong(points, runStitchMm) : []);
  return [run(reversed(along(0))), underlay === 'edge' ? run(along(1)) : zigzagBelow(rungs.filter(isRoomy))];
}

const isRoomy = (rung: Points): boolean => distance(rung[0], rung[1], rung[2], rung[3]) >= LEAST_ABOVE_MM;

const endsAtSeam = (rung: Points, side: 0 | 1, isIn: (x: number, y: number) => boolean): boolean =>
  isIn(...inset(rung, side, -BEYOND_SEAM_MM));

/** A place on a rung so far inside its end, or beyond it. */
function inset(rung: Points, side: 0 | 1, mm = EDGE_INSET): [number, number] {
  const length = distance(rung[0], rung[1], rung[2], rung[3]) || 1;
  const k = Math.min(0.5, mm / length);
  const t = side === 0 ? k : 1 - k;
  return [rung[0] + (rung[2] - rung[0]) * t, rung[1] + (rung[3] - rung[1]) * t];
}

/** An open zigzag from edge to edge, below the satin. */
function zigzagBelow(rungs: readonly Points[]): Points {
  const middle = rungs.flatMap((r) => [(r[0] + r[2]) / 2, (r[1] + r[3]) / 2]);
  const every = Math.max(1, Math.round((rungs.length * ZIGZAG) / 2 / Math.max(1, lengthOf(middle))));
  const points: Points = [];
  for (let i = 0, side = 0; i < rungs.length; i += every, side++)
    points.push(...inset(rungs[i], side % 2 === 0 ? 1 : 0));
  return points;
}
