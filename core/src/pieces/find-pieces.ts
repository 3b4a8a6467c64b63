import { curveThrough, placeCurve, flattenRing, type Curve } from '../geometry/curve.js';
import { boundsOf, signedArea } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { isSame } from '../colour/srgb.js';
import { centreline } from '../trace/centreline.js';
import { distanceMap } from '../trace/distance-map.js';
import type { LabelMap } from '../trace/labels.js';
import type { Face } from '../trace/faces.js';
import type { Trace } from '../trace/trace.js';
import { findPieceAt, type PieceAnchor } from './piece-decisions.js';
import { FLATNESS_MM, type BarePiece, type Neighbour, type Piece } from './piece.js';

export interface PieceSettings {
  readonly pixelsPerMm: number;
  /** Areas smaller than this are not sewn. */
  readonly smallestMm2: number;
  /** Areas up to this mean width are sewn as lines. */
  readonly lineBelowMm: number;
  /** Left and upper edge of the picture, in mm around the middle of the hoop. */
  readonly left: number;
  readonly top: number;
  /** Labels that are left bare; what is beside them keeps its shape. */
  readonly bare: ReadonlySet<number>;
  /** Single pieces that are left bare, with their places in the hoop. */
  readonly leave?: readonly { readonly anchor: PieceAnchor; readonly x: number; readonly y: number }[];
  /** Pieces at most; of more, the largest are sewn. */
  readonly most?: number;
}

/** Areas found, those left out, and for each palette entry the thread it became (-1: none). */
export interface FoundPieces {
  readonly pieces: readonly Piece[];
  readonly tooSmall: number;
  /** Palette entry of each thread used, in thread order. */
  readonly threadLabels: readonly number[];
  /** Pieces left bare, each with the decision that did it. */
  readonly bare: readonly BarePiece[];
  /** Decisions that found no piece, by their place in the list. */
  readonly lost: readonly number[];
}

/** More than a machine will ever sew, and fewer than the stitch list can number. */
const MOST_PIECES = 20_000;

interface Sized {
  readonly face: Face;
  readonly outline: Curve[];
  readonly rings: Points[];
  readonly areaMm2: number;
}

/** The largest of many areas, in the order they came. */
function largest(areas: Sized[], most: number): Sized[] {
  if (areas.length <= most) return areas;
  const least = areas.map((a) => a.areaMm2).sort((a, b) => b - a)[most - 1];
  return areas.filter((a) => a.areaMm2 >= least).slice(0, most);
}

/** Widest place of a line compared with its mean width: ends and junctions are wider than the middle. */
const LINE_BULGE = 2.2;
/** Half a thread: lines stop this far before the end of their shape. */
const HALF_THREAD_MM = 0.2;

/** Turns traced areas into pieces: size, width, kind, centre lines and neighbours. */
export function findPieces(trace: Trace, map: LabelMap, settings: PieceSettings): FoundPieces {
  const { bounds } = trace;
  const scale = 1 / settings.pixelsPerMm;
  const distances = distanceMap(bounds.labels, bounds.width, bounds.height);
  const widest = widestPlaces(distances, bounds.components.of, bounds.components.count);
  const dx = settings.left * settings.pixelsPerMm;
  const dy = settings.top * settings.pixelsPerMm;

  const large: Sized[] = [];
  let tooSmall = 0;
  for (const face of trace.faces) {
    if (settings.bare.has(face.label)) continue;
    const outline = face.rings.map((ring) => placeCurve(ring, dx, dy, scale));
    const rings = outline.map((ring) => flattenRing(ring, FLATNESS_MM));
    const areaMm2 = rings.reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * Math.abs(signedArea(ring)), 0);
    if (areaMm2 < settings.smallestMm2) tooSmall++;
    else large.push({ face, outline, rings, areaMm2 });
  }
  const { sewn, bare, lost } = leaveBare(large, map, settings);
  const kept = largest(sewn, settings.most ?? MOST_PIECES);
  tooSmall += sewn.length - kept.length;

  // Ground that is sewn after all is sewn with the thread its colour has elsewhere.
  const twin = map.palette.findIndex((c, i) => i + 1 !== map.ground && isSame(c, map.palette[map.ground - 1])) + 1;
  const labelOf = (face: Face): number => (face.label === map.ground && twin > 0 ? twin : face.label);
  const threadLabels = [...new Set(kept.map(({ face }) => labelOf(face)))].sort((a, b) => a - b);
  const pieceOf = new Map<number, number>(kept.map(({ face }, i) => [face.component, i]));
  const neighbours = findNeighbours(trace, pieceOf, scale);
  const pieces = kept.map(({ face, outline, areaMm2 }, i): Piece => {
    const { component } = face;
    const widthPixels = 2 * distances[widest[component]];
    const x = (widest[component] % bounds.width) - 0.5;
    const y = Math.floor(widest[component] / bounds.width) - 0.5;
    let kind: Piece['kind'] = 'tatami';
    let paths: Curve[] = [];
    let widthMm = widthPixels * scale;
    if (widthMm <= settings.lineBelowMm * LINE_BULGE) {
      const line = centreline(bounds, component, distances, HALF_THREAD_MM * settings.pixelsPerMm);
      if (line.width * scale <= settings.lineBelowMm && line.paths.length > 0) {
        kind = 'running';
        widthMm = line.width * scale;
        paths = line.paths.map((points) => placeCurve(curveThrough(points), dx, dy, scale));
      }
    }
    return {
      id: `p${i + 1}`,
      origin: 'traced',
      thread: threadLabels.indexOf(labelOf(face)),
      colour: face.label - 1,
      kind,
      outline,
      paths,
      widthMm,
      areaMm2,
      bounds: boundsOf(outline.map((curve) => flattenRing(curve, FLATNESS_MM) as Points)),
      anchor: { x: (x + dx) * scale, y: (y + dy) * scale },
      neighbours: neighbours[i],
    };
  });
  return { pieces, tooSmall, threadLabels, bare, lost };
}

/** Parts the areas from those that decisions leave bare. */
function leaveBare(
  areas: Sized[],
  map: LabelMap,
  { leave = [], pixelsPerMm }: PieceSettings,
): { sewn: Sized[]; bare: BarePiece[]; lost: number[] } {
  if (leave.length === 0) return { sewn: areas, bare: [], lost: [] };
  const whole = (map.width * map.height) / (pixelsPerMm * pixelsPerMm);
  const candidates = areas.map(({ face, rings, areaMm2 }) => ({
    rings,
    bounds: boundsOf(rings),
    hex: map.infos[face.label - 1].anchor.hex,
    share: areaMm2 / whole,
  }));
  const bareBy = new Map<number, number>();
  const lost: number[] = [];
  leave.forEach(({ anchor, x, y }, decision) => {
    const at = findPieceAt(candidates, anchor, x, y);
    if (at < 0) lost.push(decision);
    else bareBy.set(at, decision);
  });
  return {
    sewn: areas.filter((_, i) => !bareBy.has(i)),
    bare: [...bareBy].map(([i, decision]) => ({
      outline: areas[i].outline,
      bounds: candidates[i].bounds,
      areaMm2: areas[i].areaMm2,
      colour: areas[i].face.label - 1,
      decision,
    })),
    lost,
  };
}

/** For each component, the framed pixel farthest from its boundary. */
function widestPlaces(distances: Float32Array, of: Int32Array, count: number): Int32Array {
  const widest = new Int32Array(count).fill(-1);
  for (let i = 0; i < of.length; i++) {
    const at = widest[of[i]];
    if (at < 0 || distances[i] > distances[at]) widest[of[i]] = i;
  }
  return widest;
}

function findNeighbours(trace: Trace, pieceOf: ReadonlyMap<number, number>, scale: number): Neighbour[][] {
  const shared = new Map<number, Map<number, number>>();
  const add = (a: number, b: number, length: number): void => {
    let row = shared.get(a);
    if (!row) shared.set(a, (row = new Map()));
    row.set(b, (row.get(b) ?? 0) + length);
  };
  for (const arc of trace.bounds.arcs) {
    const a = pieceOf.get(arc.left);
    const b = pieceOf.get(arc.right);
    if (a === undefined || b === undefined || a === b) continue;
    // Cracks overstate slanted borders; 0.8 is the mean over all directions.
    const length = arc.corners.length * scale * 0.8;
    add(a, b, length);
    add(b, a, length);
  }
  return Array.from({ length: pieceOf.size }, (_, i) =>
    [...(shared.get(i) ?? [])].map(([piece, borderMm]) => ({ piece, borderMm })).sort((a, b) => a.piece - b.piece),
  );
}
