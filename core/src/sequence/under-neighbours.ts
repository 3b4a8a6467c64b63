import { common, fillRings, offset, type Rings } from '../geometry/polygons.js';
import { boundsOf, isInside, simplify, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import type { Reach } from '../stitches/generate.js';
import { stitchKindOf } from '../stitches/kinds/index.js';

/** Borders of two pieces that are meant to be one may lie this far apart. */
const SEAM_MM = 0.06;
/** Reach need not follow every point of an outline. */
const COARSE_MM = 0.02;
/** Shorter borders are corners that touch. */
const LEAST_BORDER_MM = 0.4;
/** A rung that ends within this of a neighbour ends at it. */
const NEAR_MM = 0.3;

interface Known {
  readonly rings: Rings;
  readonly bounds: Bounds;
  /** Grown by a seam, so that nothing stays open between it and its neighbours. */
  fat?: Rings;
}

const known = new WeakMap<Piece['outline'], Known>();

function knownOf(piece: Piece): Known {
  let found = known.get(piece.outline);
  if (!found) {
    const rings = ringsOf(piece).map((ring) => coarse(ring));
    known.set(piece.outline, (found = { rings, bounds: boundsOf(rings) }));
  }
  return found;
}

function coarse(ring: Points): Points {
  const closed = simplify([...ring, ring[0], ring[1]], COARSE_MM);
  return closed.length > 8 ? closed.slice(0, -2) : ring;
}

function fatOf(piece: Piece): Rings {
  const own = knownOf(piece);
  return (own.fat ??= offset(own.rings, SEAM_MM));
}

/** Neighbours of a piece that are sewn over it later and hide what reaches under them. */
export function laterNeighbours(pieces: readonly Piece[], place: Int32Array, index: number): number[] {
  return pieces[index].neighbours
    .filter(({ piece, borderMm }) => {
      const other = pieces[piece];
      if (place[piece] <= place[index] || borderMm < LEAST_BORDER_MM) return false;
      // What lies below and was cut out of it, or lies wholly on it, has no gap to open.
      return stitchKindOf(other.kind).covers || (other.family === 'line' && other.passes === 0);
    })
    .map(({ piece }) => piece);
}

/**
 * What a piece covers when it reaches under its later neighbours: fills grow there, and only there; rungs of columns
 * that end at one go on.
 */
export function reachUnder(piece: Piece, later: readonly Piece[], mm: number, compensationMm: number): Reach {
  if (later.length === 0 || mm <= 0) return {};
  if (piece.family === 'column') {
    return {
      at: (x, y, ux, uy) => {
        const over = later.find((other) => isOver(other, x + ux * NEAR_MM, y + uy * NEAR_MM));
        return over ? reachThere(over, reachBelow(over, mm), x, y, ux, uy) : 0;
      },
    };
  }
  if (piece.family !== 'area') return {};
  const own = knownOf(piece);
  // Neighbours under which it reaches equally far are taken together: one clipping for all of them.
  const groups = new Map<number, Rings>();
  for (const other of later) {
    const by = Math.round(grownBelow(reachBelow(other, mm), compensationMm) / STEP_MM) * STEP_MM;
    if (by > 0) groups.set(by, [...(groups.get(by) ?? []), ...fatOf(other)]);
  }
  const under = [...groups].flatMap(([by, rings]) => common(offset(own.rings, by), rings));
  if (under.length === 0) return {};
  return { rings: fillRings([...fillRings(own.rings, 'evenodd'), ...under], 'nonzero') };
}

/** Rows of a fill reach over their ends already; that much is taken off, but its other edges keep this share of the reach. */
const SHARE_OF_ROWS = 0.5;
const grownBelow = (mm: number, compensationMm: number): number => Math.max(mm * SHARE_OF_ROWS, mm - compensationMm);

/** Reaches are rounded to this. */
const STEP_MM = 0.1;

/** Below what is narrow little more than its edges is needed: thread on thread makes it hard. */
const SHARE_OF_NARROW = 0.18;

const reachBelow = (other: Piece, mm: number): number =>
  other.family === 'area' ? mm : Math.min(mm, other.widthMm * SHARE_OF_NARROW);

/** Below a tip less is hidden: no more than a share of what lies above there, seen from the rung's end. */
const SHARE_OF_TIP = 0.25;
function reachThere(over: Piece, mm: number, x: number, y: number, ux: number, uy: number): number {
  for (let way = NEAR_MM * 2; way < mm / SHARE_OF_TIP; way += NEAR_MM)
    if (!isOver(over, x + ux * way, y + uy * way)) return Math.min(mm, way * SHARE_OF_TIP);
  return mm;
}

function isOver(piece: Piece, x: number, y: number): boolean {
  const { rings, bounds } = knownOf(piece);
  if (x < bounds.left || x > bounds.right || y < bounds.top || y > bounds.bottom) return false;
  return isInside(rings, x, y);
}
