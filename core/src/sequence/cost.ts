import type { SewingFigures } from './figures.js';

/** Bobbin thread a stitch takes, as a share of its top thread. */
export const BOBBIN_SHARE = 0.55;

/** What a shop pays, in its own currency; 0 where it does not count. */
export interface Prices {
  /** A kilometre of top thread, and of bobbin thread. */
  readonly threadKm: number;
  readonly bobbinKm: number;
  /** An hour of the machine, with whoever stands at it. */
  readonly hour: number;
  /** Cloth, stabiliser and whatever else one piece takes. */
  readonly piece: number;
}

/** What sewing a design once takes and costs. */
export interface PieceCost {
  readonly metres: number;
  readonly bobbinMetres: number;
  readonly minutes: number;
  readonly thread: number;
  readonly bobbin: number;
  readonly machine: number;
  readonly piece: number;
  readonly total: number;
}

/**
 * Cost of one piece.
 * @param needles decides on the minutes: with one, threads are changed by hand
 */
export function costOf(
  figures: Pick<SewingFigures, 'threads' | 'minutes'>,
  prices: Prices,
  needles: number,
): PieceCost {
  const metres = figures.threads.reduce((sum, { lengthM }) => sum + lengthM, 0);
  const bobbinMetres = metres * BOBBIN_SHARE;
  const minutes = needles > 1 ? figures.minutes.multiNeedle : figures.minutes.oneNeedle;
  const parts = {
    thread: (metres / 1000) * prices.threadKm,
    bobbin: (bobbinMetres / 1000) * prices.bobbinKm,
    machine: (minutes / 60) * prices.hour,
    piece: prices.piece,
  };
  return { ...parts, metres, bobbinMetres, minutes, total: parts.thread + parts.bobbin + parts.machine + parts.piece };
}
