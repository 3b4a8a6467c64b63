import type { Piece } from '../pieces/piece.js';

/** Angles tried for every fill, in degrees apart. */
const CANDIDATES = 12;
const HALF_TURN = 180;

/** Least angle between two directions of rows: 0 to 90 degrees. */
export function angleBetween(a: number, b: number): number {
  const apart = Math.abs(a - b) % HALF_TURN;
  return Math.min(apart, HALF_TURN - apart);
}

/**
 * Angles of rows, so that neighbouring fills differ and fills of one thread agree where they can: each piece, the largest
 * first, takes the angle that costs least against the neighbours decided before it.
 * @param base angle of the first fill in degrees
 * @param apart how much neighbours should differ at least; 0 sews all at `base`
 */
export function planAngles(pieces: readonly Piece[], base: number, apart: number): number[] {
  const angles = pieces.map(() => base);
  if (apart <= 0) return angles;
  const decided = new Uint8Array(pieces.length);
  const ofThread = new Map<number, number>();
  const fills = pieces.map((_, i) => i).filter((i) => pieces[i].family === 'area');
  fills.sort((a, b) => pieces[b].areaMm2 - pieces[a].areaMm2 || a - b);
  for (const i of fills) {
    const own = pieces[i].choices.values['angle'];
    const usual = ofThread.get(pieces[i].thread) ?? base;
    if (typeof own === 'number') angles[i] = own;
    else {
      let best = usual;
      let least = Infinity;
      for (let k = 0; k < CANDIDATES; k++) {
        // From the usual angle outwards, to both sides in turn.
        const step = Math.ceil(k / 2) * (k % 2 === 0 ? -1 : 1);
        const angle = usual + (step * HALF_TURN) / CANDIDATES;
        let cost = angleBetween(angle, usual) * 0.02;
        for (const { piece, borderMm } of pieces[i].neighbours) {
          if (!decided[piece] || pieces[piece].family !== 'area') continue;
          const lacking = Math.max(0, apart - angleBetween(angle, angles[piece])) / apart;
          cost += lacking * (4 + Math.min(20, borderMm));
        }
        if (cost < least - 1e-9) [least, best] = [cost, angle];
      }
      angles[i] = best > 90 ? best - HALF_TURN : best <= -90 ? best + HALF_TURN : best;
    }
    decided[i] = 1;
    if (!ofThread.has(pieces[i].thread)) ofThread.set(pieces[i].thread, angles[i]);
  }
  return angles;
}
