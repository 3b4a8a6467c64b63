import { innerRows } from '../picture/inner-rows.js';
import type { Grid } from '../picture/paint-rings.js';
import { boundsOf } from '../geometry/polyline.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import { STITCH, type StitchList } from '../sequence/stitch-list.js';
import type { Fabric } from '../stitches/fabrics.js';
import { clothOf } from '../stitches/generate.js';
import { stitchKindOf } from '../stitches/kinds/index.js';
import { distanceMap } from '../trace/distance-map.js';
import { clustersOver } from './clusters.js';
import { paintStitch } from './paint-stitch.js';
import { pulledTogether } from './pull.js';

/** What the pull of the fabric opens between pieces. */
export interface Gaps {
  /** Length of the borders between pieces, in mm. */
  readonly borderMm: number;
  /** Bare area within a millimetre of them, in mm². */
  readonly bareMm2: number;
  /** Widest gap there, in mm, and where it is. */
  readonly widestMm: number;
  readonly at: { readonly x: number; readonly y: number };
  /** Every gap over a quarter of a millimetre: how wide at its widest, and where; the widest first. */
  readonly gaps: readonly Gap[];
}

export interface Gap {
  readonly widthMm: number;
  /** The lowest of the pieces around it, by its index: what reaches farther under the others closes it. */
  readonly under: number;
  readonly x: number;
  readonly y: number;
}

/** Narrower gaps are not seen. */
const SEEN_MM = 0.25;

const SCALE = 10;
const MOST_PIXELS = 6_000_000;
const NEAR_MM = 1;
const AROUND_MM = 1.2;
const HALF_THREAD_MM = 0.2;

/** Draws the stitches as they will lie after the pull and looks for bare cloth along the borders of pieces. */
export function forecastGaps(
  pieces: readonly Piece[],
  order: readonly number[],
  list: StitchList,
  fabric: Fabric,
): Gaps {
  const box = boundsOf(pieces.map(({ bounds: b }) => [b.left, b.top, b.right, b.bottom]));
  const size = Math.max(1, (box.right - box.left + 2) * (box.bottom - box.top + 2));
  const scale = Math.min(SCALE, Math.sqrt(MOST_PIXELS / size));
  const [left, top] = [box.left - 1, box.top - 1];
  const width = Math.ceil((box.right - left + 1) * scale);
  const height = Math.ceil((box.bottom - top + 1) * scale);
  const grid = { left, top, scale, width, height };
  const owner = paintPieces(pieces, order, grid);
  const border = new Uint8Array(width * height);
  let steps = 0;
  for (let i = 0; i < border.length; i++) {
    const own = owner[i];
    if (own === 0) continue;
    const [beside, below] = [owner[i + 1], owner[i + width]];
    if (beside > 0 && beside !== own) steps += border[i] = 1;
    if (below > 0 && below !== own) steps += border[i] = 1;
  }
  // Steps along pixels overstate slanted borders; pi / 4 is the mean over all directions.
  const borderMm = ((steps / scale) * Math.PI) / 4;
  if (steps === 0) return { borderMm: 0, bareMm2: 0, widestMm: 0, at: { x: 0, y: 0 }, gaps: [] };
  const reach = Math.round(NEAR_MM * scale);
  const near = nearMarks(border, width, reach);
  const cloths = pieces.map((piece) => clothOf(piece, { fabric, compensationMm: null }).fabric);
  const pulled = pulledTogether(list, (piece) => cloths[piece] ?? fabric);
  const thread = paintThreads(pulled, list.command, grid, besideMarks(border, grid, reach + HALF_THREAD_MM * scale));
  const place = new Int32Array(pieces.length);
  order.forEach((index, k) => (place[index] = k));
  const bare = new Uint8Array(width * height);
  let count = 0;
  for (let i = 0; i < bare.length; i++) if (owner[i] > 0 && !thread[i] && near(i)) count += bare[i] = 1;
  const placeOf = (i: number): { x: number; y: number } => ({
    x: left + ((i % width) + 0.5) / scale,
    y: top + (Math.floor(i / width) + 0.5) / scale,
  });
  const found = clustersOver(bare, width, 0)
    .map(({ cells }) => {
      const { depth, cell } = deepest(cells, width);
      return { widthMm: (2 * depth) / scale, under: lowestAround(cell, owner, place, grid), ...placeOf(cell) };
    })
    .sort((a, b) => b.widthMm - a.widthMm);
  const widest = found.at(0);
  return {
    borderMm,
    bareMm2: count / (scale * scale),
    widestMm: widest?.widthMm ?? 0,
    at: widest ? { x: widest.x, y: widest.y } : placeOf(0),
    gaps: found.filter(({ widthMm }) => widthMm > SEEN_MM),
  };
}

/** The piece that is sewn first of those within a millimetre of a cell, and a little more. */
function lowestAround(cell: number, owner: Int32Array, place: Int32Array, { width, scale }: Grid): number {
  const reach = Math.ceil(AROUND_MM * scale);
  let lowest = owner[cell] - 1;
  for (let dy = -reach; dy <= reach; dy++) {
    for (let dx = -reach; dx <= reach; dx++) {
      if (dx * dx + dy * dy > reach * reach) continue;
      const piece = owner[cell + dy * width + dx] - 1;
      if (piece >= 0 && (lowest < 0 || place[piece] < place[lowest])) lowest = piece;
    }
  }
  return lowest;
}

/** Whether a cell lies within a distance of one that is marked, in cells. */
function nearMarks(marks: Uint8Array, width: number, reach: number): (cell: number) => boolean {
  // How far the next mark is along the row; then the rows above and below are asked, for the few cells that matter.
  const along = new Uint8Array(marks.length);
  for (let start = 0; start < marks.length; start += width) {
    let far = 255;
    for (let i = start; i < start + width; i++) {
      far = marks[i] ? 0 : Math.min(255, far + 1);
      along[i] = far;
    }
    far = 255;
    for (let i = start + width - 1; i >= start; i--) {
      far = marks[i] ? 0 : Math.min(255, far + 1);
      if (far < along[i]) along[i] = far;
    }
  }
  return (cell) => {
    for (let dy = -reach; dy <= reach; dy++) {
      const far = along[cell + dy * width];
      if (far * far + dy * dy <= reach * reach) return true;
    }
    return false;
  };
}

/** Whether a stitch is asked for, by its two ends in cells. */
type Asked = (ax: number, ay: number, bx: number, by: number) => boolean;

/** Which stitches may come within a distance of a marked cell: told by squares as wide as that distance, so some that do not are among them. */
function besideMarks(marks: Uint8Array, { width, height }: Grid, reach: number): Asked {
  const side = Math.max(1, Math.ceil(reach));
  const across = Math.ceil(width / side) + 1;
  const down = Math.ceil(height / side) + 1;
  const squares = new Uint8Array(across * down);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      if (!marks[i]) continue;
      const [u, v] = [Math.floor(x / side), Math.floor(y / side)];
      for (let q = Math.max(0, v - 1); q <= v + 1; q++)
        squares.fill(1, q * across + Math.max(0, u - 1), q * across + u + 2);
    }
  }
  return (ax, ay, bx, by) => {
    const [u0, u1] = [Math.floor(Math.min(ax, bx) / side), Math.floor(Math.max(ax, bx) / side)];
    const [v0, v1] = [Math.floor(Math.min(ay, by) / side), Math.floor(Math.max(ay, by) / side)];
    for (let v = Math.max(0, v0); v <= Math.min(down - 1, v1); v++) {
      for (let u = Math.max(0, u0); u <= Math.min(across - 1, u1); u++) if (squares[v * across + u]) return true;
    }
    return false;
  };
}

/** The cell of a cluster that lies deepest inside it, and how deep. */
function deepest(cells: readonly number[], width: number): { readonly depth: number; readonly cell: number } {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const cell of cells) {
    const [x, y] = [cell % width, Math.floor(cell / width)];
    [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
  }
  // With a rim around it.
  const wide = x1 - x0 + 3;
  const mask = new Uint8Array(wide * (y1 - y0 + 3));
  const inBox = (cell: number): number => (Math.floor(cell / width) - y0 + 1) * wide + (cell % width) - x0 + 1;
  for (const cell of cells) mask[inBox(cell)] = 1;
  const far = distanceMap(mask, wide, y1 - y0 + 3);
  const cell = cells.reduce((best, each) => (far[inBox(each)] > far[inBox(best)] ? each : best));
  return { depth: far[inBox(cell)], cell };
}

/** Which piece is on top where, from 1; open kinds are left out, since they show the cloth anyway. */
function paintPieces(pieces: readonly Piece[], order: readonly number[], grid: Grid): Int32Array {
  const owner = new Int32Array(grid.width * grid.height);
  for (const index of order) {
    const piece = pieces[index];
    if (!stitchKindOf(piece.kind).covers && !(piece.family === 'line' && piece.kind === 'running')) continue;
    innerRows(ringsOf(piece), grid, (from, to) => owner.fill(index + 1, from, to));
  }
  return owner;
}

function paintThreads(
  { x, y }: ReturnType<typeof pulledTogether>,
  command: StitchList['command'],
  grid: Grid,
  isAsked: Asked,
): Uint8Array {
  const { left, top, scale } = grid;
  const covered = new Uint8Array(grid.width * grid.height);
  const r = HALF_THREAD_MM * scale;
  for (let i = 1; i < x.length; i++) {
    if (command[i] !== STITCH) continue;
    const [ax, ay, bx, by] = [
      (x[i - 1] - left) * scale,
      (y[i - 1] - top) * scale,
      (x[i] - left) * scale,
      (y[i] - top) * scale,
    ];
    if (isAsked(ax, ay, bx, by)) paintStitch(covered, 1, grid, r, ax, ay, bx, by);
  }
  return covered;
}
