import { simplify } from '../geometry/polyline.js';
import { ringsOf, type Piece } from '../pieces/piece.js';

/** Angles tried for every fill, in degrees apart. */
const CANDIDATES = 24;
const HALF_TURN = 180;

/** Edges at least so long, in mm and as a share of the whole outline, have a direction that rows should cross. */
const LEAST_EDGE_MM = 3;
const LEAST_EDGE_SHARE = 0.06;
/** Edges that leave a straight line by no more than this are straight. */
const STRAIGHT_MM = 0.12;
/** Rows nearer to the direction of an edge than this make saw-teeth along it. */
const CROSSING = 32;
const EDGE_WEIGHT = 30;

/** A straight part of an outline: its direction in degrees, and its share of the whole. */
export interface StraightEdge {
  readonly angle: number;
  readonly share: number;
}

/** The straight edges of a piece that are long enough to matter. */
export function straightEdges(piece: Piece): StraightEdge[] {
  const edges: { angle: number; length: number }[] = [];
  let around = 0;
  for (const ring of ringsOf(piece)) {
    const run = simplify([...ring, ring[0], ring[1]], STRAIGHT_MM);
    for (let i = 2; i < run.length; i += 2) {
      const [dx, dy] = [run[i] - run[i - 2], run[i + 1] - run[i - 1]];
      const length = Math.sqrt(dx * dx + dy * dy);
      around += length;
      if (length >= LEAST_EDGE_MM) edges.push({ angle: (Math.atan2(dy, dx) * 180) / Math.PI, length });
    }
  }
  return edges
    .map(({ angle, length }) => ({ angle, share: length / around }))
    .filter(({ share }) => share >= LEAST_EDGE_SHARE);
}

/** What rows at an angle cost at straight edges: nothing where they cross all of them steeply. */
function edgeCost(angle: number, edges: readonly StraightEdge[]): number {
  let cost = 0;
  for (const edge of edges) {
    const lacking = Math.max(0, CROSSING - angleBetween(angle, edge.angle)) / CROSSING;
    cost += edge.share * lacking * lacking;
  }
  return cost * EDGE_WEIGHT;
}

/** Least angle between two directions of rows: 0 to 90 degrees. */
export function angleBetween(a: number, b: number): number {
  const apart = Math.abs(a - b) % HALF_TURN;
  return Math.min(apart, HALF_TURN - apart);
}

/**
 * Angles of rows, so that they cross long straight edges, neighbouring fills differ and fills of one thread agree where they
 * can: each piece, the largest first, takes the angle that costs least against the neighbours decided before it.
 * @param base angle of the first fill in degrees
 * @param apart how much neighbours should differ at least; 0 sews all at `base`
 */
export function planAngles(pieces: readonly Piece[], base: number, apart: number): number[] {
  const angles = pieces.map(({ choices }) => {
    const own = choices.values['angle'];
    return typeof own === 'number' ? own : base;
  });
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
      const edges = straightEdges(pieces[i]);
      let best = usual;
      let least = Infinity;
      for (let k = 0; k < CANDIDATES; k++) {
        // From the usual angle outwards, to both sides in turn.
        const step = Math.ceil(k / 2) * (k % 2 === 0 ? -1 : 1);
        const angle = usual + (step * HALF_TURN) / CANDIDATES;
        let cost = angleBetween(angle, usual) * 0.02 + edgeCost(angle, edges);
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
