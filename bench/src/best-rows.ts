import { ciede2000, linearOf, linearToLab, mixHex } from '@open-kite/core';

const SCALE = 20;
const THREAD_MM = 0.4;
const MIXES = 256;
const REACH_SIGMAS = 4;

/**
 * How near whole rows of thread over a solid one can come to a gradient, wherever they lie: mean CIEDE2000 of the blurred
 * rows from the artwork, along the way. Rows are laid one by one where each helps most, or where the integral of the best
 * mix passes whole numbers, then moved until no move helps; the better of both.
 * @param marginMm left out at both ends
 */
export function bestRows(a: string, b: string, lengthMm: number, sigmaMm: number, marginMm: number): number {
  const n = Math.round(lengthMm * SCALE);
  const [first, last] = [Math.round(marginMm * SCALE), n - Math.round(marginMm * SCALE)];
  const [p, q] = [linearOf(a), linearOf(b)];
  const mixes = Array.from({ length: MIXES + 1 }, (_, k) => {
    const [r, g, blue] = p.map((v, c) => v + (q[c] - v) * (k / MIXES));
    return linearToLab(r, g, blue);
  });
  const far = Array.from({ length: n }, (_, i) => {
    const lab = linearToLab(...linearOf(mixHex(a, b, (i + 0.5) / n)));
    return Float64Array.from(mixes, (mix) => ciede2000(lab, mix));
  });
  const reach = REACH_SIGMAS * sigmaMm * SCALE;
  const bump = Float64Array.from({ length: 2 * reach * 10 + 1 }, (_, k) => {
    const x = (k / 10 - reach) / SCALE;
    const edge = (at: number): number => erf(at / (Math.SQRT2 * sigmaMm));
    return (edge(x + THREAD_MM / 2) - edge(x - THREAD_MM / 2)) / 2;
  });
  const around = (y: number): [number, number] => [
    Math.max(0, Math.ceil(y * SCALE - reach)),
    Math.min(n - 1, Math.floor(y * SCALE + reach)),
  ];
  const lay = (shares: Float64Array, y: number, sign: number): void => {
    const [from, to] = around(y);
    for (let i = from; i <= to; i++) shares[i] += sign * bump[Math.round((i + 0.5 - y * SCALE + reach) * 10)];
  };
  const cost = (shares: Float64Array, from: number, to: number): number => {
    let sum = 0;
    for (let i = Math.max(first, from); i < Math.min(last, to + 1); i++) {
      sum += far[i][Math.round(Math.min(1, Math.max(0, shares[i])) * MIXES)];
    }
    return sum;
  };
  /** What laying a row, or moving one, changes. */
  const change = (shares: Float64Array, to: number, from?: number): number => {
    const [low, high] = [around(Math.min(to, from ?? to))[0], around(Math.max(to, from ?? to))[1]];
    const before = cost(shares, low, high);
    if (from !== undefined) lay(shares, from, -1);
    lay(shares, to, 1);
    return cost(shares, low, high) - before;
  };
  const settle = (rows: number[]): number => {
    const shares = new Float64Array(n);
    for (const y of rows) lay(shares, y, 1);
    for (const step of [0.4, 0.4, 0.2, 0.2, 0.1, 0.1, 0.05, 0.05]) {
      for (let i = 0; i < rows.length; i++) {
        for (const to of [rows[i] - step, rows[i] + step]) {
          const tight = to - (rows[i - 1] ?? -1) < THREAD_MM || (rows[i + 1] ?? lengthMm + 1) - to < THREAD_MM;
          if (tight || to < 0 || to > lengthMm) continue;
          if (change(shares, to, rows[i]) < -1e-9) rows[i] = to;
          else change(shares, rows[i], to);
        }
      }
    }
    return cost(shares, first, last) / (last - first);
  };
  const laid: number[] = [];
  const shares = new Float64Array(n);
  for (;;) {
    let [best, least] = [-1, -1e-6];
    for (let y = 0.05; y < lengthMm; y += 0.1) {
      if (laid.some((other) => Math.abs(other - y) < THREAD_MM - 1e-9)) continue;
      const gain = change(shares, y);
      lay(shares, y, -1);
      if (gain < least) [best, least] = [y, gain];
    }
    if (best < 0) break;
    laid.push(best);
    lay(shares, best, 1);
  }
  const even: number[] = [];
  let sum = 0.5;
  for (let i = 0; i < n; i++) {
    sum += far[i].indexOf(Math.min(...far[i])) / MIXES / THREAD_MM / SCALE;
    if (sum < 1) continue;
    sum -= 1;
    even.push((i + 0.5) / SCALE);
  }
  return Math.min(settle(laid.sort((u, v) => u - v)), settle(even));
}

/** Error function, to 1e-7 (Abramowitz and Stegun 1964, 7.1.26). */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const tail = ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
  return Math.sign(x) * (1 - tail * Math.exp(-x * x));
}
