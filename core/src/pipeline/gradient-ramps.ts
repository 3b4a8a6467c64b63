import { coverCurve } from '../colour/cover-curve.js';
import type { DesignThread } from '../colour/design-thread.js';
import type { Piece } from '../pieces/piece.js';
import { isSamePaint, type Paint } from '../pieces/paint.js';
import type { FoundPieces } from '../pieces/found-pieces.js';
import { levelsOf } from '../pieces/gradient-areas.js';
import type { AreaGradient } from '../pieces/area-gradient.js';
import { shareAt, type Ramp } from '../geometry/ramp.js';
import { distance } from '../geometry/vector.js';

/** Beyond every piece, as a share of the way. */
const FAR = 1000;
/** Share of rows from which on a thread below is not needed under them. */
const COVERS_MOST = 0.6;
/** How far it reaches in under the rows that take its place. */
const UNDER_MM = 1;
/** Places of a whole ramp. */
const PLACES: readonly number[] = Array.from({ length: 129 }, (_, i) => i / 128);

/**
 * How much a thread of a gradient covers, from place to place.
 * @param hexes colours of the stops' threads, that of the cloth where one is bare
 */
export function rampOf(gradient: AreaGradient, stop: number, hexes: readonly string[]): Ramp {
  const { shape, x1, y1, x2, y2, stops, layers } = gradient;
  const levels = levelsOf(gradient);
  // Cut rows around a middle lie in no even distance.
  const rows = shape === 'linear' ? layers : 'cut';
  /** Share of a stop's thread on the way to its neighbour, which lies below it or is bare. */
  const fading = (k: number, other: number): Share => {
    const curve = coverCurve(stops[other].hex, stops[k].hex, hexes[other], hexes[k], rows);
    const [from, to] = [stops[other].at, stops[k].at];
    return (t) =>
      from === to ? (Math.sign(t - to) === Math.sign(other - k) ? 0 : 1) : shareAt(curve, (t - from) / (to - from));
  };
  const neighbours = (k: number): number[] => [k - 1, k + 1].filter((j) => stops[j]);
  const isOver = (k: number, j: number): boolean => !stops[j].paint || levels[k] > levels[j];
  const coverOf = (k: number): number[] => {
    const shares = neighbours(k).flatMap((j) => (isOver(k, j) ? [fading(k, j)] : []));
    return PLACES.map((t) => shares.reduce((product, share) => product * share(t), 1));
  };
  const fades = (k: number): boolean => neighbours(k).some((j) => !stops[j].paint);
  const above = neighbours(stop).filter((j) => stops[j].paint && levels[j] > levels[stop]);
  const reach = UNDER_MM / Math.max(UNDER_MM, distance(x1, y1, x2, y2));
  const covered = (list: readonly number[]): number[] =>
    PLACES.map((t) => {
      const share = Math.min(shareAt(list, t - reach), shareAt(list, t + reach));
      return share > COVERS_MOST ? share : 0;
    });
  const over = (): number[][] => {
    if (layers === 'beside') return above.map(coverOf);
    // Cut rows of all threads lie on the same places, so that one can be left out under another.
    if (shape === 'radial') return above.map((j) => covered(coverOf(j)));
    return above.filter((j) => !fades(j)).map(coverOf);
  };
  const taken = over();
  return {
    shape,
    x1,
    y1,
    x2,
    y2,
    cover: coverOf(stop),
    // Over cloth, rows that lie evenly show least of their own distances.
    rows: layers === 'beside' ? 'lattice' : fades(stop) ? 'even' : 'bundled',
    ...(taken.length > 0 && { over: taken }),
    from: stop > 0 ? stops[stop - 1].at : -FAR,
    to: stop + 1 < stops.length ? stops[stop + 1].at : FAR,
  };
}

/** A share from place to place along the way. */
type Share = (t: number) => number;

/** Pieces with gradients, each with how much it covers now that threads are known. */
export function rampPieces(
  { pieces }: FoundPieces,
  paints: readonly Paint[],
  threadOf: readonly number[],
  threads: readonly Pick<DesignThread, 'hex'>[],
  clothHex: string,
): Piece[] {
  if (pieces.every(({ gradient }) => gradient === undefined)) return pieces as Piece[];
  const hexOf = (paint: Paint | undefined): string => {
    const at = paint ? paints.findIndex((other) => isSamePaint(other, paint)) : -1;
    return at < 0 ? clothHex : threads[threadOf[at]].hex;
  };
  // Letters that one gradient is laid over have one ramp.
  const known = new Map<string, Ramp>();
  return pieces.map((piece) => {
    const { gradient: part } = piece;
    if (!part) return piece;
    const hexes = part.gradient.stops.map(({ paint }) => hexOf(paint));
    const key = JSON.stringify([part, hexes]);
    const ramp = known.get(key) ?? rampOf(part.gradient, part.stop, hexes);
    known.set(key, ramp);
    return { ...piece, choices: { ...piece.choices, ramp } };
  });
}
