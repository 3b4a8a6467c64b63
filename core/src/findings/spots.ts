import { clustersOver } from '../forecast/clusters.js';
import type { Point } from '../geometry/vector.js';
import type { Surface } from './surface.js';

/** A place where something else is seen than should be. */
export interface Spot {
  readonly at: Point;
  /** Piece it lies in. */
  readonly piece: number;
  readonly mm2: number;
}

/**
 * Places inside pieces where a test holds.
 * @param deepMm how far from the piece's edge they lie at least
 * @param leastMm2 smaller ones are left out
 * @returns the largest first
 */
export function spotsOf(
  surface: Surface,
  deepMm: number,
  leastMm2: number,
  test: (cell: number, piece: number) => boolean,
): Spot[] {
  const { piece, depth, width, cellMm, placeOf } = surface;
  const deep = Math.max(1, Math.round(deepMm / cellMm));
  const wrong = new Uint8Array(piece.length);
  for (let cell = 0; cell < piece.length; cell++) {
    if (depth[cell] >= deep && test(cell, piece[cell])) wrong[cell] = 1;
  }
  return clustersOver(wrong, width, 0)
    .map(({ cells }) => {
      const middle = cells[Math.floor(cells.length / 2)];
      return { at: placeOf(middle), piece: piece[middle], mm2: cells.length * cellMm * cellMm };
    })
    .filter(({ mm2 }) => mm2 >= leastMm2)
    .sort((a, b) => b.mm2 - a.mm2);
}
