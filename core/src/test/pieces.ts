import { curveThrough } from '../geometry/curve.js';
import { areaWithin, boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import { NO_CHOICES } from '../pieces/sewn-as.js';
import type { StitchSettings } from '../stitches/generate.js';
import { fabricOf } from '../stitches/fabrics.js';
import { columnsOf } from '../trace/columns.js';
import { deepest, maskOfRings } from '../trace/area-mask.js';

/** A fill of some rings, the outer one first, unless something else is said. */
export function pieceOf(rings: readonly Points[], more: Partial<Piece> = {}): Piece {
  const bounds = boundsOf(rings);
  return {
    id: 'p1',
    origin: 'traced',
    object: 'picture-1',
    role: 'plain',
    stopBefore: false,
    thread: 0,
    colour: 0,
    kind: 'tatami',
    family: 'area',
    outline: rings.map((ring) => curveThrough([...ring, ring[0], ring[1]])),
    chosen: false,
    choices: NO_CHOICES,
    paths: [],
    columns: [],
    passes: 0,
    layer: 0,
    decisions: [],
    partOf: 0,
    widthMm: Math.min(bounds.right - bounds.left, bounds.bottom - bounds.top),
    areaMm2: areaWithin(rings),
    shapeMm2: areaWithin(rings),
    bounds,
    anchor: { x: (bounds.left + bounds.right) / 2, y: (bounds.top + bounds.bottom) / 2 },
    neighbours: [],
    ...more,
  };
}

/** A satin piece of some rings, divided into columns. */
export function satinPieceOf(rings: readonly Points[], more: Partial<Piece> = {}): Piece {
  const mask = maskOfRings(rings, 12);
  const { radius } = deepest(mask);
  return pieceOf(rings, {
    kind: 'satin',
    family: 'column',
    columns: columnsOf(mask, rings).columns,
    widthMm: (2 * radius) / mask.scale,
    ...more,
  });
}

/** A line along a run. */
export function linePieceOf(run: Points, widthMm: number, more: Partial<Piece> = {}): Piece {
  const { left, top, right, bottom } = boundsOf([run]);
  const r = widthMm / 2;
  const ring = [left - r, top - r, right + r, top - r, right + r, bottom + r, left - r, bottom + r];
  return pieceOf([ring], { kind: 'running', family: 'line', widthMm, paths: [curveThrough(run)], ...more });
}

/** Level rows on quilting cotton, without compensation. */
export const PLAIN_STITCHES: StitchSettings = {
  spacingMm: 0.4,
  satinSpacingMm: 0.4,
  fillStitchMm: 3.6,
  runStitchMm: 2.5,
  angle: 0,
  pattern: 'brick',
  corners: 'mitre',
  compensationMm: 0,
  fabric: fabricOf('quilting-cotton'),
};
