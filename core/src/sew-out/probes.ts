import { crossings } from './crossings.js';
import type { Design } from '../design/design.js';
import { direction, distance, type Points } from '../geometry/vector.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import { isMark } from './corner-marks.js';

/** A place at which something of a sewn design is measured: a line across it, read over a band to both sides. */
export interface Probe {
  /** Width along the stitches, length of a column, or the gap between two fields that meet. */
  readonly kind: 'width' | 'length' | 'gap';
  /** Index of the piece. */
  readonly piece: number;
  /** Middle of what is measured, in mm. */
  readonly x: number;
  readonly y: number;
  /** Direction it is measured in. */
  readonly ux: number;
  readonly uy: number;
  /** How long it is as it was drawn; 0 for a gap. */
  readonly drawnMm: number;
  /** Length of the rows whose pull is measured. */
  readonly rowMm: number;
  /** Half of the band it is read over. */
  readonly bandMm: number;
}

/** So much bare cloth is needed beside an edge, to know it as cloth. */
const CLOTH_MM = 0.9;
/** Pieces that lie nearer than this meet. */
const MEETS_MM = 0.15;
/** Columns shorter or more bent than this are not measured. */
const LEAST_COLUMN_MM = 3;
const STRAIGHT = 0.995;
/** Where a column is measured, as shares of its length, and how much of its length each place takes. */
const COLUMN_AT = [0.36, 0.5, 0.64] as const;
const COLUMN_BAND = 0.08;
const FIELD_AT = [0.3, 0.5, 0.7] as const;
const MOST_BAND_MM = 1;
/** Narrower fields say nothing of fills. */
const LEAST_FIELD_MM = 3;

/** All that can be measured on a design once it is sewn: straight columns and fields with bare cloth beside them, and where two fields meet. */
export function probesOf(design: Pick<Design, 'pieces' | 'rowAngles'>): Probe[] {
  const rings = design.pieces.map(ringsOf);
  return design.pieces.flatMap((piece, index) => {
    if (isMark(piece.object) || piece.role !== 'plain') return [];
    if (piece.kind === 'satin') return columnProbes(piece, index, rings);
    if (piece.kind === 'tatami') return fieldProbes(piece, index, design.rowAngles[index], rings);
    return [];
  });
}

function columnProbes(piece: Piece, index: number, rings: readonly Points[][]): Probe[] {
  if (piece.columns.length !== 1 || piece.columns[0].closed) return [];
  const [{ rungs, free }] = piece.columns;
  const count = rungs.length / 4;
  if (count < 8) return [];
  const middle = (k: number): [number, number] => [
    (rungs[k * 4] + rungs[k * 4 + 2]) / 2,
    (rungs[k * 4 + 1] + rungs[k * 4 + 3]) / 2,
  ];
  const [ax, ay] = middle(2);
  const [bx, by] = middle(count - 3);
  const inner = distance(ax, ay, bx, by);
  if (inner < LEAST_COLUMN_MM) return [];
  // Along the column, and across it as its stitches lie.
  const [vx, vy] = [(bx - ax) / inner, (by - ay) / inner];
  const probes: Probe[] = [];
  for (const share of COLUMN_AT) {
    const k = Math.round(share * (count - 1));
    const [x, y] = middle(k);
    const [lx, ly, rx, ry] = rungs.slice(k * 4, k * 4 + 4);
    const width = distance(lx, ly, rx, ry);
    if (width < 0.6) continue;
    const [ux, uy] = [(rx - lx) / width, (ry - ly) / width];
    // A stitch across stands nearly square on a straight column.
    if (Math.abs(ux * vx + uy * vy) > 0.2) continue;
    const found = measuredAcross(rings, index, x, y, ux, uy, width);
    if (found) {
      const bandMm = Math.min(MOST_BAND_MM, COLUMN_BAND * inner);
      probes.push({ kind: 'width', piece: index, ...found, ux, uy, rowMm: found.drawnMm, bandMm });
    }
  }
  const [mx, my] = middle(count >> 1);
  const straight = [0, 1, 2].every((i) => {
    const [px, py] = middle(Math.round(((i + 0.5) / 3) * (count - 1)));
    const [dx, dy] = [px - ax, py - ay];
    const size = Math.sqrt(dx * dx + dy * dy);
    return size < 0.5 || (dx * vx + dy * vy) / size > STRAIGHT;
  });
  if (straight && free?.[0] && free[1]) {
    const found = measuredAcross(rings, index, mx, my, vx, vy, inner);
    const [lx, ly, rx, ry] = rungs.slice((count >> 1) * 4, (count >> 1) * 4 + 4);
    const width = distance(lx, ly, rx, ry);
    if (found) {
      const bandMm = Math.min(MOST_BAND_MM, width * 0.2);
      probes.push({ kind: 'length', piece: index, ...found, ux: vx, uy: vy, rowMm: width, bandMm });
    }
  }
  return probes;
}

function fieldProbes(piece: Piece, index: number, angle: number, rings: readonly Points[][]): Probe[] {
  const { x: ux, y: uy } = direction(angle);
  const { left, top, right, bottom } = piece.bounds;
  const [cx, cy] = [(left + right) / 2, (top + bottom) / 2];
  // How far the piece reaches across its rows.
  let [least, most] = [Infinity, -Infinity];
  for (const ring of rings[index]) {
    for (let i = 0; i < ring.length; i += 2) {
      const v = (ring[i + 1] - cy) * ux - (ring[i] - cx) * uy;
      [least, most] = [Math.min(least, v), Math.max(most, v)];
    }
  }
  const bandMm = Math.min(MOST_BAND_MM, (most - least) * 0.08);
  const probes: Probe[] = [];
  for (const share of FIELD_AT) {
    const v = least + (most - least) * share;
    const [ox, oy] = [cx - v * uy, cy + v * ux];
    const cuts = crossings(rings[index], ox, oy, ux, uy);
    if (cuts.length !== 2) continue;
    const [from, to] = cuts;
    if (to - from < LEAST_FIELD_MM) continue;
    const middle = (from + to) / 2;
    const [x, y] = [ox + ux * middle, oy + uy * middle];
    const found = measuredAcross(rings, index, x, y, ux, uy, to - from);
    if (found) probes.push({ kind: 'width', piece: index, ...found, ux, uy, rowMm: found.drawnMm, bandMm });
    // Where another piece begins at the far edge, the gap between both is measured; the other one sees the near edge.
    const beyond = nearestBeyond(rings, index, ox, oy, ux, uy, to, 1);
    if (beyond < MEETS_MM) {
      probes.push({
        kind: 'gap',
        piece: index,
        x: ox + ux * to,
        y: oy + uy * to,
        ux,
        uy,
        drawnMm: 0,
        rowMm: to - from,
        bandMm,
      });
    }
  }
  return probes;
}

/** The stretch of a piece along a line through one of its places, where there is bare cloth at both ends. */
function measuredAcross(
  rings: readonly Points[][],
  index: number,
  x: number,
  y: number,
  ux: number,
  uy: number,
  aboutMm: number,
): { readonly x: number; readonly y: number; readonly drawnMm: number } | undefined {
  const cuts = crossings(rings[index], x, y, ux, uy);
  const to = cuts.find((t) => t > 0);
  const from = cuts.findLast((t) => t < 0);
  if (to === undefined || from === undefined || to - from > aboutMm * 1.5 + 1) return undefined;
  const free =
    nearestBeyond(rings, index, x, y, ux, uy, to, 1) > CLOTH_MM &&
    nearestBeyond(rings, index, x, y, ux, uy, from, -1) > CLOTH_MM;
  if (!free) return undefined;
  const middle = (from + to) / 2;
  return { x: x + ux * middle, y: y + uy * middle, drawnMm: to - from };
}

/** How far it is along a line from a place of it to the next outline of any piece, or of the piece itself beyond that place. */
function nearestBeyond(
  rings: readonly Points[][],
  index: number,
  x: number,
  y: number,
  ux: number,
  uy: number,
  at: number,
  way: 1 | -1,
): number {
  let nearest = Infinity;
  rings.forEach((own, k) => {
    for (const t of crossings(own, x, y, ux, uy)) {
      const far = (t - at) * way;
      if (far < (k === index ? 1e-6 : -MEETS_MM)) continue;
      nearest = Math.min(nearest, Math.max(0, far));
    }
  });
  return nearest;
}
