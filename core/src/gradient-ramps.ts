import { ciede2000, linearToLab } from './colour/ciede2000.js';
import { fromHex, LINEAR, toHex } from './colour/srgb.js';
import type { DesignThread } from './design.js';
import type { Piece } from './pieces/piece.js';
import { isSamePaint, type Paint } from './pieces/area.js';
import type { FoundPieces } from './pieces/find-pieces.js';
import type { AreaGradient } from './pieces/gradient-areas.js';
import { shareAt, type Ramp } from './geometry/ramp.js';

/** Places of a band at which its mix is looked for, and mixes that are tried. */
const SAMPLES = 65;
const MIXES = 128;
/** Rows are judged as they look blurred by this much. */
const SEEN_SIGMA_MM = 1;
const THREAD_MM = 0.4;
const SEEN_PLACES = 12;
const WAVES = 6;
/** Beyond every piece, as a share of the way. */
const FAR = 1000;
/** Places of a whole ramp. */
const PLACES = 129;

type Linear = readonly [number, number, number];

function linearOf(hex: string): Linear {
  const { r, g, b } = fromHex(hex);
  return [LINEAR[r], LINEAR[g], LINEAR[b]];
}

/** Colour of a gradient between two stops, as artwork mixes them. */
export function mixHex(a: string, b: string, t: number): string {
  const [p, q] = [fromHex(a), fromHex(b)];
  const mix = (x: number, y: number): number => Math.round(x + (y - x) * t);
  return toHex({ r: mix(p.r, q.r), g: mix(p.g, q.g), b: mix(p.b, q.b) });
}

/**
 * Shares of the second of two threads from one stop to the next: at each place the one that comes nearest to the gradient
 * (CIEDE2000), never falling, smooth, nothing at the start and all at the end.
 * @param seen what is seen of each share: mixes, as indices
 */
export function coverCurve(
  fromHexOfArt: string,
  toHexOfArt: string,
  under: string,
  over: string,
  seen: readonly (readonly number[])[] = SEEN_EVEN,
): number[] {
  const [a, b] = [linearOf(under), linearOf(over)];
  const mixes = Array.from({ length: MIXES + 1 }, (_, k) => {
    const t = k / MIXES;
    return linearToLab(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t);
  });
  const shares = Array.from({ length: SAMPLES }, (_, i) => {
    const lab = linearToLab(...linearOf(mixHex(fromHexOfArt, toHexOfArt, i / (SAMPLES - 1))));
    const away = mixes.map((mix) => ciede2000(lab, mix));
    let best = 0;
    let least = Infinity;
    seen.forEach((places, k) => {
      let sum = 0;
      for (const mix of places) sum += away[mix];
      if (sum < least) [least, best] = [sum, k];
    });
    return best / MIXES;
  });
  for (let i = 1; i < SAMPLES; i++) shares[i] = Math.max(shares[i], shares[i - 1]);
  const smooth = shares.map(
    (share, i) => (shares[Math.max(0, i - 1)] + 2 * share + shares[Math.min(SAMPLES - 1, i + 1)]) / 4,
  );
  smooth[0] = 0;
  smooth[SAMPLES - 1] = 1;
  return smooth;
}

/** Of rows that cannot be told from each other only the mix is seen. */
const SEEN_EVEN: readonly (readonly number[])[] = Array.from({ length: MIXES + 1 }, (_, k) => [k]);

/**
 * What the eye makes of rows that cover each share: mixes at even places from the middle of a row to half way to the next.
 * Far apart, rows are seen one by one, and a place is nearer to either thread than to their mix.
 */
const SEEN_ROWS: readonly (readonly number[])[] = Array.from({ length: MIXES + 1 }, (_, k) => {
  const share = k / MIXES;
  return Array.from({ length: SEEN_PLACES }, (_unused, place) => {
    const phase = (place + 0.5) / SEEN_PLACES / 2;
    let seen = share;
    for (let wave = 1; share > 0 && wave <= WAVES; wave++) {
      const waves = (SEEN_SIGMA_MM * wave * share) / THREAD_MM;
      const edge = Math.sin(Math.PI * wave * share) / (Math.PI * wave);
      seen += 2 * edge * Math.exp(-2 * (Math.PI * waves) ** 2) * Math.cos(2 * Math.PI * wave * phase);
    }
    return Math.round(Math.min(1, Math.max(0, seen)) * MIXES);
  });
});

/**
 * How much a thread of a gradient covers, from place to place.
 * @param hexes colours of the stops' threads, that of the cloth where one is bare
 */
export function rampOf(gradient: AreaGradient, stop: number, hexes: readonly string[]): Ramp {
  const { shape, x1, y1, x2, y2, stops, layers } = gradient;
  // Cut rows around a middle lie in no even distance.
  const seen = shape === 'linear' ? SEEN_ROWS : SEEN_EVEN;
  const band = (k: number): ((t: number) => number) | undefined => {
    if (k < 0 || k + 1 >= stops.length) return undefined;
    const curve = coverCurve(stops[k].hex, stops[k + 1].hex, hexes[k], hexes[k + 1], seen);
    const [from, to] = [stops[k].at, stops[k + 1].at];
    return (t) => (to > from ? shareAt(curve, (t - from) / (to - from)) : t >= to ? 1 : 0);
  };
  const rising = band(stop - 1);
  const next = band(stop + 1 < stops.length ? stop : -1);
  const fades = next !== undefined && stops[stop + 1].paint === undefined;
  const places = Array.from({ length: PLACES }, (_, i) => i / (PLACES - 1));
  const cover = places.map((t) => (rising ? rising(t) : 1) * (fades && next ? 1 - next(t) : 1));
  const beside = layers === 'beside' && next !== undefined && !fades;
  return {
    shape,
    x1,
    y1,
    x2,
    y2,
    cover,
    ...(layers === 'beside' && { over: places.map((t) => (beside && next ? next(t) : 0)) }),
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
