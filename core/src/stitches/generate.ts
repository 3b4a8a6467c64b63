import { alongRings } from '../geometry/along-rings.js';
import { isInside, signedArea } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { ringsOf, runsOf, type Piece } from '../pieces/piece.js';
import { compensationFor, fabricNamed, type Fabric } from './fabrics.js';
import { stitchKindOf } from './kinds/index.js';
import { measuredPull, type PullAt } from './measured-cloth.js';
import { runAlong } from './running.js';
import { valuesOf, type SewnShape, type SharedSettings, type Way } from './stitch-kind.js';
import { underlayFor, UNDERLAYS, type PieceUnderlay } from './underlay.js';

/** How the pieces of a design are sewn, unless something else is said of one. */
export interface StitchSettings extends SharedSettings {
  readonly fabric: Fabric;
  /** Pull compensation of the whole design; by the fabric where it is null. */
  readonly compensationMm: number | null;
}

/** What the piece covers beyond its own outline, because a neighbour is sewn over it later. */
export interface Reach {
  /** Its rings, grown under the neighbours. */
  readonly rings?: readonly Points[];
  readonly at?: SewnShape['reachAt'];
}

/** Length of the stitches that pull at the edges of a piece: across a column, along the rows of a fill. */
const ROW_PULL_MM = 4.2;

/** A column reaches over each of its edges by at most this share of its width, or it would become another shape. */
const MOST_OF_COLUMN = 0.22;

/** A fabric, and the compensation it asks for unless another is set. */
export type Cloth = Pick<StitchSettings, 'fabric' | 'compensationMm'>;

/** What a piece is sewn on: a fabric of its own, as patches are, or the design's. */
export function clothOf(piece: Piece, design: Cloth): Cloth {
  const own = fabricNamed(piece.choices.values['fabric']);
  return own ? { fabric: own, compensationMm: null } : design;
}

/** Compensation of a piece on each side of its stitches, in mm. */
export function compensationOf(piece: Piece, design: Cloth): number {
  const own = piece.choices.values['compensationMm'];
  if (typeof own === 'number') return own;
  const { fabric, compensationMm } = clothOf(piece, design);
  const base = compensationMm ?? fabric.compensationMm;
  const mm = compensationFor(base, piece.family === 'column' ? Math.min(piece.widthMm, ROW_PULL_MM) : ROW_PULL_MM);
  return piece.family === 'column' ? Math.min(mm, piece.widthMm * MOST_OF_COLUMN) : mm;
}

/** Compensation row by row, where the cloth was measured and neither the piece nor the design says another. */
function pullAtOf(piece: Piece, design: Cloth): PullAt | undefined {
  const { fabric, compensationMm } = clothOf(piece, design);
  const { pull } = fabric;
  if (!pull || compensationMm !== null || typeof piece.choices.values['compensationMm'] === 'number') return undefined;
  const most = piece.family === 'column' ? MOST_OF_COLUMN : 0.5;
  return (lengthMm, ux, uy) => Math.max(0, Math.min(measuredPull(pull, lengthMm, ux, uy), lengthMm * most));
}

/** What is sewn below a piece: as chosen, or by its width and the fabric it lies on. */
export function underlayOf(piece: Piece, fabric: Fabric): PieceUnderlay {
  const own = piece.choices.values['underlay'];
  const known = UNDERLAYS.find((underlay) => underlay === own);
  return known ?? underlayFor(piece.family, piece.widthMm, piece.areaMm2, fabric);
}

/** Stitches of one piece. One too small for any row is sewn along its outline. */
export function stitchPiece(piece: Piece, settings: StitchSettings, way: Way, reach: Reach = {}): Points[] {
  const kind = stitchKindOf(piece.kind);
  const rings = ringsOf(piece);
  const shape: SewnShape = {
    rings: reach.rings ?? rings,
    runs: runsOf(piece),
    columns: piece.columns,
    guides: piece.choices.guides,
    ramp: piece.choices.ramp,
    widthMm: piece.widthMm,
    passes: piece.passes,
    middle: piece.anchor,
    reachAt: reach.at,
  };
  const { fabric } = clothOf(piece, settings);
  const ground = {
    fabric,
    compensationMm: compensationOf(piece, settings),
    pullAt: pullAtOf(piece, settings),
    underlay: underlayOf(piece, fabric),
    runStitchMm: settings.runStitchMm,
  };
  const runs = kind.sew(shape, valuesOf(kind, piece.choices.values, settings), ground, way).filter(isSewable);
  // Parts that do not touch, as in pieces put together by hand, are sewn one by one.
  if (runs.length > 1 && kind.family === 'area' && !kind.parted && isWhole(rings)) {
    return [joinAlongOutline(runs, rings, settings.runStitchMm)];
  }
  if (runs.length > 0) return runs;
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
