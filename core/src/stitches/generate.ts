import { ringsOf, runsOf, type Piece, type PieceKind } from '../pieces/piece.js';
import type { Point, Points } from '../geometry/vector.js';
import { isInside, signedArea } from '../geometry/polyline.js';
import { alongRings } from '../geometry/along-rings.js';
import { runAlong, runningLine } from './running.js';
import { satin } from './satin.js';
import { tatami } from './tatami.js';

/** Everything a stitch kind may ask about how it is to be sewn. */
export interface StitchSettings {
  readonly spacingMm: number;
  readonly fillStitchMm: number;
  readonly runStitchMm: number;
  readonly angle: number;
  readonly compensationMm: number;
}

/** Where the needle comes from and where it goes on to, if that is known. */
export interface Way {
  readonly entry?: Point;
  readonly exit?: Point;
}

/** Turns a piece into runs of needle points; more than one run only where the piece cannot be sewn in one go. */
type Generator = (piece: Piece, settings: StitchSettings, way: Way) => Points[];

/** One entry a stitch kind: adding a kind means adding a file and a line here. */
const GENERATORS: Readonly<Record<PieceKind, Generator>> = {
  running: (piece, settings, way) => [
    runningLine(
      runsOf(piece),
      { stitchLengthMm: settings.runStitchMm, widthMm: piece.widthMm, passes: piece.passes },
      way.entry,
    ),
  ],
  satin: (piece, settings, way) => satin(piece.columns, ringsOf(piece), settings, way.entry),
  tatami: (piece, settings, way) =>
    tatami(ringsOf(piece), {
      angle: settings.angle,
      spacingMm: settings.spacingMm,
      stitchLengthMm: settings.fillStitchMm,
      compensationMm: settings.compensationMm,
      ...way,
    }),
};

/** Angles tried when rows at the wanted one leave a piece in parts or cannot cover it. */
const OTHER_ANGLES = [90, 45, 135];

/**
 * Stitches of one piece. A fill that would fall apart at a thin neck is tried in other directions; a piece too small
 * for any row is sewn along its outline.
 */
export function stitchPiece(piece: Piece, settings: StitchSettings, way: Way): Points[] {
  const generate = GENERATORS[piece.kind];
  let best = generate(piece, settings, way).filter(isSewable);
  for (const turn of piece.kind === 'tatami' ? OTHER_ANGLES : []) {
    if (best.length === 1) break;
    const other = generate(piece, { ...settings, angle: settings.angle + turn }, way).filter(isSewable);
    if (other.length > 0 && (best.length === 0 || other.length < best.length)) best = other;
  }
  const rings = ringsOf(piece);
  // Parts that do not touch, as in pieces put together by hand, are sewn one by one.
  if (best.length > 1 && piece.kind === 'tatami' && isWhole(rings)) {
    return [joinAlongOutline(best, rings, settings.runStitchMm)];
  }
  if (best.length > 0) return best;
  const [ring] = rings;
  return [runAlong([...ring, ring[0], ring[1]], settings.runStitchMm)].filter(isSewable);
}

/**
 * Joins the parts of a fill along the piece's own outline: thread of its own colour on its own edge, and no jump.
 */
function joinAlongOutline(runs: readonly Points[], rings: readonly Points[], stitchMm: number): Points {
  const out = runs[0].slice();
  for (const run of runs.slice(1)) {
    const n = out.length;
    const way = alongRings(rings, { x: out[n - 2], y: out[n - 1] }, { x: run[0], y: run[1] });
    const stitched = runAlong(way, stitchMm);
    for (let i = 2; i < stitched.length - 2; i++) out.push(stitched[i]);
    for (const v of run) out.push(v);
  }
  return out;
}

/** Whether all rings but the largest are holes in it. */
function isWhole(rings: readonly Points[]): boolean {
  const sizes = rings.map((ring) => Math.abs(signedArea(ring)));
  const outer = rings[sizes.indexOf(Math.max(...sizes))];
  return rings.every((ring) => ring === outer || isInside([outer], ring[0], ring[1]));
}

const isSewable = (run: Points): boolean => run.length >= 4;
