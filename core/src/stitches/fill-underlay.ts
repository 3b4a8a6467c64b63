import { groupRings, offset, type Rings } from '../geometry/polygons.js';
import { areaWithin, closedFrom, nearestPoint } from '../geometry/polyline.js';
import type { Point, Points } from '../geometry/vector.js';
import { runAlong } from './running.js';

/** What is sewn below the rows of a fill. */
export interface FillUnderlay {
  /** A run along the edge, some way inside. */
  readonly edge: boolean;
  /** Distance in mm of a lattice of rows across the rows on top; 0 for none. */
  readonly latticeMm: number;
}

const EDGE_INSET_MM = 0.6;
const EDGE_STITCH_MM = 2.5;
const LATTICE_STITCH_MM = 3.5;
/** Smaller rests than this, in mm², are not worth a run of their own. */
const LEAST_MM2 = 1.5;

/** Rows of a lattice, upright, in one go where the shape allows it. */
type Lattice = (rings: readonly Points[], spacingMm: number, stitchMm: number, entry: Point | undefined) => Points[];

/**
 * Runs of underlay for a shape whose top rows are level, nearest to the entry first. Between runs the needle has to be
 * led by whoever sews the rows.
 */
export function fillUnderlay(
  rings: readonly Points[],
  { edge, latticeMm }: FillUnderlay,
  entry: Point | undefined,
  lattice: Lattice,
): Points[] {
  if (!edge && latticeMm <= 0) return [];
  const runs: Points[] = [];
  let at = entry;
  for (const part of nearestFirst(groupRings(offset(rings, -EDGE_INSET_MM)), entry)) {
    if (areaWithin(part) < LEAST_MM2) continue;
    if (edge) {
      for (const ring of part) {
        const run = runAlong(closedFrom(ring, at ? nearestPoint(ring, at.x, at.y).at : 0), EDGE_STITCH_MM);
        if (run.length < 6) continue;
        runs.push(run);
        at = { x: run[run.length - 2], y: run[run.length - 1] };
      }
    }
    if (latticeMm <= 0) continue;
    for (const run of lattice(part, latticeMm, LATTICE_STITCH_MM, at)) {
      runs.push(run);
      at = { x: run[run.length - 2], y: run[run.length - 1] };
    }
  }
  return runs;
}

function nearestFirst(parts: Rings[], entry: Point | undefined): Rings[] {
  if (!entry || parts.length < 2) return parts;
  const gap = (part: Rings): number => Math.min(...part.map((ring) => nearestPoint(ring, entry.x, entry.y).gap));
  return parts
    .map((part) => ({ part, gap: gap(part) }))
    .sort((a, b) => a.gap - b.gap)
    .map(({ part }) => part);
}
