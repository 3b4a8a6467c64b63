import { isInside, lengthOf } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';
import { ringsOf, runsOf, type Piece } from '../pieces/piece.js';

/** Where the needle may come into a piece and leave it. */
export interface Portals {
  readonly places: readonly Point[];
  /** The first of them, where it can be left; all where nothing is said. */
  readonly exits?: readonly Point[];
  /** A piece that is left where it is entered, by its far end, anywhere at the cost of a run below it, or anywhere at no cost. */
  readonly leaves: 'here' | 'other' | 'below' | 'anywhere';
}

const AREA_PLACES = 24;
const RING_PLACES = 8;

/** By the forms they lie on, which stay while pieces are found again and again. */
const seen = new WeakMap<readonly unknown[], { readonly key: string; readonly portals: Portals }>();

/** Places on the outline of a fill, the ends of columns and lines. */
export function portalsOf(piece: Piece): Portals {
  const { family, kind, passes, anchor, outline, columns, paths } = piece;
  const forms = family === 'area' ? outline : family === 'column' ? columns : paths;
  const key = `${family} ${kind} ${passes} ${anchor.x} ${anchor.y}`;
  const known = seen.get(forms);
  if (known?.key === key) return known.portals;
  const portals = findPortals(piece);
  seen.set(forms, { key, portals });
  return portals;
}

function findPortals(piece: Piece): Portals {
  if (piece.family === 'area') return { places: alongRings(ringsOf(piece)), leaves: 'anywhere' };
  if (piece.family === 'column') {
    const places = piece.columns.flatMap(({ rungs, spine, closed }): Point[] => {
      const n = spine.length / 2;
      // By the middle of its ends, or by their corners.
      if (!closed) return [0, n - 1].flatMap((k) => [endOf(piece, rungs, spine, k), ...gatesOf(rungs, k)]);
      return Array.from({ length: RING_PLACES }, (_, k) => pointAt(spine, Math.floor((k * n) / RING_PLACES)));
    });
    if (places.length === 0) return { places: [piece.anchor], leaves: 'here' };
    if (piece.kind !== 'satin') return { places, leaves: 'here' };
    // They are come to from the side that is nearest, and go on below.
    const sides = piece.columns.flatMap(({ rungs }) => sidesOf(rungs));
    return { places: [...places, ...sides], exits: places, leaves: 'below' };
  }
  const runs = runsOf(piece);
  const places = runs.flatMap((run) => [pointAt(run, 0), pointAt(run, run.length / 2 - 1)]);
  const through = runs.length === 1 && (piece.passes === 1 || piece.passes === 3 || piece.kind !== 'running');
  return { places, leaves: through ? 'other' : 'here' };
}

/** Gates along the sides of a column stand so far apart. */
const SIDE_MM = 1.5;

/** Places just inside both sides of a column, ends aside. */
function sidesOf(rungs: Points): Point[] {
  const out: Point[] = [];
  const n = rungs.length / 4;
  let way = 0;
  for (let k = 1; k < n - 1; k++) {
    const middle = (i: number): [number, number] => [
      (rungs[i * 4] + rungs[i * 4 + 2]) / 2,
      (rungs[i * 4 + 1] + rungs[i * 4 + 3]) / 2,
    ];
    const [x0, y0] = middle(k - 1);
    const [x1, y1] = middle(k);
    way += distance(x0, y0, x1, y1);
    if (way < SIDE_MM) continue;
    way = 0;
    out.push(...gatesOf(rungs, k));
  }
  return out;
}

/** A gate lies so far inside the end of a rung. */
const INSIDE_MM = 0.25;

/** Places just inside both ends of a rung; none where that is too short to have two. */
function gatesOf(rungs: Points, k: number): Point[] {
  const [ax, ay, bx, by] = rungs.slice(k * 4, k * 4 + 4);
  const length = distance(ax, ay, bx, by);
  if (length < 4 * INSIDE_MM) return [];
  const t = INSIDE_MM / length;
  return [
    { x: ax + (bx - ax) * t, y: ay + (by - ay) * t },
    { x: bx + (ax - bx) * t, y: by + (ay - by) * t },
  ];
}

/** The middle of an end: of its rung, where the middle line was drawn on past the edge. */
function endOf(piece: Piece, rungs: Points, spine: Points, k: number): Point {
  const [ax, ay, bx, by] = rungs.slice(k * 4, k * 4 + 4);
  const middle = { x: (ax + bx) / 2, y: (ay + by) / 2 };
  const end = pointAt(spine, k);
  const isNear = distance(middle.x, middle.y, end.x, end.y) <= distance(ax, ay, bx, by) / 2 + INSIDE_MM;
  return isNear || isInside(ringsOf(piece), end.x, end.y) ? end : middle;
}

const pointAt = (points: Points, i: number): Point => ({ x: points[i * 2], y: points[i * 2 + 1] });

/** Places evenly along the rings, the longest first. */
function alongRings(rings: readonly Points[]): Point[] {
  const lengths = rings.map((ring) => lengthOf([...ring, ring[0], ring[1]]));
  const step = Math.max(2, Math.max(...lengths) / AREA_PLACES);
  return rings.flatMap((ring, i): Point[] => {
    // Short rings offer nothing worth a choice; but somewhere every piece is entered.
    if (lengths[i] < step / 2 && lengths[i] < Math.max(...lengths)) return [];
    const out = [pointAt(ring, 0)];
    let way = 0;
    for (let k = 2; k < ring.length; k += 2) {
      way += distance(ring[k - 2], ring[k - 1], ring[k], ring[k + 1]);
      if (way < step) continue;
      out.push(pointAt(ring, k / 2));
      way = 0;
    }
    return out;
  });
}
