import { coverCurve } from './colour/cover-curve.js';
import type { DesignThread } from './design.js';
import type { Piece } from './pieces/piece.js';
import { isSamePaint, type Paint } from './pieces/area.js';
import type { FoundPieces } from './pieces/find-pieces.js';
import type { AreaGradient } from './pieces/gradient-areas.js';
import { shareAt, type Ramp } from './geometry/ramp.js';
import { distance } from './geometry/vector.js';

/** Beyond every piece, as a share of the way. */
const FAR = 1000;
/** Share of rows from which on a thread below is not needed under them. */
const COVERS_MOST = 0.6;
/** How far it reaches in under the rows that take its place. */
const UNDER_MM = 1;
/** Places of a whole ramp. */
const PLACES = 129;

/**
 * How much a thread of a gradient covers, from place to place.
 * @param hexes colours of the stops' threads, that of the cloth where one is bare
 */
export function rampOf(gradient: AreaGradient, stop: number, hexes: readonly string[]): Ramp {
  const { shape, x1, y1, x2, y2, stops, layers } = gradient;
  // Cut rows around a middle lie in no even distance.
  const rows = shape === 'linear' ? 'even' : 'cut';
  const band = (k: number): ((t: number) => number) | undefined => {
    if (k < 0 || k + 1 >= stops.length) return undefined;
    const curve = coverCurve(stops[k].hex, stops[k + 1].hex, hexes[k], hexes[k + 1], rows);
    const [from, to] = [stops[k].at, stops[k + 1].at];
    return (t) => (to > from ? shareAt(curve, (t - from) / (to - from)) : t >= to ? 1 : 0);
  };
  const rising = band(stop - 1);
  const next = band(stop + 1 < stops.length ? stop : -1);
  const fades = next !== undefined && stops[stop + 1].paint === undefined;
  const places = Array.from({ length: PLACES }, (_, i) => i / (PLACES - 1));
  const cover = places.map((t) => (rising ? rising(t) : 1) * (fades && next ? 1 - next(t) : 1));
  const reach = UNDER_MM / Math.max(UNDER_MM, distance(x1, y1, x2, y2));
  const takenAt = (t: number): number => {
    if (!next || fades) return 0;
    if (layers === 'beside') return next(t);
    const taken = next(Math.max(0, t - reach));
    return taken > COVERS_MOST ? taken : 0;
  };
  return {
    shape,
    x1,
    y1,
    x2,
    y2,
    cover,
    // Cut rows of all threads lie on the same places, so that one can be left out under another.
    ...((layers === 'beside' || shape === 'radial') && { over: places.map(takenAt) }),
    from: stop > 0 ? stops[stop - 1].at : -FAR,
    to: stop + 1 < stops.length ? stops[stop + 1].at : FAR,
  };
}

/** Pieces with gradients, each with how much it covers now that threads are known. */
export function rampPieces(
  { pieces }: FoundPieces,
  paints: readonly Paint[],
  threadOf: readonly number[],
  threads: readonly DesignThread[],
  clothHex: string,
): Piece[] {
  if (pieces.every(({ part }) => part === undefined)) return pieces as Piece[];
  const hexOf = (paint: Paint | undefined): string => {
    const at = paint ? paints.findIndex((other) => isSamePaint(other, paint)) : -1;
    return at < 0 ? clothHex : threads[threadOf[at]].hex;
  };
  // Letters that one gradient is laid over have one ramp.
  const known = new Map<string, Ramp>();
  return pieces.map((piece) => {
    const { part } = piece;
    if (!part) return piece;
    const hexes = part.gradient.stops.map(({ paint }) => hexOf(paint));
    const key = JSON.stringify([part, hexes]);
    const ramp = known.get(key) ?? rampOf(part.gradient, part.stop, hexes);
    known.set(key, ramp);
    return { ...piece, choices: { ...piece.choices, ramp } };
  });
}
