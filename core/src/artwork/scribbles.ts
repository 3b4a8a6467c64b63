import { seededRandom } from '../geometry/chance.js';
import { flattenRing } from '../geometry/curve.js';
import type { Points } from '../geometry/vector.js';
import type { ArtShape, Artwork } from './artwork.js';

/** Outlines that cross themselves more often are scribbles: taking them apart would take minutes. */
export const MOST_CROSSINGS = 20_000;
const SAMPLED_PAIRS = 20_000;
/** Flat enough to count crossings. */
const FLATNESS_MM = 0.1;

/** The first shape of the artwork that crosses itself too often to be filled; undefined where there is none. */
export function findScribble(artwork: Artwork): ArtShape | undefined {
  return artwork.shapes.find(
    ({ curves }) => crossingsOf(curves.map((curve) => flattenRing(curve, FLATNESS_MM))) > MOST_CROSSINGS,
  );
}

/** About how often rings cross themselves and each other: from a sample of all pairs of edges where there are many. */
export function crossingsOf(rings: readonly Points[]): number {
  const edges = rings.flatMap((ring) => {
    const out: number[][] = [];
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      out.push([ring[j], ring[j + 1], ring[i], ring[i + 1]]);
    }
    return out;
  });
  const n = edges.length;
  const pairs = (n * (n - 1)) / 2;
  if (pairs <= MOST_CROSSINGS) return 0;
  const random = seededRandom(1);
  let hits = 0;
  for (let k = 0; k < SAMPLED_PAIRS; k++) {
    const a = edges[Math.floor(random() * n)];
    const b = edges[Math.floor(random() * n)];
    if (a !== b && segmentsCross(a, b)) hits++;
  }
  return (hits / SAMPLED_PAIRS) * pairs;
}

function segmentsCross([ax, ay, bx, by]: readonly number[], [cx, cy, dx, dy]: readonly number[]): boolean {
  const side = (px: number, py: number, qx: number, qy: number, x: number, y: number): number =>
    (qx - px) * (y - py) - (qy - py) * (x - px);
  return (
    side(ax, ay, bx, by, cx, cy) * side(ax, ay, bx, by, dx, dy) < 0 &&
    side(cx, cy, dx, dy, ax, ay) * side(cx, cy, dx, dy, bx, by) < 0
  );
}
