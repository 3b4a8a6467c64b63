import { ciede2000, linearToLab, type Lab } from './ciede2000.js';
import { fromHex, linearOf, toHex } from './srgb.js';

/** Places of a band at which its mix is looked for, and mixes that are tried. */
const SAMPLES = 65;
const MIXES = 128;
/** Rows are judged as they look blurred by this much. */
const SEEN_SIGMA_MM = 1;
const THREAD_MM = 0.4;
const SEEN_PLACES = 12;
const WAVES = 6;
/** A row over another thread shades what lies beside it, as if it were wider by this share. */
const SHADE = 0.1;
/** Curves that are kept. */
const MOST_KNOWN = 200;

/** Colour of a gradient between two stops, as artwork mixes them. */
export function mixHex(a: string, b: string, t: number): string {
  const [p, q] = [fromHex(a), fromHex(b)];
  const mix = (x: number, y: number): number => Math.round(x + (y - x) * t);
  return toHex({ r: mix(p.r, q.r), g: mix(p.g, q.g), b: mix(p.b, q.b) });
}

/** Mixes of two threads as light adds them, at even shares from the first to the second. */
function mixesOf(under: string, over: string, count: number): Lab[] {
  const [a, b] = [linearOf(under), linearOf(over)];
  return Array.from({ length: count }, (_, k) => {
    const t = k / (count - 1);
    return linearToLab(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t);
  });
}

/** How far two threads stay from a gradient whatever their shares: CIEDE2000, the mean along the way. */
export function mixMisfit(fromHexOfArt: string, toHexOfArt: string, under: string, over: string): number {
  const places = 17;
  const mixes = mixesOf(under, over, 65);
  let sum = 0;
  for (let i = 0; i < places; i++) {
    const lab = linearToLab(...linearOf(mixHex(fromHexOfArt, toHexOfArt, i / (places - 1))));
    sum += Math.min(...mixes.map((mix) => ciede2000(lab, mix)));
  }
  return sum / places;
}

const known = new Map<string, readonly number[]>();

/**
 * Shares of the second of two threads from one stop to the next: at each place the one that comes nearest to the gradient
 * (CIEDE2000), never falling, smooth, nothing at the start and all at the end.
 * @param rows whether they lie in even distances, over the other thread or beside its rows, or are cut so that none stand out
 */
export function coverCurve(
  fromHexOfArt: string,
  toHexOfArt: string,
  under: string,
  over: string,
  rows: 'over' | 'beside' | 'cut' = 'over',
): readonly number[] {
  const key = [fromHexOfArt, toHexOfArt, under, over, rows].join(' ');
  const before = known.get(key);
  if (before) return before;
  const mixes = mixesOf(under, over, MIXES + 1);
  const seen = rows === 'cut' ? SEEN_MIXES : SEEN_ROWS;
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
    const share = best / MIXES;
    return rows === 'over' ? share / (1 + SHADE * (1 - share)) : share;
  });
  for (let i = 1; i < SAMPLES; i++) shares[i] = Math.max(shares[i], shares[i - 1]);
  const smooth = shares.map(
    (share, i) => (shares[Math.max(0, i - 1)] + 2 * share + shares[Math.min(SAMPLES - 1, i + 1)]) / 4,
  );
  smooth[0] = 0;
  smooth[SAMPLES - 1] = 1;
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, smooth);
  return smooth;
}

/** Of rows that cannot be told from each other only the mix is seen. */
const SEEN_MIXES: readonly (readonly number[])[] = Array.from({ length: MIXES + 1 }, (_, k) => [k]);

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
