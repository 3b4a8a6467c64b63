import { seededRandom } from '../geometry/chance.js';
import { flattenRing } from '../geometry/curve.js';
import { segmentsCross, type Edge } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { ArtShape, Artwork } from './artwork.js';

/** Outlines that cross themselves more often are scribbles: taking them apart would take minutes. */
export const MOST_CROSSINGS = 5000;
/** The same of all outlines by themselves together, and of outlines that cross each other. */
const MOST_IN_ALL = 12_000;
const MOST_BETWEEN = 60_000;
/** Pairs of edges that are looked at: fewer where there are few. */
const SAMPLED_PAIRS = 20_000;
const FEWEST_SAMPLES = 100;
const PAIRS_BETWEEN = 200_000;
/** Fewer crossings among those looked at may be chance. */
const FEWEST_HITS = 8;
/** Flat enough to count crossings. */
const FLATNESS_MM = 0.1;

/** The shape with which outlines cross themselves or each other too often to be sewn; undefined where none does. */
export function findScribble(artwork: Artwork): ArtShape | undefined {
  let sum = 0;
  const edges = artwork.shapes.map(({ curves }) => edgesOf(curves.map((curve) => flattenRing(curve, FLATNESS_MM))));
  const alone = artwork.shapes.find((_, i) => {
    const crossings = crossingsAmong(edges[i]);
    sum += crossings;
    return crossings > MOST_CROSSINGS || sum > MOST_IN_ALL;
  });
  return alone ?? (crossingsBetween(edges) > MOST_BETWEEN ? artwork.shapes[artwork.shapes.length - 1] : undefined);
}

/** About how often rings cross themselves and each other: from a sample of all pairs of edges where there are many. */
export const crossingsOf = (rings: readonly Points[]): number => crossingsAmong(edgesOf(rings));

function edgesOf(rings: readonly Points[]): Edge[] {
  return rings.flatMap((ring) => {
    const out: Edge[] = [];
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      out.push([ring[j], ring[j + 1], ring[i], ring[i + 1]]);
    }
    return out;
  });
}

function crossingsAmong(edges: readonly Edge[]): number {
  const n = edges.length;
  const pairs = (n * (n - 1)) / 2;
  if (pairs < 1) return 0;
  const random = seededRandom(1);
  const samples = Math.min(SAMPLED_PAIRS, Math.max(FEWEST_SAMPLES, Math.ceil(pairs / 10)));
  let hits = 0;
  for (let k = 0; k < samples; k++) {
    const a = edges[Math.floor(random() * n)];
    const b = edges[Math.floor(random() * n)];
    if (a !== b && segmentsCross(a, b)) hits++;
  }
  return (hits / samples) * pairs;
}

/** About how often outlines of different shapes cross. */
function crossingsBetween(shapes: readonly (readonly Edge[])[]): number {
  const edges = shapes.flat();
  const of = shapes.flatMap((list, i) => list.map(() => i));
  const n = edges.length;
  const pairs = (n * (n - 1)) / 2;
  if (pairs <= MOST_BETWEEN) return 0;
  const random = seededRandom(2);
  let hits = 0;
  for (let k = 0; k < PAIRS_BETWEEN; k++) {
    const a = Math.floor(random() * n);
    const b = Math.floor(random() * n);
    if (of[a] !== of[b] && segmentsCross(edges[a], edges[b])) hits++;
  }
  return hits < FEWEST_HITS ? 0 : (hits / PAIRS_BETWEEN) * pairs;
}
