import { chain, inverseOf, mapPoint, mapRun, scaleOf, type Matrix } from '../artwork/matrix.js';
import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { fromHex } from '../colour/srgb.js';
import { boundsOf, distanceToRings, isInside, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Anchor } from '../trace/colour-decisions.js';
import type { Area } from './area.js';
import { ringsOf, type Piece } from './piece.js';
import type { PieceRef } from './piece-ref.js';

/** A piece that a reference may mean. */
export interface Candidate {
  readonly object: string;
  /** Which of the pieces of its object, where those are named. */
  readonly part?: string;
  readonly rings: readonly Points[];
  readonly bounds: Bounds;
  /** Colour before the light is changed. */
  readonly hex: string;
  /** Area as a share of its object's. */
  readonly share: number;
}

/** A place of an object's own frame on the cloth: mm around the hoop's middle. */
export type ToHoop = (u: number, v: number) => { readonly x: number; readonly y: number };

/** A frame of an object, where a piece that was found in it has been moved on the cloth. */
export const movedFrame = (toHoop: ToHoop, moved: Matrix | undefined): ToHoop =>
  moved
    ? (u, v) => {
        const { x, y } = toHoop(u, v);
        const [mx, my] = mapPoint(moved, x, y);
        return { x: mx, y: my };
      }
    : toHoop;

/** A frame as an affine map: those of all objects are. */
export function frameMatrix(toHoop: ToHoop): Matrix {
  const o = toHoop(0, 0);
  const u = toHoop(1, 0);
  const v = toHoop(0, 1);
  return { a: u.x - o.x, b: u.y - o.y, c: v.x - o.x, d: v.y - o.y, e: o.x, f: o.y };
}

/** A map of an object's own frame, as one of the cloth. */
export function onCloth(by: Matrix, toHoop: ToHoop): Matrix {
  const frame = frameMatrix(toHoop);
  return chain(chain(frame, by), inverseOf(frame));
}

/** A map of the cloth, as one of an object's own frame. */
export function inFrame(m: Matrix, toHoop: ToHoop): Matrix {
  const frame = frameMatrix(toHoop);
  return chain(chain(inverseOf(frame), m), frame);
}

/** A piece found at the place of a reference may differ in colour (CIEDE2000) and in area by this much. */
const FAR_IN_COLOUR = 12;
const TIMES_LARGER = 4;
/** A piece that lies beside the place must be this near, in mm, and of nearly the same size. */
const BESIDE_MM = 1.5;
const TIMES_LARGER_BESIDE = 1.6;
/** What being quite another piece weighs, where that is allowed at all. */
const OTHER = 100;
/** A piece of another colour must be of just the same size. */
const TIMES_LARGER_RECOLOURED = 1.1;

/**
 * The one way in which a piece is found again, by decisions, selections and orders alike. A named piece is found by its
 * name; one that a trace found is that at its place and of its colour that is nearest in size, failing that one of the
 * same size close by.
 * @param toHoop frame of the reference's object
 * @param lenient whether, where there is no such piece, whatever lies at the place now is meant
 * @returns the candidate's index, or -1 where there is none
 */
export function findAgain(candidates: readonly Candidate[], ref: PieceRef, toHoop: ToHoop, lenient = false): number {
  const { object, anchor, part } = ref;
  if (!anchor) return candidates.findIndex((c) => c.object === object && c.part === part);
  const { x, y } = toHoop(anchor.u, anchor.v);
  const lab = rgbToLab(fromHex(anchor.hex));
  let best = -1;
  let least = Infinity;
  candidates.forEach(({ object: own, part: named, rings, bounds, hex, share }, i) => {
    if (own !== object || named !== undefined) return;
    const apart = Math.max(bounds.left - x, x - bounds.right, bounds.top - y, y - bounds.bottom);
    if (apart > BESIDE_MM) return;
    const times = Math.max(share, 1e-9) / Math.max(1e-9, anchor.share);
    const larger = Math.max(times, 1 / times);
    const far = ciede2000(lab, rgbToLab(fromHex(hex)));
    // Colours that were put together change the colour of a piece, but not its shape.
    const other = larger > TIMES_LARGER || (far > FAR_IN_COLOUR && larger > TIMES_LARGER_RECOLOURED);
    if (other && !lenient) return;
    let score = Math.min(larger, OTHER) + far / FAR_IN_COLOUR + (other ? OTHER : 0);
    if (apart > 0 || !isInside(rings, x, y)) {
      if (other || larger > TIMES_LARGER_BESIDE) return;
      const gap = distanceToRings(rings, x, y);
      if (gap > BESIDE_MM) return;
      // Worse than whatever the place lies in.
      score += 10 + gap;
    }
    if (score < least) {
      least = score;
      best = i;
    }
  });
  return best;
}

/** Sizes that references are measured against. */
export interface Yardstick {
  /** Area of a whole object in mm². */
  readonly wholeMm2: (object: string) => number;
  /** Colours of a design, for what its pieces had before the light was changed. */
  readonly colours: readonly { readonly anchor: Anchor }[];
}

/** The pieces of a design, to be found again; of the threads of a gradient only the first is. */
export function candidatesOf(pieces: readonly Piece[], { wholeMm2, colours }: Yardstick): Candidate[] {
  return pieces.map((piece, i): Candidate => {
    const { object, part, colour, partOf, moved } = piece;
    const back = moved && inverseOf(moved);
    const rings = ringsOf(piece);
    const home = back ? rings.map((ring) => mapRun(back, ring)) : rings;
    return {
      object,
      part: partOf === i ? part : `${FOLLOWS}${partOf}`,
      rings: home,
      bounds: back ? boundsOf(home) : piece.bounds,
      hex: colours[colour]?.anchor.hex ?? '#000000',
      share: homeMm2(piece) / wholeMm2(object),
    };
  });
}

/**
 * What a piece of a design is called, so that it is found again.
 * @param toFrame from the cloth to the frame of the piece's object
 */
export function refOfPiece(
  piece: Piece,
  { wholeMm2, colours }: Yardstick,
  toFrame: (x: number, y: number) => { readonly u: number; readonly v: number },
): PieceRef {
  const { object, part, origin, anchor, colour, moved } = piece;
  if (origin === 'drawn' || origin === 'outline') return part === undefined ? { object } : { object, part };
  const hex = colours[colour]?.anchor.hex ?? '#000000';
  const [x, y] = moved ? mapPoint(inverseOf(moved), anchor.x, anchor.y) : [anchor.x, anchor.y];
  return { object, anchor: { hex, ...toFrame(x, y), share: Math.min(1, homeMm2(piece) / wholeMm2(object)) } };
}

/** Area of the shape a piece was found as, before it was made larger or smaller. */
function homeMm2({ shapeMm2, moved }: Piece): number {
  const scale = moved ? scaleOf(moved) : 1;
  return shapeMm2 / (scale * scale);
}

/** Places that differ by less are the same, as shares of a picture's sides. */
const SAME_PLACE = 0.01;

/** Whether two references mean the same piece of one design. */
export function isSameRef(a: PieceRef, b: PieceRef): boolean {
  if (a.object !== b.object || a.part !== b.part || !a.anchor !== !b.anchor) return false;
  if (!a.anchor || !b.anchor) return true;
  const near = Math.abs(a.anchor.u - b.anchor.u) + Math.abs(a.anchor.v - b.anchor.v) < SAME_PLACE;
  return near && Math.abs(a.anchor.share - b.anchor.share) <= 0.5 * Math.max(a.anchor.share, b.anchor.share);
}

/** Part of a piece that is sewn with another one of the same gradient: nothing means it. */
export const FOLLOWS = 'with ';

/**
 * An area to be found again: where it was found, wherever it has been moved since.
 * @param part name among the pieces of its object, where those have names
 */
export function candidateOf(area: Area, wholeMm2: number, part = area.part): Candidate {
  const { object, hex, moved } = area;
  const back = moved && inverseOf(moved);
  const rings = back ? area.rings.map((ring) => mapRun(back, ring)) : area.rings;
  const scale = back ? scaleOf(back) : 1;
  const share = ((area.shapeMm2 ?? area.areaMm2) * scale * scale) / wholeMm2;
  return { object, part, rings, bounds: boundsOf(rings), hex, share };
}
